import { letterKinds } from '@larder/core/post/template';
import { z } from 'zod';
import { endpoint, FileAnswer } from './endpoint';
import { Cost, Id, Paging, page, PathId, Search } from './values';

const one = z.object({ id: PathId });
const line = (what: string) =>
  z
    .string()
    .trim()
    .min(1, `Write ${what}.`)
    .max(300)
    .refine((text) => !/[\r\n]/.test(text), 'This is one line.');
const Words = { subject: line('what it is about'), text: z.string().trim().min(1, 'Write the letter.').max(20_000) };
export const LetterForm = z.object({ to: line('whom it goes to').pipe(z.email('Write a mail address such as orders@hexley.example.')), ...Words });
const Template = z.object({ subject: z.string(), text: z.string() });
/** A letter before it is sent, to be looked over and changed, and the template behind it. */
const Unsent = z.object({
  kind: z.enum(letterKinds),
  number: z.string(),
  /** Whom it is about. */
  party: z.string(),
  to: z.string(),
  subject: z.string(),
  text: z.string(),
  template: Template,
});

export const orderLetter = endpoint({
  method: 'GET',
  path: '/api/post/orders/:id',
  summary: 'The letter a purchase order would be sent with, to be looked over and changed, and the template behind it',
  right: 'inbound.order',
  shows: ['purchase', 'letter', 'party'],
  seenBy: 'sites',
  params: one,
  response: Unsent,
});
export const orderPaper = endpoint({
  method: 'GET',
  path: '/api/post/orders/:id/paper',
  summary: 'A purchase order as a PDF',
  right: 'look',
  seenBy: 'sites',
  params: one,
  response: FileAnswer,
  file: 'application/pdf',
});
export const sendOrder = endpoint({
  method: 'POST',
  path: '/api/post/orders/:id',
  summary: 'Send a purchase order to its supplier, with the PDF',
  right: 'inbound.order',
  changes: ['letter', 'purchase'],
  params: one,
  body: LetterForm,
  response: z.object({ id: Id }),
});
export const keepTemplate = endpoint({
  method: 'PUT',
  path: '/api/post/template',
  summary: 'Keep the words that purchase orders are sent with',
  right: 'inbound.order',
  changes: ['letter'],
  body: z.object(Words),
  response: Template,
});

const sale = { right: 'outbound.sell', seenBy: 'sites', params: one } as const;
export const saleLetter = endpoint({
  ...sale,
  method: 'GET',
  path: '/api/post/sales/:id',
  summary: 'The letter a quote, or the confirmation of an order, would be sent with',
  shows: ['sale', 'letter', 'party'],
  response: Unsent,
});
export const salePaper = endpoint({
  method: 'GET',
  path: '/api/post/sales/:id/paper',
  summary: 'A quote, or the confirmation of an order, as a PDF',
  right: 'look',
  seenBy: 'sites',
  params: one,
  response: FileAnswer,
  file: 'application/pdf',
});
export const sendSale = endpoint({
  ...sale,
  method: 'POST',
  path: '/api/post/sales/:id',
  summary: 'Send a quote or a confirmation to its customer, with the PDF',
  changes: ['letter', 'sale'],
  body: LetterForm,
  response: z.object({ id: Id }),
});
export const keepSaleTemplate = endpoint({
  method: 'PUT',
  path: '/api/post/sales-templates/:kind',
  summary: 'Keep the words that quotes or confirmations are sent with',
  right: 'outbound.sell',
  changes: ['letter'],
  params: z.object({ kind: z.enum(['quote', 'confirmation']) }),
  body: z.object(Words),
  response: Template,
});

const invoiced = { right: 'books.invoice', params: one } as const;
export const invoiceLetter = endpoint({
  ...invoiced,
  method: 'GET',
  path: '/api/post/invoices/:id',
  summary: 'The letter an invoice or credit note would be sent with',
  shows: ['invoice', 'letter', 'party'],
  response: Unsent,
});
export const sendInvoice = endpoint({
  ...invoiced,
  method: 'POST',
  path: '/api/post/invoices/:id',
  summary: 'Send an invoice or credit note to its customer, with the PDF; it is handed over with that',
  changes: ['letter', 'invoice'],
  body: LetterForm,
  response: z.object({ id: Id }),
});
export const keepInvoiceTemplate = endpoint({
  method: 'PUT',
  path: '/api/post/invoice-templates/:kind',
  summary: 'Keep the words that invoices or credit notes are sent with',
  right: 'books.invoice',
  changes: ['letter'],
  params: z.object({ kind: z.enum(['invoice', 'credit note']) }),
  body: z.object(Words),
  response: Template,
});

const Letter = z.object({
  id: Id,
  to: z.string(),
  subject: z.string(),
  attached: z.array(z.string()),
  writtenAt: z.string(),
  /** Who wrote it; of what the application tells by itself, nobody. */
  person: z.string().nullable(),
  /** Of what it tells one of us: where one acts on it, and what it says. */
  notice: z.object({ leadsTo: z.string(), text: z.string() }).nullable(),
  /** What a recall says, which tells no prices. */
  recall: z.string(),
  /** What it is about, and its paper. */
  about: z.object({ kind: z.enum(['purchase', 'sale', 'invoice', 'lot']), id: Id, number: z.string() }).nullable(),
  state: z.enum(['waiting', 'sent', 'not sent']),
  /** The mail server that ships with the product has it. */
  delivered: z.boolean(),
  fault: z.string(),
  /** Letters tell prices. */
  text: Cost,
});
export type Letter = z.infer<typeof Letter>;
export const listLetters = endpoint({
  method: 'GET',
  path: '/api/post/letters',
  summary: 'Letters that were written, the last first',
  right: 'look',
  shows: ['letter', 'purchase', 'sale', 'invoice'],
  seenBy: 'sites',
  query: z.object({ q: Search, ...Paging }),
  response: page(Letter),
});
export const letterFile = endpoint({
  method: 'GET',
  path: '/api/post/letters/:id/file',
  summary: 'A letter as it was sent, with what is attached, as .eml',
  right: 'look',
  seenBy: 'sites',
  params: one,
  response: FileAnswer,
  file: 'message/rfc822',
});
const again = { method: 'POST', changes: ['letter'], params: one, response: z.object({ id: Id }) } as const;
export const sendAgain = endpoint({
  ...again,
  path: '/api/post/letters/:id/again',
  summary: 'Try again to send a letter about a purchase order that could not be sent',
  right: 'inbound.order',
});
export const sendSaleAgain = endpoint({
  ...again,
  path: '/api/post/sale-letters/:id/again',
  summary: 'Try again to send a quote or confirmation that could not be sent',
  right: 'outbound.sell',
});
export const sendRecallAgain = endpoint({
  ...again,
  path: '/api/post/recall-letters/:id/again',
  summary: 'Try again to send a letter of a recall that could not be sent',
  right: 'outbound.sell',
});
export const sendNoticeAgain = endpoint({
  ...again,
  path: '/api/post/notices/:id/again',
  summary: 'Try again to send what the application told one of us',
  right: 'setup.edit',
});
export const sendInvoiceAgain = endpoint({
  ...again,
  path: '/api/post/invoice-letters/:id/again',
  summary: 'Try again to send an invoice or credit note that could not be sent',
  right: 'books.invoice',
});
