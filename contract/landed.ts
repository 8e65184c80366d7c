import { spreadWays } from '@larder/core/costing/landed';
import { z } from 'zod';
import { BookEffects, OpenCharge } from './bills';
import { endpoint } from './endpoint';
import { moved } from './nouns';
import { Amount, Day, Id, NeededText, PathId, QuantityOrZero, Search, Text, Version, Currency, CurrencyMoney, Rate, Typed } from './values';

const Charge = z.object({
  id: Id.optional(),
  name: NeededText,
  by: z.enum(spreadWays),
  amount: CurrencyMoney,
  currency: Currency.optional(),
  rate: Rate.default('1'),
  /** Who bills it; nobody yet when that is not known. */
  partyId: Id.nullable().default(null),
  /** Receipt lines it does not fall on. */
  leftOut: z.array(Id).max(2000).default([]),
  /** For a charge spread by typed parts: the part of each receipt line. */
  typed: z
    .array(z.object({ lineId: Id, part: QuantityOrZero }))
    .max(2000)
    .default([]),
});
export const LandedForm = z.object({
  movementIds: z.array(Id).min(1, 'Choose at least one receipt.').max(20, 'At most 20 receipts on one worksheet.'),
  note: Text.default(''),
  charges: z.array(Charge).min(1, 'Add at least one charge.').max(30, 'At most 30 charges.'),
});
export type LandedForm = z.input<typeof LandedForm>;

const LandedLine = z.object({
  lineId: Id,
  movementId: Id,
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  /** Code of the lot or serial; null where none are kept. */
  lot: z.string().nullable(),
  unit: z.string(),
  supplier: z.string(),
  orderNumber: z.string().nullable(),
  /** What it brought, net of what had gone back when the worksheet was made. */
  quantity: Amount,
  /** Of that, in company currency: as ordered, and as billed so far. */
  value: Amount,
  billedDifference: Amount,
  /** Of one, in kilograms and cubic metres; null when the item says nothing. */
  weight: Amount.nullable(),
  volume: Amount.nullable(),
  /** Which part is still here, 0 to 1. */
  here: Amount,
});
export type LandedLine = z.infer<typeof LandedLine>;
const OrderedCharge = z.object({ name: z.string(), amount: Amount, currency: z.string(), rate: Amount, partyId: Id, party: z.string() });
export type OrderedCharge = z.infer<typeof OrderedCharge>;
const Receipt = z.object({
  movementId: Id,
  day: Day,
  supplier: z.string(),
  orders: z.string(),
  note: z.string(),
  lines: z.number(),
  value: Amount,
  sheets: z.array(z.object({ id: Id, number: z.string() })),
});
export type Receipt = z.infer<typeof Receipt>;
const Sheet = z.object({
  id: Id,
  number: z.string(),
  version: Version,
  note: z.string(),
  undone: z.boolean(),
  createdAt: z.string(),
  movementIds: z.array(Id),
  lines: z.array(LandedLine),
  charges: z.array(
    z.object({
      id: Id,
      name: z.string(),
      by: z.enum(spreadWays),
      amount: Amount,
      currency: z.string(),
      rate: Amount,
      partyId: Id.nullable(),
      party: z.string().nullable(),
      estimate: Amount,
      cleared: Amount,
      billed: z.boolean(),
      leftOut: z.array(Id),
      typed: z.array(z.object({ lineId: Id, part: Amount })),
      toStock: Amount,
    }),
  ),
});
export type Sheet = z.infer<typeof Sheet>;
export const LandedPosted = z.object({ id: Id.nullable(), number: z.string().nullable(), toStock: Amount, toSold: Amount, ...BookEffects.shape });
export type LandedPosted = z.infer<typeof LandedPosted>;

export const receipts = endpoint({
  method: 'GET',
  path: '/api/landed/receipts',
  summary: 'Receipts that charges can be spread over, newest first',
  right: 'costs.see',
  shows: ['landed', 'stock', 'purchase'],
  query: z.object({ q: Search }),
  response: z.object({ rows: z.array(Receipt) }),
});
export const receiptLines = endpoint({
  method: 'GET',
  path: '/api/landed/lines',
  summary: 'The lines of chosen receipts, with what each is measured by',
  right: 'costs.see',
  shows: ['landed', 'stock', 'item', 'purchase', 'bill'],
  query: z.object({ movementIds: z.string().regex(/^\d{1,9}(,\d{1,9}){0,19}$/, 'Give at most 20 receipts.') }),
  response: z.object({ rows: z.array(LandedLine), charges: z.array(OrderedCharge) }),
});
export const listSheets = endpoint({
  method: 'GET',
  path: '/api/landed/sheets',
  summary: 'Landed cost worksheets, newest first',
  right: 'costs.see',
  shows: ['landed', 'bill'],
  query: z.object({ q: Search }),
  response: z.object({
    rows: z.array(
      z.object({
        id: Id,
        number: z.string(),
        createdAt: z.string(),
        deliveries: z.string(),
        charges: z.string(),
        estimate: Amount,
        open: Amount,
        undone: z.boolean(),
      }),
    ),
  }),
});
export const getSheet = endpoint({
  method: 'GET',
  path: '/api/landed/sheets/:id',
  summary: 'One worksheet',
  right: 'costs.see',
  shows: ['landed', 'bill', 'stock', 'item'],
  params: z.object({ id: PathId }),
  response: Sheet,
});
export const createSheet = endpoint({
  method: 'POST',
  path: '/api/landed/sheets',
  summary: 'Spread charges over receipts and post the estimate',
  right: 'books.bill',
  changes: moved,
  posts: true,
  body: LandedForm,
  response: LandedPosted,
});
export const editSheet = endpoint({
  method: 'PUT',
  path: '/api/landed/sheets/:id',
  summary: 'Change a worksheet; the difference is posted',
  right: 'books.bill',
  changes: moved,
  posts: true,
  params: z.object({ id: PathId }),
  body: LandedForm.extend({ version: Version }),
  response: LandedPosted,
});
export const undoSheet = endpoint({
  method: 'POST',
  path: '/api/landed/sheets/:id/undo',
  summary: 'Undo a worksheet none of whose charges was billed',
  right: 'books.bill',
  changes: moved,
  posts: true,
  params: z.object({ id: PathId }),
  body: z.object({}),
  response: LandedPosted,
});
export const clearing = endpoint({
  method: 'GET',
  path: '/api/landed/clearing',
  summary: 'Open estimates by delivery and charge, and the balance of the account they make up',
  right: 'costs.see',
  shows: ['landed', 'bill'],
  response: z.object({ rows: z.array(OpenCharge), balance: Amount }),
});
const Measure = Typed('measure').refine((text) => Number(text) > 0, 'It must be more than zero.');
export const measureItem = endpoint({
  method: 'POST',
  path: '/api/landed/measures',
  summary: 'Keep the weight or the size of an item that a charge is spread by',
  right: 'items.edit',
  changes: ['landed', 'item'],
  body: z.object({ itemId: Id, weightKg: Measure.optional(), sizeCm: z.tuple([Measure, Measure, Measure]).optional() }),
  response: z.object({ itemId: Id }),
});
