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

export const orderLetter = endpoint({
  method: 'GET',
  path: '/api/post/orders/:id',
  summary: 'The letter a purchase order would be sent with, to be looked over and changed, and the template behind it',
  right: 'inbound.order',
  shows: ['purchase', 'letter', 'party'],
  seenBy: 'sites',
  params: one,
  response: z.object({ number: z.string(), supplier: z.string(), to: z.string(), subject: z.string(), text: z.string(), template: Template }),
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

const Letter = z.object({
  id: Id,
  to: z.string(),
  subject: z.string(),
  attached: z.array(z.string()),
  writtenAt: z.string(),
  person: z.string(),
  orderId: Id.nullable(),
  order: z.string().nullable(),
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
  shows: ['letter', 'purchase'],
  seenBy: 'sites',
  query: z.object({ q: Search, orderId: PathId.optional(), ...Paging }),
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
export const sendAgain = endpoint({
  method: 'POST',
  path: '/api/post/letters/:id/again',
  summary: 'Try again to send a letter that could not be sent',
  right: 'inbound.order',
  changes: ['letter'],
  params: one,
  response: z.object({ id: Id }),
});
