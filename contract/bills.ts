import { z } from 'zod';
import { endpoint } from './endpoint';
import { CostsByCurrency, inAllOf } from './inAll';
import { Amount, Day, Id, NeededText, Paging, page, PathId, Price, Quantity, Search, ShortText, Text, Currency, CurrencyMoney, Rate } from './values';

const Tax = { taxCodeId: Id.nullable().default(null) };
/** Goods by the line they were ordered on: how many in base units, and the price for as many of the unit ordered as the order says (usually one). A credit takes `amount` off what they cost. */
const GoodsLine = z.object({ kind: z.literal('goods'), purchaseLineId: Id, quantity: Quantity, price: Price, ...Tax });
const CreditLine = z.object({ kind: z.literal('credit'), purchaseLineId: Id, amount: CurrencyMoney, ...Tax });
const ChargeLine = z.object({ kind: z.literal('charge'), chargeId: Id, amount: CurrencyMoney, final: z.boolean().default(false), ...Tax });
/** What a carrier asks for a parcel: nothing more is to come for it. */
const ParcelLine = z.object({ kind: z.literal('parcel'), parcelId: Id, amount: CurrencyMoney, ...Tax });
const OtherLine = z.object({ kind: z.literal('other'), text: NeededText, accountId: Id, amount: CurrencyMoney, ...Tax });
export const BillForm = z.object({
  kind: z.enum(['bill', 'credit']).default('bill'),
  partyId: Id,
  reference: NeededText,
  billedOn: Day,
  dueOn: Day.nullable().default(null),
  currency: Currency.optional(),
  rate: Rate.default('1'),
  note: Text.default(''),
  lines: z
    .array(z.discriminatedUnion('kind', [GoodsLine, CreditLine, ChargeLine, ParcelLine, OtherLine]))
    .min(1, 'A bill needs at least one line.')
    .max(500, 'At most 500 lines.'),
  /** The person has said that this number of theirs is right although it was used before. */
  knownReference: z.boolean().default(false),
  /** The person has said that the bill shall wait for goods that have not come. */
  waits: z.boolean().default(false),
  /** The person has said that goods that came and went back are billed too; a credit is then expected for them. */
  sentBack: z.boolean().default(false),
});
export type BillForm = z.input<typeof BillForm>;

/** What a posting does to the accounts, debit above zero, and the same in words. */
export const BookEffects = z.object({
  entry: z.array(z.object({ accountId: Id, code: z.string(), name: z.string(), amount: Amount })),
  words: z.array(z.string()),
});
export type BookEffects = z.infer<typeof BookEffects>;

const BillLine = z.object({
  kind: z.enum(['goods', 'credit', 'charge', 'parcel', 'other']),
  text: z.string(),
  quantity: Amount.nullable(),
  amount: Amount,
  cleared: Amount,
  difference: Amount,
  toStock: Amount,
  words: z.string(),
});
const BillRow = z.object({
  id: Id,
  number: z.string(),
  kind: z.enum(['bill', 'credit']),
  partyId: Id,
  party: z.string(),
  reference: z.string(),
  billedOn: Day,
  dueOn: Day.nullable(),
  currency: z.string(),
  total: Amount,
  open: Amount,
  state: z.enum(['waiting', 'open', 'part paid', 'paid', 'undone']),
  late: z.boolean(),
});
export type BillRow = z.infer<typeof BillRow>;
const Bill = BillRow.extend({
  rate: Amount,
  net: Amount,
  tax: Amount,
  owed: Amount,
  /** The day it was booked on; null while it waits. */
  bookedOn: Day.nullable(),
  note: z.string(),
  lines: z.array(BillLine),
  payments: z.array(z.object({ id: Id, paidOn: Day, amount: Amount, exchange: Amount, note: z.string(), undone: z.boolean() })),
  ...BookEffects.shape,
});
export type Bill = z.infer<typeof Bill>;
const BillPosted = z.object({
  id: Id.nullable(),
  number: z.string().nullable(),
  net: Amount,
  tax: Amount,
  owed: Amount,
  bookedOn: Day,
  lines: z.array(BillLine),
  ...BookEffects.shape,
});
export type BillPosted = z.infer<typeof BillPosted>;

const one = { params: z.object({ id: PathId }) };
export const listBills = endpoint({
  method: 'GET',
  path: '/api/bills',
  summary: 'Bills by number, their own number, party, amount or day',
  right: 'costs.see',
  shows: ['bill', 'party'],
  query: z.object({ q: Search, show: z.enum(['open', 'waiting', 'all']).default('open'), partyId: PathId.optional(), ...Paging }),
  response: page(BillRow),
});
export const billsInAll = inAllOf(listBills, { open: CostsByCurrency });
export const getBill = endpoint({
  method: 'GET',
  path: '/api/bills/:id',
  summary: 'One bill',
  right: 'costs.see',
  shows: ['bill', 'purchase', 'landed', 'party'],
  ...one,
  response: Bill,
});

const BillableLine = z.object({
  purchaseLineId: Id,
  orderId: Id,
  orderNumber: z.string(),
  position: z.number(),
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  /** Base units in one of the unit ordered. */
  factor: Amount,
  ordered: Amount,
  /** Net of what went back, and what went back. */
  received: Amount,
  returned: Amount,
  billed: Amount,
  /** For so many of the unit ordered. */
  price: Amount,
  pricePer: Amount,
  taxCodeId: Id.nullable(),
  currency: z.string(),
  rate: Amount,
});
export type BillableLine = z.infer<typeof BillableLine>;
export const OpenCharge = z.object({
  id: Id,
  sheetId: Id,
  sheet: z.string(),
  name: z.string(),
  partyId: Id.nullable(),
  party: z.string().nullable(),
  deliveries: z.string(),
  estimate: Amount,
  cleared: Amount,
  open: Amount,
  since: Day,
});
export type OpenCharge = z.infer<typeof OpenCharge>;
export const billable = endpoint({
  method: 'GET',
  path: '/api/bills/billable',
  summary: 'What a party can still bill: goods ordered from them, and open estimates of charges',
  right: 'costs.see',
  shows: ['bill', 'purchase', 'landed'],
  query: z.object({ partyId: PathId }),
  response: z.object({ lines: z.array(BillableLine), charges: z.array(OpenCharge) }),
});
export const createBill = endpoint({
  method: 'POST',
  path: '/api/bills',
  summary: 'Enter a bill or a credit and post it, or let it wait for its goods',
  right: 'books.bill',
  changes: ['bill', 'purchase', 'landed', 'parcel', 'journal', 'handover', 'stock', 'item', 'party'],
  posts: true,
  body: BillForm,
  response: BillPosted,
});
export const postBill = endpoint({
  method: 'POST',
  path: '/api/bills/:id/post',
  summary: 'Post a bill that waited for its goods',
  right: 'books.bill',
  changes: ['bill', 'purchase', 'landed', 'parcel', 'journal', 'handover', 'stock', 'item', 'party'],
  posts: true,
  ...one,
  body: z.object({ sentBack: z.boolean().default(false) }),
  response: BillPosted,
});
export const undoBill = endpoint({
  method: 'POST',
  path: '/api/bills/:id/undo',
  summary: 'Undo a bill that nothing was paid on',
  right: 'books.bill',
  changes: ['bill', 'purchase', 'landed', 'parcel', 'journal', 'handover', 'stock', 'item', 'party'],
  posts: true,
  ...one,
  body: z.object({}),
  response: BookEffects,
});
export const pay = endpoint({
  method: 'POST',
  path: '/api/bills/:id/payments',
  summary: 'Record a payment of a bill',
  right: 'books.pay',
  changes: ['bill', 'purchase', 'landed', 'parcel', 'journal', 'handover', 'stock', 'item', 'party'],
  posts: true,
  ...one,
  body: z.object({
    paidOn: Day,
    amount: CurrencyMoney,
    rate: Rate.optional(),
    note: ShortText.default(''),
    /** The person has said that paying more than is owed is right. */
    over: z.boolean().default(false),
  }),
  /** No payment where it was only foreseen. */
  response: BookEffects.extend({ paymentId: Id.nullable() }),
});
export const undoPayment = endpoint({
  method: 'POST',
  path: '/api/bills/payments/:id/undo',
  summary: 'Undo a payment',
  right: 'books.pay',
  changes: ['bill', 'purchase', 'landed', 'parcel', 'journal', 'handover', 'stock', 'item', 'party'],
  posts: true,
  ...one,
  body: z.object({}),
  response: BookEffects,
});
