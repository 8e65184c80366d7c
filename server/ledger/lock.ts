import { inArray, sql } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import type { Act } from '../act';
import type { Asking, Db } from '../db/database';
import { among } from '../db/given';
import { prepared } from '../db/prepared';
import { watchItems } from '../jobs/watch';
import {
  bill,
  customerReturn,
  invoice,
  landedCharge,
  landedSheet,
  parcel,
  place,
  costPool,
  purchaseLine,
  purchaseOrder,
  salesLine,
  salesOrder,
  transfer,
  transferTerms,
  loan,
  loanTerms,
  workOrder,
} from '../db/schema/index';

type Some = readonly number[];

/**
 * Locks, in the one order everybody takes them: documents by kind and id, then cost pools by item, then the places leaned on.
 * A preview takes none. What a decision rests on is read only after. Whoever locks pools changes what is there, or what is wanted: it is looked at once
 * that is kept.
 */
export const lock = {
  purchaseOrders: (act: Act, ids: Some) => lockRows(act, lockPurchaseOrders, ids),
  /** The orders that these lines are on. */
  purchaseOrdersOf: (act: Act, lineIds: Some) => lockRows(act, lockPurchaseOrdersOf, lineIds),
  salesOrders: (act: Act, ids: Some) => lockRows(act, lockSalesOrders, ids),
  /** The orders that these sales lines are on. */
  salesOrdersOf: (act: Act, lineIds: Some) => lockRows(act, lockSalesOrdersOf, lineIds),
  /** The orders that these parcels are of. */
  salesOrdersOfParcels: (act: Act, parcelIds: Some) => lockRows(act, lockSalesOrdersOfParcels, parcelIds),
  transfers: (act: Act, ids: Some) => lockRows(act, lockTransfers, ids),
  /** The transfers that these lines are on. */
  transfersOf: (act: Act, lineIds: Some) => lockRows(act, lockTransfersOf, lineIds),
  loans: (act: Act, ids: Some) => lockRows(act, lockLoans, ids),
  /** The loans that these lines are on. */
  loansOf: (act: Act, lineIds: Some) => lockRows(act, lockLoansOf, lineIds),
  workOrders: (act: Act, ids: Some) => lockRows(act, lockWorkOrders, ids),
  /** The worksheets that these charges are on. */
  sheetsOf: (act: Act, chargeIds: Some) => lockRows(act, lockSheetsOf, chargeIds),
  sheets: (act: Act, ids: Some) => lockRows(act, lockSheets, ids),
  bills: (act: Act, ids: Some) => lockRows(act, lockBills, ids),
  invoices: (act: Act, ids: Some) => lockRows(act, lockInvoices, ids),
  returns: (act: Act, ids: Some) => lockRows(act, lockReturns, ids),
  /** The pools of the items on these purchase lines. */
  poolsOfLines: (act: Act, lineIds: Some) => lockRows(act, lockPoolsOfLines, lineIds),
  pools: async (act: Pick<Act, 'tx'>, itemIds: Some): Promise<void> => {
    await lockRows(act, lockPools, itemIds);
    watchItems(act.tx, itemIds);
  },
  /** Pools and then places, in one round trip. */
  stock: async ({ tx }: Act, itemIds: Some, placeIds: Some): Promise<void> => {
    if (!tx.readOnly && itemIds.length > 0) await lockStock(tx, { ids: [...new Set(itemIds)], places: [...new Set(placeIds)] });
    watchItems(tx, itemIds);
  },
};

type Locking = (tx: Asking, values: { ids: number[] }) => Promise<unknown>;

async function lockRows({ tx }: Pick<Act, 'tx'>, locking: Locking, ids: Some): Promise<void> {
  if (!tx.readOnly && ids.length > 0) await locking(tx, { ids: [...new Set(ids)] });
}

const one = { one: sql`1` };
const byId = (table: PgTable & { id: PgColumn }): Locking =>
  prepared(['ids'], (db, { ids }) => db.select(one).from(table).where(among(table.id, ids)).orderBy(table.id).for('no key update'));

const lockPurchaseOrders = byId(purchaseOrder);
const lockSalesOrders = byId(salesOrder);
const lockTransfers = byId(transfer);
const lockLoans = byId(loan);
const lockWorkOrders = byId(workOrder);
const lockSheets = byId(landedSheet);
const lockBills = byId(bill);
const lockInvoices = byId(invoice);
const lockReturns = byId(customerReturn);

const lockPurchaseOrdersOf: Locking = prepared(['ids'], (db, { ids }) => {
  const orders = db.select({ id: purchaseLine.orderId }).from(purchaseLine).where(among(purchaseLine.id, ids));
  return db.select(one).from(purchaseOrder).where(inArray(purchaseOrder.id, orders)).orderBy(purchaseOrder.id).for('no key update');
});

const lockSalesOrdersOf: Locking = prepared(['ids'], (db, { ids }) => {
  const orders = db.select({ id: salesLine.orderId }).from(salesLine).where(among(salesLine.id, ids));
  return db.select(one).from(salesOrder).where(inArray(salesOrder.id, orders)).orderBy(salesOrder.id).for('no key update');
});

const lockTransfersOf: Locking = prepared(['ids'], (db, { ids }) => {
  const transfers = db.select({ id: transferTerms.transferId }).from(transferTerms).where(among(transferTerms.id, ids));
  return db.select(one).from(transfer).where(inArray(transfer.id, transfers)).orderBy(transfer.id).for('no key update');
});

const lockLoansOf: Locking = prepared(['ids'], (db, { ids }) => {
  const loans = db.select({ id: loanTerms.loanId }).from(loanTerms).where(among(loanTerms.id, ids));
  return db.select(one).from(loan).where(inArray(loan.id, loans)).orderBy(loan.id).for('no key update');
});

const lockSalesOrdersOfParcels: Locking = prepared(['ids'], (db, { ids }) => {
  const orders = db.select({ id: parcel.orderId }).from(parcel).where(among(parcel.id, ids));
  return db.select(one).from(salesOrder).where(inArray(salesOrder.id, orders)).orderBy(salesOrder.id).for('no key update');
});

const lockSheetsOf: Locking = prepared(['ids'], (db, { ids }) => {
  const sheets = db.select({ id: landedCharge.sheetId }).from(landedCharge).where(among(landedCharge.id, ids));
  return db.select(one).from(landedSheet).where(inArray(landedSheet.id, sheets)).orderBy(landedSheet.id).for('no key update');
});

const lockPoolsOfLines: Locking = prepared(['ids'], (db, { ids }) => {
  const items = db.select({ id: purchaseLine.itemId }).from(purchaseLine).where(among(purchaseLine.id, ids));
  return db.select(one).from(costPool).where(inArray(costPool.itemId, items)).orderBy(costPool.itemId).for('no key update');
});

const poolsByItem = (db: Db, ids: Parameters<typeof among>[1]) =>
  db.select({ itemId: costPool.itemId }).from(costPool).where(among(costPool.itemId, ids)).orderBy(costPool.itemId).for('no key update');

const lockPools: Locking = prepared(['ids'], (db, { ids }) => poolsByItem(db, ids));

const lockStock = prepared(['ids', 'places'], (db, { ids, places }) => {
  const pools = db.$with('pools').as(poolsByItem(db, ids));
  // The places are locked once the pools are: they are only looked for then.
  const locked = db.$with('places').as(
    db
      .select({ id: place.id })
      .from(place)
      .where(sql`${among(place.id, places)} and (select count(*) from ${pools}) > 0`)
      .orderBy(place.id)
      .for('key share'),
  );
  return db
    .with(pools, locked)
    .select({ count: sql<number>`count(*)` })
    .from(locked);
});
