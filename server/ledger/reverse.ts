import { decimal } from '@larder/core/decimal';
import { reversalOf, type PostedMovement } from '@larder/core/ledger/reversal';
import type { Bearer } from '@larder/core/ledger/types';
import { Refusal, refuseField } from '@larder/core/refusal';
import { and, desc, eq, inArray, isNotNull, isNull, ne, or, sql, sum, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder, union, type PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../act';
import { jsonRows, jsonValues, scalar } from '../db/json';
import {
  bill,
  billCover,
  billLine,
  cameBack,
  costBearer,
  customerReturn,
  documentKind,
  documentLine,
  goodsReturned,
  landedReceipt,
  landedSheet,
  layerLine,
  loanLine,
  movement,
  movementLine,
  place,
  purchaseLine,
  salesLine,
  site,
  transferLine,
} from '../db/schema/index';
import { refuseInvoiced } from '../documents/invoiced';
import { refusePackedOf } from '../documents/parcels';
import { refuseTaken, takeBack } from '../documents/shipments';
import { takeWorkBack, workOrdersOf, workPosted } from './undoWork';
import { post, type Posting } from './door';
import { lock } from './lock';
import { oneRow } from '../db/given';

const undo = alias(movement, 'undo');

/** What was posted, the sites that it concerns, and the orders that it served. */
function readPosted({ db }: Act['tx'], movementId: number) {
  const mine = eq(movementLine.movementId, movement.id);
  const served = or(eq(documentLine.id, movementLine.supplyLineId), eq(documentLine.id, movementLine.demandLineId));
  // What one site sent is that site's to undo, and what arrived or was lost that of the site it went to.
  const sites = union(
    db
      .select({ id: place.siteId })
      .from(movementLine)
      .innerJoin(place, or(eq(place.id, movementLine.fromPlaceId), eq(place.id, movementLine.toPlaceId)))
      .where(and(mine, or(ne(place.kind, 'transit'), ne(movement.kind, 'transfer')))),
    db
      .select({ id: documentLine.siteId })
      .from(movementLine)
      .innerJoin(documentLine, served)
      .where(and(mine, ne(documentLine.kind, 'transfer'))),
  );
  const documentsOf = (line: typeof purchaseLine | typeof salesLine | typeof transferLine | typeof loanLine, documentId: PgColumn, servedId: PgColumn) =>
    sql<number[]>`(${db
      .select({ ids: jsonValues(documentId, { distinct: true }) })
      .from(movementLine)
      .innerJoin(line, eq(line.id, servedId))
      .where(mine)})`;
  return db
    .select({
      id: movement.id,
      kind: movement.kind,
      reasonId: movement.reasonId,
      bearer: costBearer,
      reverses: movement.reverses,
      undoneBy: undo.id,
      siteIds: jsonRows({ id: site.id }, (select) => select.from(site).where(inArray(site.id, sites))),
      purchaseOrderIds: documentsOf(purchaseLine, purchaseLine.orderId, movementLine.supplyLineId),
      salesOrderIds: documentsOf(salesLine, salesLine.orderId, movementLine.demandLineId),
      transferIds: documentsOf(transferLine, transferLine.transferId, movementLine.demandLineId),
      loanIds: documentsOf(loanLine, loanLine.loanId, movementLine.demandLineId),
      workOrderIds: workOrdersOf(db, movement.id),
    })
    .from(movement)
    .leftJoin(undo, eq(undo.reverses, movement.id))
    .leftJoin(costBearer, eq(costBearer.movementId, movement.id))
    .where(eq(movement.id, movementId));
}
type PostedRow = Awaited<ReturnType<typeof readPosted>>[number];

const receiptLine = alias(movementLine, 'receipt_line');
/** The account that bore goods that were thrown away as they came back. */
const lossAccountOf = new QueryBuilder()
  .select({ id: sql`min(${cameBack.lossAccountId})` })
  .from(cameBack)
  .where(eq(cameBack.lineId, movementLine.id));

function readLines({ db }: Act['tx'], movementId: number) {
  return db
    .select({
      itemId: movementLine.itemId,
      lotId: movementLine.lotId,
      quantity: movementLine.quantity,
      seq: movementLine.seq,
      fromPlaceId: movementLine.fromPlaceId,
      toPlaceId: movementLine.toPlaceId,
      value: movementLine.value,
      variance: movementLine.variance,
      serves: jsonRows(
        { kind: documentLine.kind, lineId: documentLine.id },
        (select) =>
          select
            .from(documentLine)
            .innerJoin(documentKind, eq(documentKind.kind, documentLine.kind))
            .where(or(eq(documentLine.id, movementLine.supplyLineId), eq(documentLine.id, movementLine.demandLineId))),
        { orderBy: sql`${documentKind.side} desc` },
      ),
      takenOff: jsonRows(
        {
          lineId: goodsReturned.ofLineId,
          layerSeq: receiptLine.seq,
          quantity: goodsReturned.quantity,
          value: goodsReturned.value,
          calledOff: goodsReturned.calledOff,
        },
        (select) =>
          select.from(goodsReturned).innerJoin(receiptLine, eq(receiptLine.id, goodsReturned.ofLineId)).where(eq(goodsReturned.lineId, movementLine.id)),
        { orderBy: goodsReturned.id },
      ),
      cameBack: jsonRows(
        { ofLineId: cameBack.ofLineId, returnId: cameBack.returnId, quantity: cameBack.quantity, value: cameBack.value },
        (select) => select.from(cameBack).where(eq(cameBack.lineId, movementLine.id)),
        { orderBy: cameBack.id },
      ),
      lossAccount: sql<number | null>`(${lossAccountOf})`,
      layers: jsonRows(
        { layerSeq: layerLine.layerSeq, quantity: layerLine.quantity, value: layerLine.value },
        (select) => select.from(layerLine).where(and(eq(layerLine.itemId, movementLine.itemId), eq(layerLine.seq, movementLine.seq))),
        { orderBy: layerLine.layerSeq },
      ),
    })
    .from(movementLine)
    .where(eq(movementLine.movementId, movementId))
    .orderBy(movementLine.position);
}
type LineRow = Awaited<ReturnType<typeof readLines>>[number];

/** Undoes a movement, whole and once. Refuses, saying why, what cannot be undone any more. */
export async function reverse(act: Act, { movementId, note, countedSince }: { movementId: number; note: string; countedSince: boolean }): Promise<Posting> {
  const [found] = await readPosted(act.tx, movementId);
  if (!found) throw new Refusal(404, 'not-found', 'There is no such posting.');
  for (const site of found.siteIds.length > 0 ? found.siteIds : [{ id: null }]) act.allow('undo', site.id);
  if (found.reverses !== null) throw refuseField(409, 'undo-of-undo', 'movementId', 'This posting is an undo itself; post it anew instead.');
  await lock.purchaseOrders(act, found.purchaseOrderIds);
  await lock.salesOrders(act, found.salesOrderIds);
  await lock.transfers(act, found.transferIds);
  await lock.loans(act, found.loanIds);
  await lock.workOrders(act, found.workOrderIds);
  const lines = await readLines(act.tx, movementId);
  await lock.pools(
    act,
    lines.map(({ itemId }) => itemId),
  );
  const [done] = await act.tx.db.select({ day: movement.effectiveOn }).from(movement).where(eq(movement.reverses, movementId));
  if (done) throw refuseField(409, 'already-undone', 'movementId', `This posting was already undone on ${done.day}.`);
  await refuseRestedOn(act, movementId);
  await refuseTaken(act, movementId);
  await refuseInvoiced(act, movementId);
  await refusePackedOf(act, movementId);
  const work = await workPosted(act, movementId, found.workOrderIds);
  const posting = await post(act, reversalOf({ ...postedMovement(found, lines), ...(work ? { work } : {}) }, act.today, note, countedSince));
  await takeBack(act, movementId);
  await takeWorkBack(act, movementId);
  return posting;
}

/** What rests on a movement: bills and credits of its order lines, worksheets over it, and goods of it that went back. */
function readRests({ db }: Act['tx'], movementId: number) {
  const mine = db.$with('mine').as(
    db
      .select({
        id: movementLine.id,
        line: movementLine.supplyLineId,
        quantity: movementLine.quantity,
        came: sql<boolean>`${place.kind} = 'supplier'`.as('came'),
        back: sql<boolean>`${movement.kind} = 'supplier-return'`.as('back'),
      })
      .from(movementLine)
      .innerJoin(movement, eq(movement.id, movementLine.movementId))
      .innerJoin(place, eq(place.id, movementLine.fromPlaceId))
      .where(eq(movementLine.movementId, movementId)),
  );
  const standing = db.$with('standing').as(
    db
      .select({
        id: billLine.id,
        line: billLine.purchaseLineId,
        quantity: billLine.quantity,
        number: bill.number,
        kind: bill.kind,
        bill: sql<number>`${bill.id}`.as('bill'),
      })
      .from(billLine)
      .innerJoin(bill, eq(bill.id, billLine.billId))
      .where(and(inArray(billLine.purchaseLineId, db.select({ line: mine.line }).from(mine)), isNotNull(bill.postedAt), isNull(bill.undoneAt))),
  );
  const moved = (which: SQL) =>
    sql`(${db
      .select({ sum: sum(mine.quantity) })
      .from(mine)
      .where(and(eq(mine.line, purchaseLine.id), which))})`;
  const covering = db
    .select({ number: standing.number })
    .from(mine)
    .innerJoin(billCover, eq(billCover.lineId, mine.id))
    .innerJoin(standing, eq(standing.id, billCover.billLineId))
    .where(sql`${mine.came}`);
  const back = db
    .select({ number: customerReturn.number })
    .from(mine)
    .innerJoin(cameBack, eq(cameBack.ofLineId, mine.id))
    .innerJoin(customerReturn, eq(customerReturn.id, cameBack.returnId))
    .groupBy(customerReturn.id)
    .having(sql`sum(${cameBack.quantity}) > 0`)
    .orderBy(desc(customerReturn.id));
  const onLines = (which: SQL | undefined) =>
    db.select({ number: standing.number }).from(standing).innerJoin(purchaseLine, eq(purchaseLine.id, standing.line)).where(which);
  const last = sql`${standing.bill} desc`;
  const overBilled = sql`${purchaseLine.received} - ${moved(sql`${mine.came}`)} < ${purchaseLine.billed}`;
  const credited = and(
    eq(standing.kind, 'credit'),
    isNotNull(standing.quantity),
    sql`${purchaseLine.received} + ${moved(sql`${mine.back}`)} > ${purchaseLine.billed}`,
  );
  const sheets = db
    .select({ number: landedSheet.number })
    .from(landedReceipt)
    .innerJoin(landedSheet, eq(landedSheet.id, landedReceipt.sheetId))
    .where(and(eq(landedReceipt.movementId, movementId), isNull(landedSheet.undoneAt)))
    .orderBy(desc(landedSheet.id));
  const returned = db
    .select({ sum: sql`trim_scale(sum(${goodsReturned.quantity}))` })
    .from(mine)
    .innerJoin(goodsReturned, eq(goodsReturned.ofLineId, mine.id))
    .having(sql`sum(${goodsReturned.quantity}) > 0`);
  return db
    .with(mine, standing)
    .select({
      bill: sql<string | null>`coalesce((${covering.orderBy(last).limit(1)}), (${onLines(overBilled).orderBy(last).limit(1)}))`,
      credit: scalar(onLines(credited).orderBy(last).limit(1)),
      sheet: scalar(sheets.limit(1)),
      returned: sql<string | null>`(${returned})`,
      back: scalar(back.limit(1)),
    })
    .from(oneRow);
}

/** A receipt that a bill, a charge or a return rests on, or a return that was credited, is not undone: it says what to undo first. */
async function refuseRestedOn({ tx }: Act, movementId: number): Promise<void> {
  const [rests] = await readRests(tx, movementId);
  const first = rests?.bill ?? rests?.credit ?? rests?.sheet;
  if (first) throw refuseField(409, 'rests-on-it', 'movementId', `${first} rests on this. Undo ${first} first.`);
  if (rests?.returned) throw refuseField(409, 'rests-on-it', 'movementId', `${rests.returned} of these went back to the supplier. Undo that first.`);
  if (rests?.back) throw refuseField(409, 'rests-on-it', 'movementId', `Some of these came back with ${rests.back}. Undo ${rests.back} first.`);
}

const bearerOf = ({ accountId, departmentId, taxCodeId, taxRate, taxBase, tax }: NonNullable<PostedRow['bearer']>): Bearer => ({
  accountId,
  departmentId,
  tax: taxCodeId === null ? null : { taxCodeId, rate: decimal(taxRate), posted: { base: decimal(taxBase), owed: decimal(tax) } },
});

const postedMovement = ({ id, kind, reasonId, bearer }: PostedRow, lines: readonly LineRow[]): PostedMovement => ({
  id,
  kind,
  reasonId,
  ...(bearer ? { bearer: bearerOf(bearer) } : {}),
  lines: lines.map((line) => ({
    itemId: line.itemId,
    lotId: line.lotId,
    quantity: decimal(line.quantity),
    seq: line.seq,
    fromPlaceId: line.fromPlaceId,
    toPlaceId: line.toPlaceId,
    value: decimal(line.value),
    variance: decimal(line.variance),
    serves: line.serves,
    takenOff: line.takenOff.map((part) => ({
      lineId: part.lineId,
      layerSeq: part.layerSeq,
      quantity: decimal(part.quantity),
      value: decimal(part.value),
      calledOff: decimal(part.calledOff),
    })),
    cameBack: line.cameBack.map(({ quantity, value, ...part }) => ({ ...part, quantity: decimal(quantity), value: decimal(value) })),
    ...(line.lossAccount === null ? {} : { lossAccount: line.lossAccount }),
    layerMoves: line.layers.map(({ layerSeq, quantity, value }) => ({ layerSeq, quantity: decimal(quantity), value: decimal(value) })),
  })),
});
