import { decimal } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import type * as contract from '@larder/contract/landed';
import type { ResponseOf } from '@larder/contract/endpoint';
import { and, desc, eq, inArray, isNotNull, isNull, ne, notInArray, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { jsonRows, jsonValues } from '../../db/json';
import { everyWord } from '../../db/paging';
import {
  account,
  costChange,
  item,
  journalLine,
  landedCharge,
  landedLine,
  landedReceipt,
  landedShare,
  landedSheet,
  lot,
  movement,
  movementLine,
  party,
  place,
  purchaseCharge,
  purchaseOrder,
  purchaseTerms,
  standingMovement,
  unit,
} from '../../db/schema/index';
import { plain } from '../../db/text';
import { receiptLines, type ReceiptLine } from '../../ledger/receipts';
import { deliveriesOf, openCharges, openEstimates } from '../bills/queries';

const from = alias(place, 'from_place');
const to = alias(place, 'to_place');

/** Receipts that stand, newest first, with the worksheets they are on: the last ones, or with words the last 20,000 looked through. */
export async function receipts({ tx: { db } }: Act, q: string | undefined): Promise<contract.Receipt[]> {
  const last = db
    .select({ id: movement.id, day: movement.effectiveOn, note: movement.note })
    .from(movement)
    .where(inArray(movement.kind, ['receipt', 'drop-shipment']))
    .orderBy(desc(movement.id))
    .limit(q?.trim() ? 20_000 : 400)
    .as('last_receipts');
  const sheetsOf = jsonRows(
    { id: landedSheet.id, number: landedSheet.number },
    (select) =>
      select
        .from(landedReceipt)
        .innerJoin(landedSheet, eq(landedSheet.id, landedReceipt.sheetId))
        .where(and(eq(landedReceipt.movementId, last.id), isNull(landedSheet.undoneAt))),
    { orderBy: landedSheet.id },
  );
  const supplier = sql<string>`coalesce(max(${party.name}), 'nobody')`;
  const orders = sql<string>`coalesce(string_agg(distinct ${purchaseOrder.number}, ', '), '')`;
  return db
    .select({
      movementId: last.id,
      day: last.day,
      note: last.note,
      lines: sql<number>`count(*)`,
      value: sql<string>`sum(${movementLine.value} + ${movementLine.variance})`,
      supplier,
      orders,
      sheets: sheetsOf,
    })
    .from(last)
    .innerJoin(standingMovement, eq(standingMovement.id, last.id))
    .innerJoin(movementLine, eq(movementLine.movementId, last.id))
    .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
    .innerJoin(to, eq(to.id, movementLine.toPlaceId))
    .leftJoin(party, eq(party.id, from.partyId))
    .leftJoin(purchaseTerms, eq(purchaseTerms.id, movementLine.supplyLineId))
    .leftJoin(purchaseOrder, eq(purchaseOrder.id, purchaseTerms.orderId))
    .where(and(eq(from.kind, 'supplier'), ne(to.kind, 'used-up')))
    .groupBy(last.id, last.day, last.note)
    .having(everyWord(sql`lower(${supplier} || ' ' || ${orders} || ' ' || ${last.note} || ' ' || ${last.day}::text)`, q) ?? sql`true`)
    .orderBy(desc(last.id))
    .limit(60);
}

/** What receipts brought and was not all sent back, with what each line is measured by, in the order they came in. */
export const linesOfReceipts = async (act: Act, movementIds: readonly number[]): Promise<contract.LandedLine[]> =>
  landedLines(
    act,
    (await receiptLines(act, { movementIds })).filter(({ net }) => net.gt(0)),
  );

/** Receipt lines with what each is measured by: as many, and at what they cost, as `measured` says, else net of what went back. */
export async function landedLines(
  act: Act,
  lines: readonly ReceiptLine[],
  measured: ReadonlyMap<number, { quantity: string; value: string }> = new Map(),
): Promise<contract.LandedLine[]> {
  const { db } = act.tx;
  const billed = db
    .select({ sum: sql`coalesce(sum(${costChange.whole}), 0)::numeric(18, 2)` })
    .from(costChange)
    .where(and(eq(costChange.movementLineId, movementLine.id), isNotNull(costChange.billLineId)));
  const facts = await db
    .select({
      lineId: movementLine.id,
      movementId: movementLine.movementId,
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      lot: lot.code,
      unit: unit.code,
      supplier: sql<string>`coalesce(${party.name}, 'nobody')`,
      orderNumber: purchaseOrder.number,
      billedDifference: sql<string>`(${billed})`,
      weight: plain(item.weightKg),
      volume: sql<string | null>`trim_scale((${item.lengthCm} * ${item.widthCm} * ${item.heightCm} / 1000000)::numeric(18, 8))`,
    })
    .from(movementLine)
    .innerJoin(item, eq(item.id, movementLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
    .leftJoin(party, eq(party.id, from.partyId))
    .leftJoin(lot, eq(lot.id, movementLine.lotId))
    .leftJoin(purchaseTerms, eq(purchaseTerms.id, movementLine.supplyLineId))
    .leftJoin(purchaseOrder, eq(purchaseOrder.id, purchaseTerms.orderId))
    .where(
      among(
        movementLine.id,
        lines.map(({ lineId }) => lineId),
      ),
    )
    .orderBy(movementLine.movementId, movementLine.position);
  return facts.map((line): contract.LandedLine => {
    const { net, here, brought, returned } = lines.find(({ lineId }) => lineId === line.lineId) as ReceiptLine;
    const { quantity, value } = measured.get(line.lineId) ?? { quantity: net.toFixed(), value: brought.amount.minus(returned.amount).toFixed(2) };
    return { ...line, quantity, value, here: net.isZero() ? '0' : here.div(net).toFixed(4) };
  });
}

/** What the orders of these receipts cost beside their goods, as the first charges of a worksheet; an order that is on a worksheet already has told its own. */
export async function orderedCharges({ tx: { db } }: Act, movementIds: readonly number[]): Promise<contract.OrderedCharge[]> {
  const ordersOf = (movements: SQL | undefined) =>
    db.select({ id: purchaseTerms.orderId }).from(movementLine).innerJoin(purchaseTerms, eq(purchaseTerms.id, movementLine.supplyLineId)).where(movements);
  const onSheet = db
    .select({ id: landedReceipt.movementId })
    .from(landedReceipt)
    .innerJoin(landedSheet, and(eq(landedSheet.id, landedReceipt.sheetId), isNull(landedSheet.undoneAt)));
  return db
    .select({
      name: purchaseCharge.label,
      amount: purchaseCharge.amount,
      currency: purchaseOrder.currency,
      rate: plain(purchaseOrder.rate),
      partyId: party.id,
      party: party.name,
    })
    .from(purchaseCharge)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseCharge.orderId))
    .innerJoin(party, eq(party.id, purchaseOrder.supplierId))
    .where(
      and(
        inArray(purchaseOrder.id, ordersOf(among(movementLine.movementId, movementIds))),
        notInArray(purchaseOrder.id, ordersOf(inArray(movementLine.movementId, onSheet))),
      ),
    )
    .orderBy(purchaseOrder.id, purchaseCharge.position);
}

export async function sheets({ tx: { db } }: Act, q: string | undefined): Promise<ResponseOf<typeof contract.listSheets>['rows']> {
  const charges = db
    .select({
      names: sql<string | null>`string_agg(${landedCharge.name}, ', ' order by ${landedCharge.position})`.as('names'),
      estimate: sql<string | null>`sum(${landedCharge.estimate})`.as('sum_estimate'),
      open: sql<string | null>`sum(case when ${landedCharge.settledAt} is null then ${landedCharge.estimate} - ${landedCharge.cleared} else 0 end)`.as(
        'sum_open',
      ),
    })
    .from(landedCharge)
    .where(and(eq(landedCharge.sheetId, landedSheet.id), isNull(landedCharge.removedAt)))
    .as('charges_of_sheet');
  const deliveries = sql<string>`coalesce(${deliveriesOf(landedSheet.id)}, '')`;
  return db
    .select({
      id: landedSheet.id,
      number: landedSheet.number,
      createdAt: landedSheet.createdAt,
      undone: sql<boolean>`${landedSheet.undoneAt} is not null`,
      charges: sql<string>`coalesce(${charges.names}, '')`,
      estimate: sql<string>`coalesce(${charges.estimate}, 0)::numeric(18, 2)`,
      open: sql<string>`coalesce(${charges.open}, 0)::numeric(18, 2)`,
      deliveries,
    })
    .from(landedSheet)
    .leftJoinLateral(charges, sql`true`)
    .where(everyWord(sql`lower(concat_ws(' ', ${landedSheet.number}, ${deliveries}, ${charges.names}))`, q))
    .orderBy(desc(landedSheet.id))
    .limit(200);
}

/** The charges of a worksheet that were not taken off. */
async function chargesOf({ db }: Act['tx'], sheetId: number): Promise<contract.Sheet['charges']> {
  const ofCharge = eq(landedShare.chargeId, landedCharge.id);
  const leftOut = db
    .select({ ids: jsonValues(landedShare.lineId, { orderBy: landedShare.lineId }) })
    .from(landedShare)
    .where(and(ofCharge, landedShare.leftOut));
  const toStock = db
    .select({ sum: sql`coalesce(sum(${landedShare.toStock}), 0)::numeric(18, 2)` })
    .from(landedShare)
    .where(ofCharge);
  return db
    .select({
      id: landedCharge.id,
      name: landedCharge.name,
      by: landedCharge.by,
      amount: landedCharge.amount,
      currency: landedCharge.currency,
      rate: plain(landedCharge.rate),
      partyId: landedCharge.partyId,
      party: party.name,
      estimate: landedCharge.estimate,
      cleared: landedCharge.cleared,
      billed: sql<boolean>`${landedCharge.cleared} > 0 or ${landedCharge.settledAt} is not null`,
      leftOut: sql<number[]>`(${leftOut})`,
      typed: jsonRows({ lineId: landedShare.lineId, part: sql<string>`trim_scale(${landedShare.typed})::text` }, (select) =>
        select.from(landedShare).where(and(ofCharge, isNotNull(landedShare.typed))),
      ),
      toStock: sql<string>`(${toStock})`,
    })
    .from(landedCharge)
    .leftJoin(party, eq(party.id, landedCharge.partyId))
    .where(and(eq(landedCharge.sheetId, sheetId), isNull(landedCharge.removedAt)))
    .orderBy(landedCharge.position);
}

export async function sheet(act: Act, id: number): Promise<contract.Sheet> {
  const { db } = act.tx;
  const movements = db
    .select({ ids: jsonValues(landedReceipt.movementId, { orderBy: landedReceipt.movementId }) })
    .from(landedReceipt)
    .where(eq(landedReceipt.sheetId, landedSheet.id));
  const [head] = await db
    .select({
      id: landedSheet.id,
      number: landedSheet.number,
      version: landedSheet.version,
      note: landedSheet.note,
      undone: sql<boolean>`${landedSheet.undoneAt} is not null`,
      createdAt: landedSheet.createdAt,
      movementIds: sql<number[]>`(${movements})`,
    })
    .from(landedSheet)
    .where(eq(landedSheet.id, id));
  if (!head) throw new Refusal(404, 'not-found', 'There is no such worksheet.');
  const measured = await db
    .select({ lineId: landedLine.lineId, quantity: plain(landedLine.quantity), value: landedLine.value })
    .from(landedLine)
    .where(eq(landedLine.sheetId, id));
  const lines = (await receiptLines(act, { movementIds: head.movementIds })).filter(({ lineId }) => measured.some((line) => line.lineId === lineId));
  const shown = await landedLines(act, lines, new Map(measured.map((line) => [line.lineId, line])));
  return { ...head, lines: shown, charges: await chargesOf(act.tx, id) };
}

/** Open estimates, and the balance of the account they must add up to. */
export async function clearing(act: Act): Promise<ResponseOf<typeof contract.clearing>> {
  const rows = await openCharges(act);
  const [books] = await act.tx.db
    .select({ balance: sql<string>`-coalesce(sum(${journalLine.amount}), 0)::numeric(18, 2)` })
    .from(journalLine)
    .innerJoin(account, eq(account.id, journalLine.accountId))
    .where(eq(account.purpose, 'landed-clearing'));
  const balance = books?.balance ?? '0.00';
  if (!decimal(balance).eq(openEstimates(rows))) throw new Error(`the clearing account says ${balance}, its open entries ${openEstimates(rows)}`);
  return { rows, balance };
}
