import type { goodsDocuments } from '@larder/contract/stock';
import { bigint, boolean, date, integer, numeric, pgView, text } from 'drizzle-orm/pg-core';
import { amount, currencyAmount, exchangeRate, price, quantity } from './columns';

/** Columns that both kinds of order lines show: what was written, and what has become of it. */
const lineColumns = () => ({
  id: integer().notNull(),
  orderId: integer('order_id').notNull(),
  position: integer().notNull(),
  itemId: integer('item_id').notNull(),
  siteId: integer('site_id').notNull(),
  quantity: quantity().notNull(),
  unit: text().notNull(),
  factorNumerator: integer('factor_numerator').notNull(),
  factorDenominator: integer('factor_denominator').notNull(),
  baseQuantity: quantity('base_quantity').notNull(),
  price: price().notNull(),
  pricePer: quantity('price_per').notNull(),
  discount: quantity().notNull(),
  taxCodeId: integer('tax_code_id'),
  amount: currencyAmount().notNull(),
  stocked: boolean('kept').notNull(),
  active: boolean().notNull(),
});

/** The lines of purchase orders. The views are made by the files of the same names in `rules/`. */
export const purchaseLine = pgView('purchase_line', {
  ...lineColumns(),
  currency: text().notNull(),
  rate: exchangeRate().notNull(),
  expectedOn: date('expected_on'),
  direct: boolean().notNull(),
  cancelled: quantity().notNull(),
  received: quantity().notNull(),
  returned: quantity().notNull(),
  receivedValue: amount('received_value').notNull(),
  billed: quantity().notNull(),
  billedValue: amount('billed_value').notNull(),
  outstanding: quantity().notNull(),
  incoming: quantity().notNull(),
}).existing();

/** The lines of sales orders. */
export const salesLine = pgView('sales_line', {
  ...lineColumns(),
  shipBy: date('ship_by'),
  promisedOn: date('promised_on'),
  standsBack: boolean('stands_back').notNull(),
  askedItemId: integer('asked_item_id'),
  /** Of a quote: another site is asked to send so many as it is confirmed, and which. */
  bring: quantity().notNull(),
  bringFromId: integer('bring_from_id'),
  picked: quantity().notNull(),
  /** Comes straight from a supplier, and has come. */
  direct: quantity().notNull(),
  sent: quantity().notNull(),
  dispatched: quantity().notNull(),
  /** Of what was dispatched: the customer brought it back. */
  returned: quantity().notNull(),
  dispatchedCost: amount('dispatched_cost').notNull(),
  /** Base units that invoices cover which stand, credit notes taken off, and what those came to in company currency. */
  invoiced: quantity().notNull(),
  invoicedValue: amount('invoiced_value').notNull(),
  reserved: quantity().notNull(),
  wanted: quantity().notNull(),
  short: quantity().notNull(),
}).existing();

export const transferLine = pgView('transfer_line', {
  id: integer().notNull(),
  transferId: integer('transfer_id').notNull(),
  position: integer().notNull(),
  itemId: integer('item_id').notNull(),
  fromSiteId: integer('from_site_id').notNull(),
  toSiteId: integer('to_site_id').notNull(),
  /** What is to go, less what was cancelled. */
  quantity: quantity().notNull(),
  cancelled: quantity().notNull(),
  fromBinId: integer('from_bin_id'),
  toBinId: integer('to_bin_id'),
  salesLineId: integer('sales_line_id'),
  /** Off the shelf; of that gone; of that arrived, lost on the way, or in transit. */
  picked: quantity().notNull(),
  gone: quantity().notNull(),
  arrived: quantity().notNull(),
  lost: quantity().notNull(),
  inTransit: quantity('in_transit').notNull(),
  reserved: quantity().notNull(),
  wanted: quantity().notNull(),
  short: quantity().notNull(),
  incoming: quantity().notNull(),
}).existing();

export const componentLine = pgView('component_line', {
  id: integer().notNull(),
  workOrderId: integer('work_order_id').notNull(),
  position: integer().notNull(),
  itemId: integer('item_id').notNull(),
  siteId: integer('site_id').notNull(),
  /** What the order says for the whole of it. */
  needed: quantity().notNull(),
  note: text().notNull(),
  /** Off the shelf; of that used, and what is at the work. */
  taken: quantity().notNull(),
  used: quantity().notNull(),
  atWork: quantity('at_work').notNull(),
  usedValue: amount('used_value').notNull(),
  stocked: boolean('kept').notNull(),
  reserved: quantity().notNull(),
  wanted: quantity().notNull(),
  short: quantity().notNull(),
  active: boolean().notNull(),
}).existing();

export const productLine = pgView('product_line', {
  id: integer().notNull(),
  workOrderId: integer('work_order_id').notNull(),
  position: integer().notNull(),
  itemId: integer('item_id').notNull(),
  siteId: integer('site_id').notNull(),
  /** To be made; of that made good, and scrapped. */
  quantity: quantity().notNull(),
  made: quantity().notNull(),
  scrapped: quantity().notNull(),
  madeValue: amount('made_value').notNull(),
  share: quantity(),
  binId: integer('bin_id'),
  incoming: quantity().notNull(),
  active: boolean().notNull(),
}).existing();

/** What was used on completed work and never taken from a shelf, as far as it is open. */
export const untakenOpen = pgView('untaken_open', {
  id: integer().notNull(),
  lineId: integer('line_id').notNull(),
  workOrderId: integer('work_order_id').notNull(),
  movementId: integer('movement_id').notNull(),
  open: quantity().notNull(),
}).existing();

/** Which lots and serials went into which, by work orders. */
export const wentIntoLots = pgView('went_into', {
  itemId: integer('item_id').notNull(),
  lotId: integer('lot_id').notNull(),
  workOrderId: integer('work_order_id').notNull(),
  madeItemId: integer('made_item_id').notNull(),
  madeLotId: integer('made_lot_id'),
  quantity: quantity().notNull(),
  day: date().notNull(),
}).existing();

/** What is in progress of each work order. */
export const workProgress = pgView('work_progress', { workOrderId: integer('work_order_id').notNull(), value: amount().notNull() }).existing();

export const loanLine = pgView('loan_line', {
  id: integer().notNull(),
  loanId: integer('loan_id').notNull(),
  position: integer().notNull(),
  itemId: integer('item_id').notNull(),
  siteId: integer('site_id').notNull(),
  lotId: integer('lot_id'),
  fromBinId: integer('from_bin_id').notNull(),
  lent: quantity().notNull(),
  back: quantity().notNull(),
  lost: quantity().notNull(),
  out: quantity().notNull(),
}).existing();

/** What went out for sales lines by movements that stand, line by line: what it cost, what of it came back at which cost, and how many of it invoices cover. */
export const wentOut = pgView('went_out', {
  lineId: bigint('line_id', { mode: 'number' }).notNull(),
  movementId: integer('movement_id').notNull(),
  salesLineId: integer('sales_line_id').notNull(),
  itemId: integer('item_id').notNull(),
  lotId: integer('lot_id'),
  purchaseLineId: integer('purchase_line_id'),
  partyId: integer('party_id').notNull(),
  day: date().notNull(),
  straight: boolean().notNull(),
  quantity: quantity().notNull(),
  cost: amount().notNull(),
  back: quantity().notNull(),
  backCost: amount('back_cost').notNull(),
  covered: quantity().notNull(),
}).existing();

/** What each movement line did to a sales line: how many went out, at what they were sold for, and what they cost. */
export const salePosting = pgView('sale_posting', {
  id: integer().notNull(),
  lineId: integer('line_id').notNull(),
  day: date().notNull(),
  quantity: quantity().notNull(),
  sold: amount().notNull(),
  cost: amount().notNull(),
}).existing();

/** The accounts an item stands on its costs go to and its sales come from: its own, else its category's, else the business's. */
export const itemAccount = pgView('item_account', {
  itemId: integer('item_id').notNull(),
  inventory: integer().notNull(),
  cost: integer().notNull(),
  sales: integer().notNull(),
}).existing();

/** Movements that stand: neither undone nor an undo. */
export const standingMovement = pgView('standing_movement', {
  id: integer().notNull(),
  kind: text().notNull(),
  effectiveOn: date('effective_on').notNull(),
}).existing();

/** What each item held and was worth at the end of each day on which that changed. */
export const itemDay = pgView('item_day', {
  itemId: integer('item_id').notNull(),
  day: date().notNull(),
  quantity: numeric().notNull(),
  value: numeric().notNull(),
}).existing();

/** What movements put into places and took out of them: a row for each side of a line. */
export const placeChange = pgView('place_change', {
  lineId: bigint('line_id', { mode: 'number' }).notNull(),
  itemId: integer('item_id').notNull(),
  lotId: integer('lot_id'),
  placeId: integer('place_id').notNull(),
  day: date().notNull(),
  quantity: quantity().notNull(),
}).existing();

/** The journal lines of bills and worksheets that were undone, and whether goods of theirs moved between posting and undo. */
export const undoneLine = pgView('undone_line', {
  kind: text().$type<'bill' | 'sheet'>().notNull(),
  id: integer().notNull(),
  number: text().notNull(),
  entryId: integer('entry_id').notNull(),
  accountId: integer('account_id').notNull(),
  code: text().notNull(),
  type: text().notNull(),
  purpose: text(),
  itemId: integer('item_id'),
  amount: amount().notNull(),
  moved: boolean().notNull(),
}).existing();

/** The document that each journal entry is shown with, and the words of all that it concerns. */
export const entryDocument = pgView('entry_document', {
  entryId: integer('entry_id').notNull(),
  kind: text().$type<'bill' | 'invoice' | 'landed cost' | 'purchase order' | 'sales order' | 'work order' | 'movement'>(),
  documentId: integer('document_id'),
  number: text(),
  words: text().notNull(),
}).existing();

/** The codes that mean an item, each for so many base units. */
export const itemCode = pgView('item_code', {
  itemId: integer('item_id').notNull(),
  source: text().$type<'sku' | 'barcode' | 'supplier'>().notNull(),
  code: text().notNull(),
  factor: numeric().notNull(),
}).existing();

/** The document that a line of a movement is shown with: the order or transfer whose goods came or went by it. */
export const lineDocument = pgView('line_document', {
  lineId: bigint('line_id', { mode: 'number' }).notNull(),
  kind: text().$type<(typeof goodsDocuments)[number]>().notNull(),
  id: integer().notNull(),
  number: text().notNull(),
}).existing();
