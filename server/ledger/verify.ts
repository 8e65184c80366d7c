import type { PlaceKind } from '@larder/core/ledger/types';
import { and, eq, inArray, isNotNull, isNull, ne, sql, type SQLWrapper } from 'drizzle-orm';
import { notNone, positive } from '../db/given';
import { pgView, QueryBuilder, text, type PgTable, type PgView } from 'drizzle-orm/pg-core';
import type pg from 'pg';
import { transaction, type Db } from '../db/database';
import {
  account,
  balance,
  bill,
  billLine,
  cameBack,
  costBearer,
  countLine,
  costLayer,
  documentKind,
  documentLine,
  invoice,
  invoiceLine,
  item,
  itemDay,
  itemSite,
  journalEntry,
  landedCharge,
  landedSheet,
  lot,
  moneyIn,
  monthBalance,
  monthPool,
  movement,
  parcel,
  parcelContent,
  place,
  supply,
  costPool,
  purchaseLine,
  workOrder,
} from '../db/schema/index';

/** One law of the ledger: how many things it was held against, and the ones that break it. */
export interface Law {
  name: string;
  checked: number;
  broken: { what: string }[];
}

/** Each law: the view that has a sentence for each thing that breaks it (a file in `db/laws/`), and the things it is held against. */
interface Held {
  name: string;
  view: `law_${string}`;
  against: [source: PgTable | PgView, where?: SQLWrapper][];
}

/** Kinds of places where what was drawn for a document waits. */
const waitingKinds = new QueryBuilder()
  .select({ kind: sql<PlaceKind>`${documentKind.waitsAt}` })
  .from(documentKind)
  .where(isNotNull(documentKind.waitsAt));

const laws: Held[] = [
  { name: 'conservation: for every item all places sum to zero', view: 'law_conservation', against: [[costPool]] },
  { name: 'balances equal their lines', view: 'law_balances', against: [[balance]] },
  { name: 'no owned balance below zero', view: 'law_no_balance_below_zero', against: [[balance, balance.owned]] },
  { name: 'document counters equal their lines', view: 'law_document_counters', against: [[documentLine]] },
  {
    name: 'lines of orders have what was agreed for them, and stand as their order does',
    view: 'law_lines_of_orders',
    against: [[documentLine, inArray(documentLine.kind, ['purchase', 'sales'])]],
  },
  {
    name: 'what suppliers send straight to customers is what was ordered and decided for the line',
    view: 'law_straight_from_suppliers',
    against: [[supply]],
  },
  {
    name: 'what waits on a bench, in transit, on loan or in work equals what document lines drew and have not finished',
    view: 'law_what_waits',
    against: [[place, inArray(place.kind, waitingKinds)]],
  },
  { name: 'what is in transit is what transfers sent and did not end', view: 'law_transit', against: [[place, eq(place.kind, 'transit')]] },
  { name: 'what holders have is what their open loans say', view: 'law_loans', against: [[place, eq(place.kind, 'holder')]] },
  {
    name: 'work in progress is what work orders hold, on every day, and nothing once they have ended',
    view: 'law_work_in_progress',
    against: [[workOrder]],
  },
  {
    name: 'lines of work orders stand as their order does, with nothing at the work of one that has ended',
    view: 'law_work_orders',
    against: [[documentLine, inArray(documentLine.kind, ['component', 'product'])]],
  },
  { name: 'what came back went out, and comes back at what it left for', view: 'law_came_back', against: [[cameBack]] },
  { name: 'what customers hold went out to them and did not come back', view: 'law_customers_hold', against: [[place, eq(place.kind, 'customer')]] },
  { name: 'parcels hold what lies on the bench, or what went out with them', view: 'law_parcels', against: [[parcelContent]] },
  { name: 'what is not kept in stock lies in no place of ours', view: 'law_what_is_not_kept', against: [[item, ne(item.kind, 'stocked')]] },
  { name: 'each serial is in one place, and that is the place written on it', view: 'law_serials', against: [[lot, eq(lot.kind, 'serial')]] },
  { name: 'every pool equals its owned balances in quantity, and its lines and cost changes in value', view: 'law_pools', against: [[costPool]] },
  {
    name: 'layers of cost equal their lines and changes, and add up to the pools of the items kept by them',
    view: 'law_layers',
    against: [[costLayer]],
  },
  {
    name: 'figures per item and site equal their balances, reservations and open lines, and add up per item',
    view: 'law_figures',
    against: [[itemSite]],
  },
  {
    name: 'what a site has of an item is worth its part of the pool, or the cost of the very units there',
    view: 'law_site_values',
    against: [[itemSite, notNone(itemSite.value)]],
  },
  { name: 'inventory accounts equal the pools', view: 'law_inventory_accounts', against: [[account, eq(account.type, 'inventory')]] },
  {
    name: 'goods received not invoiced equals what was received and not billed, and credits expected what was billed and went back',
    view: 'law_goods_received',
    against: [[purchaseLine, positive(purchaseLine.received)]],
  },
  {
    name: 'what order lines count as billed equals the bills that stand',
    view: 'law_billed',
    against: [[purchaseLine, positive(purchaseLine.billed)]],
  },
  { name: 'landed cost clearing equals its open estimates', view: 'law_landed_clearing', against: [[landedCharge]] },
  { name: 'what carriers are to bill equals what the parcels sent were booked at', view: 'law_carriage_clearing', against: [[parcel]] },
  { name: 'what is to be paid equals the open bills', view: 'law_payable', against: [[bill, isNotNull(bill.postedAt)]] },
  {
    name: 'a line as much billed as received has nothing open on goods received or credits expected',
    view: 'law_billed_whole',
    against: [[purchaseLine, and(positive(purchaseLine.billed), eq(purchaseLine.billed, purchaseLine.received))]],
  },
  { name: 'a paid bill owes nothing', view: 'law_paid_bills', against: [[bill, and(isNotNull(bill.postedAt), isNull(bill.undoneAt))]] },
  {
    name: 'an undone bill, credit or worksheet nets to zero on every account, and in stock too while the goods did not move',
    view: 'law_undone_documents',
    against: [
      [bill, and(isNotNull(bill.postedAt), isNotNull(bill.undoneAt))],
      [landedSheet, isNotNull(landedSheet.undoneAt)],
    ],
  },
  { name: 'what is kept of the ends of months equals all lines and changes of cost up to then', view: 'law_months', against: [[monthBalance], [monthPool]] },
  { name: 'no value of stock on any day without stock', view: 'law_value_without_stock', against: [[itemDay]] },
  {
    name: 'what is kept by lots or serials lies nowhere without one, and nothing else has one',
    view: 'law_lots',
    against: [[balance, and(balance.owned, positive(balance.quantity), isNotNull(balance.lotId))]],
  },
  {
    name: 'what came, was billed and was credited of a line is the cumulative share of its amount for its quantity',
    view: 'law_cumulative_amounts',
    against: [
      [purchaseLine, positive(purchaseLine.received)],
      [billLine, and(billLine.cumulative, isNotNull(billLine.quantity))],
    ],
  },
  { name: 'every entry balances', view: 'law_entries', against: [[journalEntry]] },
  { name: 'reserved never exceeds on hand', view: 'law_reserved', against: [[itemSite]] },
  {
    name: 'an undo points at a movement of the same lines turned round',
    view: 'law_undos',
    against: [[movement, isNotNull(movement.reverses)]],
  },
  { name: 'gapless numbers have no gaps', view: 'law_gapless_numbers', against: [[invoice]] },
  { name: 'what is invoiced went out, and order lines count it', view: 'law_invoiced', against: [[invoiceLine]] },
  {
    name: 'what was posted of a count is what its postings moved, and its lines say what was entered last',
    view: 'law_counts',
    against: [[countLine]],
  },
  {
    name: 'tax on own use is its rate of what the goods had cost, and its account holds just that',
    view: 'law_own_use_tax',
    against: [[costBearer, isNotNull(costBearer.taxCodeId)]],
  },
  { name: 'what customers owe equals the open invoices', view: 'law_receivable', against: [[invoice], [moneyIn]] },
];

/** Holds the whole database against every law, in one snapshot. */
export const verify = (from: pg.Pool): Promise<Law[]> => transaction(from, 'snapshot', ({ db }) => verifyWithin(db));

/** The same, as seen by a transaction that is already open. */
export async function verifyWithin(db: Db): Promise<Law[]> {
  const results: Law[] = [];
  for (const { name, view, against } of laws) {
    const law = pgView(view, { what: text().notNull() }).existing();
    let checked = 0;
    for (const [source, where] of against) checked += await db.$count(source, where?.getSQL());
    results.push({ name, checked, broken: await db.select().from(law).limit(20) });
  }
  return results;
}
