import { z } from 'zod';
import { endpoint } from './endpoint';
import {
  Amount,
  Day,
  Id,
  IncomingLines,
  ItemCodes,
  LotEntry,
  OrderLine,
  Paging,
  page,
  PathId,
  Posted,
  Quantity,
  Search,
  ShortText,
  Stage,
  Text,
  Version,
} from './values';

export const PurchaseForm = z.object({
  supplierId: Id,
  siteId: Id,
  expectedOn: Day.nullable().default(null),
  note: Text.default(''),
  lines: z.array(OrderLine).min(1, 'An order needs at least one line.').max(500, 'At most 500 lines.'),
});
export type PurchaseForm = z.infer<typeof PurchaseForm>;

const PurchaseRow = z.object({
  id: Id,
  number: z.string(),
  supplierId: Id,
  supplier: z.string(),
  siteId: Id,
  site: z.string(),
  expectedOn: Day.nullable(),
  state: z.string(),
  ordered: Amount,
  received: Amount,
  lines: z.number(),
  amount: Amount,
  late: z.boolean(),
  createdAt: z.string(),
});
export type PurchaseRow = z.infer<typeof PurchaseRow>;
const MovementRef = z.object({
  id: Id,
  kind: z.string(),
  postedAt: z.string(),
  person: z.string(),
  quantity: Amount,
  value: Amount,
  undone: z.boolean(),
  undoes: z.boolean(),
});
export type MovementRef = z.infer<typeof MovementRef>;
const PurchaseOrder = PurchaseRow.omit({ lines: true }).extend({
  version: Version,
  note: z.string(),
  currency: z.string(),
  placedAt: z.string().nullable(),
  stages: z.array(Stage),
  canEdit: z.boolean(),
  open: z.boolean(),
  lines: z.array(
    z.object({
      id: Id,
      position: z.number(),
      itemId: Id,
      sku: z.string(),
      name: z.string(),
      unit: z.string(),
      unitId: Id.nullable(),
      step: z.string(),
      supplierCode: z.string(),
      quantity: Amount,
      /** In the base unit, like what is received. */
      baseQuantity: Amount,
      price: Amount,
      amount: Amount,
      received: Amount,
      outstanding: Amount,
    }),
  ),
  movements: z.array(MovementRef),
});
export type PurchaseOrder = z.infer<typeof PurchaseOrder>;

const one = z.object({ id: PathId });
export const listPurchases = endpoint({
  method: 'GET',
  path: '/api/inbound/orders',
  summary: 'Purchase orders, the open ones first',
  right: 'look',
  query: z.object({ q: Search, show: z.enum(['open', 'drafts', 'all']).default('open'), siteId: PathId.optional(), ...Paging }),
  response: page(PurchaseRow),
});
export const getPurchase = endpoint({
  method: 'GET',
  path: '/api/inbound/orders/:id',
  summary: 'One purchase order',
  right: 'look',
  params: one,
  response: PurchaseOrder,
});
export const createPurchase = endpoint({
  method: 'POST',
  path: '/api/inbound/orders',
  summary: 'Write a purchase order as a draft',
  right: 'inbound.order',
  body: PurchaseForm,
  response: PurchaseOrder,
});
export const editPurchase = endpoint({
  method: 'PUT',
  path: '/api/inbound/orders/:id',
  summary: 'Change a draft',
  right: 'inbound.order',
  params: one,
  body: PurchaseForm.extend({ version: Version }),
  response: PurchaseOrder,
});
export const decidePurchase = endpoint({
  method: 'POST',
  path: '/api/inbound/orders/:id/decision',
  summary: 'Place, cancel or close short a purchase order',
  right: 'inbound.order',
  params: one,
  body: z.object({ decision: z.enum(['place', 'cancel', 'close']), version: Version }),
  response: PurchaseOrder,
});

const DeskLine = z.object({
  lineId: Id,
  orderId: Id,
  orderNumber: z.string(),
  supplier: z.string(),
  siteId: Id,
  site: z.string(),
  expectedOn: Day.nullable(),
  position: z.number(),
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  step: z.string(),
  outstanding: Amount,
  tracking: z.enum(['none', 'lot', 'serial']),
  binId: Id.nullable(),
  bin: z.string().nullable(),
  codes: ItemCodes,
  short: Amount,
});
export type DeskLine = z.infer<typeof DeskLine>;
export const receivingDesk = endpoint({
  method: 'GET',
  path: '/api/inbound/desk',
  summary: 'Every open line that still wants goods, with the codes that mean it and the bin proposed',
  right: 'look',
  query: z.object({ siteId: PathId.optional() }),
  response: z.object({ rows: z.array(DeskLine) }),
});
export const ReceiptForm = z.object({
  lines: z
    .array(z.object({ lineId: Id, quantity: Quantity, binId: Id, lots: z.array(LotEntry).max(5000).default([]) }))
    .min(1, 'Scan or type what came in first.')
    .max(500, 'At most 500 lines at once.'),
  packingNote: ShortText.default(''),
  effectiveOn: Day.optional(),
  /** The person has said that more than ordered is right. */
  overReceipt: z.boolean().default(false),
});
export type ReceiptForm = z.infer<typeof ReceiptForm>;
export const receive = endpoint({
  method: 'POST',
  path: '/api/inbound/receipts',
  summary: 'Receive goods against open lines',
  right: 'inbound.receive',
  posts: true,
  body: ReceiptForm,
  response: Posted,
});

export const LooseReceiptForm = z.object({
  /** Nobody for goods that turned up. */
  supplierId: Id.nullable().default(null),
  /** A bill is to follow: an order is written for it. Otherwise the goods are paid. */
  billComes: z.boolean().default(false),
  packingNote: ShortText.default(''),
  effectiveOn: Day.optional(),
  lines: IncomingLines,
});
export type LooseReceiptForm = z.infer<typeof LooseReceiptForm>;
export const receiveLoose = endpoint({
  method: 'POST',
  path: '/api/inbound/loose-receipts',
  summary: 'Receive goods without an order',
  right: 'inbound.receive',
  posts: true,
  body: LooseReceiptForm,
  response: Posted,
});

const Returnable = z.object({
  purchaseLineId: Id,
  position: z.number(),
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  received: Amount,
  /** Where it lies now: each bin and lot. */
  places: z.array(z.object({ binId: Id, bin: z.string(), sellable: z.boolean(), lotId: Id.nullable(), lot: z.string().nullable(), quantity: Amount })),
});
export type Returnable = z.infer<typeof Returnable>;
export const returnable = endpoint({
  method: 'GET',
  path: '/api/inbound/orders/:id/returnable',
  summary: 'What of an order can go back to the supplier, and where it lies',
  right: 'look',
  params: one,
  response: z.object({ number: z.string(), supplier: z.string(), rows: z.array(Returnable) }),
});
export const SupplierReturnForm = z.object({
  orderId: Id,
  note: ShortText.refine((text) => text !== '', 'Say why it goes back.'),
  lines: z
    .array(z.object({ purchaseLineId: Id, binId: Id, lotId: Id.nullable().default(null), quantity: Quantity }))
    .min(1, 'Say what goes back.')
    .max(500, 'At most 500 lines at once.'),
});
export type SupplierReturnForm = z.infer<typeof SupplierReturnForm>;
export const returnGoods = endpoint({
  method: 'POST',
  path: '/api/inbound/returns',
  summary: 'Send goods back to the supplier; a credit is then expected for what was billed',
  right: 'inbound.receive',
  posts: true,
  body: SupplierReturnForm,
  response: Posted,
});
