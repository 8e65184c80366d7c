import { agesOfDebt } from '@larder/core/books/payment';
import { z } from 'zod';
import { BookEffects } from './bills';
import { endpoint, FileAnswer } from './endpoint';
import { ByCurrency, inAllOf } from './inAll';
import type { Noun } from './nouns';
import { Amount, CurrencyMoney, Day, Id, IdList, NeededText, Paging, page, PathId, Quantity, Rate, Search, ShortText, Text, Typed } from './values';

/** Sums in the currencies that rows are in; what customers owe is no secret of cost. */
const changed: readonly Noun[] = ['invoice', 'sale', 'journal', 'handover', 'party'];
const one = { params: z.object({ id: PathId }) };

const Tax = { taxCodeId: Id.nullable().default(null) };
const noLines = 'Choose at least one dispatch.';
/** What went out for an order with one movement. */
const Dispatch = z.object({ orderId: Id, movementId: Id });

export const InvoiceForm = z.object({
  /** What it is for: everything of these that is on no invoice yet. All of one customer, in one currency. */
  dispatches: z.array(Dispatch).min(1, noLines).max(500, 'At most 500 dispatches.'),
  invoicedOn: Day,
  /** Null: as many days on as the customer has to pay in. */
  dueOn: Day.nullable().default(null),
  /** Of the company's currency for one of the invoice's; null: as ordered. */
  rate: Rate.nullable().default(null),
  reference: ShortText.default(''),
  /** Null: as the business says on its papers. */
  opening: Text.nullable().default(null),
  closing: Text.nullable().default(null),
  /** Other words for a line than the item's own. */
  texts: z
    .array(z.object({ salesLineId: Id, text: NeededText }))
    .max(500)
    .default([]),
  /** What is charged for shipments; null: as it was said when they went out. */
  freight: z
    .array(z.object({ shipmentId: Id, amount: CurrencyMoney, ...Tax }))
    .max(500)
    .nullable()
    .default(null),
  /** What else is charged, in words. */
  others: z
    .array(z.object({ text: NeededText, accountId: Id.nullable().default(null), amount: CurrencyMoney, ...Tax }))
    .max(100)
    .default([]),
});
export type InvoiceForm = z.input<typeof InvoiceForm>;

const InvoiceLine = z.object({
  kind: z.enum(['goods', 'freight', 'other']),
  salesLineId: Id.nullable(),
  shipmentId: Id.nullable(),
  order: z.string(),
  sku: z.string(),
  text: z.string(),
  /** Base units. */
  quantity: Amount.nullable(),
  unit: z.string(),
  /** In the unit that was ordered, with its price and what was taken off it, in words. */
  asOrdered: z.string(),
  price: z.string(),
  discount: z.string(),
  lots: z.array(z.string()),
  taxCodeId: Id.nullable(),
  /** Per cent. */
  taxRate: Amount,
  amount: Amount,
});
export type InvoiceLine = z.infer<typeof InvoiceLine>;
const Totals = {
  currency: z.string(),
  net: Amount,
  tax: Amount,
  total: Amount,
  taxes: z.array(z.object({ rate: Amount, base: Amount, tax: Amount })),
};
const InvoicePosted = z.object({
  /** Null while it is only foreseen. */
  id: Id.nullable(),
  number: z.string().nullable(),
  dueOn: Day,
  lines: z.array(InvoiceLine),
  ...Totals,
  ...BookEffects.shape,
});
export type InvoicePosted = z.infer<typeof InvoicePosted>;

export const invoiceStates = ['open', 'part paid', 'paid', 'credited', 'to pay back', 'credit note'] as const;
const InvoiceRow = z.object({
  id: Id,
  number: z.string(),
  kind: z.enum(['invoice', 'credit']),
  partyId: Id,
  party: z.string(),
  orders: z.string(),
  reference: z.string(),
  invoicedOn: Day,
  dueOn: Day,
  currency: z.string(),
  total: Amount,
  /** What credit notes took off it, what was paid of it, and what is left; below zero: to be paid back. */
  credited: Amount,
  paid: Amount,
  open: Amount,
  state: z.enum(invoiceStates),
  late: z.boolean(),
  handedOver: z.boolean(),
});
export type InvoiceRow = z.infer<typeof InvoiceRow>;

export const listInvoices = endpoint({
  method: 'GET',
  path: '/api/invoices',
  summary: 'Invoices and credit notes by number, customer, order, amount or day',
  right: 'books.invoice',
  shows: ['invoice', 'party'],
  query: z.object({
    q: Search,
    show: z.enum(['open', 'late', 'all']).default('open'),
    partyId: PathId.optional(),
    orderId: PathId.optional(),
    ...Paging,
  }),
  response: page(InvoiceRow),
});
export const invoicesInAll = inAllOf(listInvoices, { open: ByCurrency });

const Credited = z.object({
  id: Id,
  /** Left to credit: base units, and the amount. */
  quantity: Amount.nullable(),
  amount: Amount,
});
const Invoice = InvoiceRow.extend({
  address: z.string(),
  rate: Amount,
  opening: z.string(),
  closing: z.string(),
  handedOverAt: z.string().nullable(),
  email: z.string(),
  lines: z.array(InvoiceLine.extend({ id: Id, left: Credited.omit({ id: true }) })),
  orderRefs: z.array(z.object({ id: Id, number: z.string() })),
  credits: z.object({ id: Id, number: z.string() }).nullable(),
  creditNotes: z.array(z.object({ id: Id, number: z.string(), invoicedOn: Day, total: Amount })),
  payments: z.array(z.object({ id: Id, paidOn: Day, amount: Amount, exchange: Amount, note: z.string(), undone: z.boolean(), others: z.array(z.string()) })),
  ...Totals,
  ...BookEffects.shape,
});
export type Invoice = z.infer<typeof Invoice>;
export const getInvoice = endpoint({
  method: 'GET',
  path: '/api/invoices/:id',
  summary: 'One invoice or credit note',
  right: 'books.invoice',
  shows: ['invoice', 'sale', 'party'],
  ...one,
  response: Invoice,
});
export const invoicePaper = endpoint({
  method: 'GET',
  path: '/api/invoices/:id/paper',
  summary: 'An invoice or credit note as a PDF',
  right: 'books.invoice',
  ...one,
  response: FileAnswer,
  file: 'application/pdf',
});

const OpenDispatch = Dispatch.extend({ dispatchedOn: Day, lines: z.number(), straight: z.boolean() });
const ToInvoiceRow = z.object({
  orderId: Id,
  number: z.string(),
  customerId: Id,
  customer: z.string(),
  reference: z.string(),
  since: Day,
  lines: z.number(),
  currency: z.string(),
  /** Before tax: goods, and what is charged for shipments. */
  amount: Amount,
  dispatches: z.array(OpenDispatch),
});
export type ToInvoiceRow = z.infer<typeof ToInvoiceRow>;
export const listToInvoice = endpoint({
  method: 'GET',
  path: '/api/invoices/to-invoice',
  summary: 'Orders of which something went out that is on no invoice yet, the oldest first',
  right: 'books.invoice',
  shows: ['invoice', 'sale', 'party'],
  query: z.object({ q: Search, customerId: PathId.optional(), ...Paging }),
  response: page(ToInvoiceRow),
});
export const toInvoiceInAll = inAllOf(listToInvoice, { amount: ByCurrency });
export const proposeInvoice = endpoint({
  method: 'GET',
  path: '/api/invoices/proposal',
  summary: 'What an invoice for orders would begin with: whom it goes to, its dates and words, what went out, and what is charged for shipments',
  right: 'books.invoice',
  shows: ['invoice', 'sale', 'party', 'setting'],
  query: z.object({ orders: IdList }),
  response: z.object({
    partyId: Id.nullable(),
    party: z.string(),
    address: z.string(),
    currency: z.string(),
    rate: Amount,
    reference: z.string(),
    payDays: z.number(),
    opening: z.string(),
    closing: z.string(),
    orders: z.array(z.object({ id: Id, number: z.string() })),
    dispatches: z.array(OpenDispatch.extend({ order: z.string() })),
    freight: z.array(z.object({ shipmentId: Id, number: z.string(), movementId: Id, amount: Amount })),
    /** What freight is taxed with: as most of the goods are. */
    taxCodeId: Id.nullable(),
  }),
});
export const createInvoice = endpoint({
  method: 'POST',
  path: '/api/invoices',
  summary: 'Issue an invoice for what went out',
  right: 'books.invoice',
  changes: changed,
  posts: true,
  body: InvoiceForm,
  response: InvoicePosted,
});
export const createInvoices = endpoint({
  method: 'POST',
  path: '/api/invoices/several',
  summary: 'Issue invoices for all that went out of several orders: one for each customer, order or dispatch',
  right: 'books.invoice',
  changes: changed,
  posts: true,
  body: z.object({
    orderIds: z.array(Id).min(1, 'Choose at least one order.').max(200, 'At most 200 orders at once.'),
    each: z.enum(['customer', 'order', 'dispatch']),
    invoicedOn: Day,
  }),
  response: z.object({
    invoices: z.array(z.object({ id: Id.nullable(), number: z.string().nullable(), party: z.string(), currency: z.string(), total: Amount })),
    ...BookEffects.shape,
  }),
});
export const creditInvoice = endpoint({
  method: 'POST',
  path: '/api/invoices/:id/credit',
  summary: 'Issue a credit note on an invoice: so many of a line, or an amount off it',
  right: 'books.invoice',
  changes: changed,
  posts: true,
  ...one,
  body: z.object({
    invoicedOn: Day,
    /** Why, as it stands on the credit note. */
    opening: Text.default(''),
    closing: Text.default(''),
    lines: z
      .array(z.object({ lineId: Id, quantity: Quantity.nullable().default(null), amount: CurrencyMoney.nullable().default(null) }))
      .min(1, 'Say what is credited.')
      .max(500),
  }),
  response: InvoicePosted,
});
export const handOverInvoice = endpoint({
  method: 'POST',
  path: '/api/invoices/:id/handed-over',
  summary: 'Note that an invoice was handed over without mail, or that it was not',
  right: 'books.invoice',
  changes: ['invoice'],
  ...one,
  body: z.object({ handedOver: z.boolean() }),
  response: z.object({}),
});

/** Above zero: for it; below zero: back from it. */
const SignedMoney = Typed('signedAmount').refine((text) => Number(text) !== 0, 'Give an amount other than zero.');
export const recordMoney = endpoint({
  method: 'POST',
  path: '/api/invoices/money',
  summary: 'Record what a customer paid, was paid back, or what is moved from one invoice to another',
  right: 'books.pay',
  changes: changed,
  posts: true,
  body: z.object({
    paidOn: Day,
    /** Null: that of each invoice. */
    rate: Rate.nullable().default(null),
    note: ShortText.default(''),
    parts: z
      .array(z.object({ invoiceId: Id, amount: SignedMoney }))
      .min(1, 'Say which invoice it is for.')
      .max(200),
    /** The person has said that paying more than is owed is right. */
    over: z.boolean().default(false),
  }),
  /** No payment where it was only foreseen. */
  response: BookEffects.extend({ moneyId: Id.nullable() }),
});
export const undoMoney = endpoint({
  method: 'POST',
  path: '/api/invoices/money/:id/undo',
  summary: 'Undo a payment of a customer',
  right: 'books.pay',
  changes: changed,
  posts: true,
  ...one,
  body: z.object({}),
  response: BookEffects,
});

const Debtor = z.object({
  partyId: Id,
  party: z.string(),
  currency: z.string(),
  invoices: z.number(),
  open: Amount,
  ages: z.object(Object.fromEntries(agesOfDebt.map((age) => [age, Amount])) as Record<(typeof agesOfDebt)[number], typeof Amount>),
  /** The day on which the first of what is open was or is due. */
  firstDueOn: Day,
});
export type Debtor = z.infer<typeof Debtor>;
export const listDebtors = endpoint({
  method: 'GET',
  path: '/api/invoices/debtors',
  summary: 'What each customer owes, and since when it is due',
  right: 'books.invoice',
  shows: ['invoice', 'party'],
  query: z.object({ q: Search, ...Paging }),
  response: page(Debtor),
});
export const debtorsInAll = inAllOf(listDebtors, { open: ByCurrency });

const statementOf = z.object({ partyId: PathId, currency: z.string().optional(), from: Day.optional(), to: Day.optional() });
const StatementRow = z.object({
  day: Day,
  kind: z.enum(['invoice', 'credit', 'money']),
  /** Of the invoice or credit note. */
  id: Id.nullable(),
  text: z.string(),
  amount: Amount,
  balance: Amount,
});
const Statement = z.object({
  partyId: Id,
  party: z.string(),
  currency: z.string(),
  /** Those that the customer has been invoiced in. */
  currencies: z.array(z.string()),
  from: Day,
  to: Day,
  before: Amount,
  rows: z.array(StatementRow),
  balance: Amount,
  open: z.array(z.object({ id: Id, number: z.string(), dueOn: Day, late: z.boolean(), total: Amount, open: Amount })),
});
export type Statement = z.infer<typeof Statement>;
export const getStatement = endpoint({
  method: 'GET',
  path: '/api/invoices/statement',
  summary: 'The account of a customer between two days: what was invoiced, credited and paid, and what it stands at',
  right: 'books.invoice',
  shows: ['invoice', 'party'],
  query: statementOf,
  response: Statement,
});
export const statementPaper = endpoint({
  method: 'GET',
  path: '/api/invoices/statement/paper',
  summary: 'The account of a customer as a PDF',
  right: 'books.invoice',
  query: statementOf,
  response: FileAnswer,
  file: 'application/pdf',
});
