import { decimal, sum } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import type * as contract from '@larder/contract/bills';
import type * as carriers from '@larder/contract/carriers';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { and, eq, gt, isNotNull, isNull, ne, notExists, or, sql, type SQL } from 'drizzle-orm';
import { QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import {
  bill as table,
  billLine,
  carrier,
  carrierBill,
  item,
  journalEntry,
  journalLine,
  landedCharge,
  landedReceipt,
  landedSheet,
  movementLine,
  parcel,
  party,
  payment,
  purchaseLine,
  purchaseOrder,
  purchaseTerms,
  salesOrder,
} from '../../db/schema/index';
import { lower, plain } from '../../db/text';
import { Entry } from '../../ledger/entry';
import { parcelsToBill } from './ordered';
import type { Form } from './work';

/** What standing payments have paid of a bill, and what they took off what is owed. */
const paidNow = new QueryBuilder()
  .select({
    paid: sql<string>`coalesce(sum(${payment.amount}), 0)`.as('paid'),
    settled: sql<string>`coalesce(sum(${payment.settled}), 0)`.as('paid_off'),
  })
  .from(payment)
  .where(and(eq(payment.billId, table.id), isNull(payment.undoneAt)))
  .as('paid_now');

const total = sql<string>`(${table.net} + ${table.tax})`;

const rowFields = {
  id: table.id,
  number: table.number,
  kind: table.kind,
  partyId: table.partyId,
  party: party.name,
  reference: table.reference,
  billedOn: table.billedOn,
  dueOn: table.dueOn,
  currency: table.currency,
  total,
  open: sql<string>`case when ${table.undoneAt} is not null or ${table.postedAt} is null then 0 else ${total} - ${paidNow.paid} end`,
  state: sql<contract.BillRow['state']>`case when ${table.undoneAt} is not null then 'undone' when ${table.postedAt} is null then 'waiting'
    when ${paidNow.paid} = 0 then 'open' when ${paidNow.paid} < ${total} then 'part paid' else 'paid' end`,
};

type ListQuery = QueryOf<typeof contract.listBills>;
const shows: Record<ListQuery['show'], SQL | undefined> = {
  open: and(isNotNull(table.postedAt), isNull(table.undoneAt), sql`${paidNow.paid} < ${total}`),
  waiting: and(isNull(table.postedAt), isNull(table.undoneAt)),
  all: undefined,
};

type Row = Omit<contract.BillRow, 'late'>;
const withLate = <R extends Row>(row: R, today: string): R & { late: boolean } => ({
  ...row,
  late: row.dueOn !== null && row.dueOn < today && (row.state === 'open' || row.state === 'part paid'),
});

const ofBill = new QueryBuilder()
  .select({ all: sql`string_agg(concat_ws(' ', ${payment.amount}::text, ${payment.paidOn}::text, to_char(${payment.paidOn}, 'FMDD/FMMM')), ' ')` })
  .from(payment)
  .where(eq(payment.billId, table.id));
/** What bills are found by: numbers, party, amounts and days. */
const words = sql`lower(concat_ws(' ', ${table.number}, ${table.reference}, ${party.name}, ${total}::text, ${table.billedOn}::text, to_char(${table.billedOn}, 'FMDD/FMMM'), (${ofBill})))`;

/** Conditions of a list of bills; their party and what was paid are joined. */
const listed = (query: ListQuery): SQL | undefined =>
  and(shows[query.show], everyWord(words, query.q), query.partyId === undefined ? undefined : eq(table.partyId, query.partyId));

/** How many bills the list has in all, and what of them is still to be paid in each currency, credits taken off. */
export async function billsInAll({ tx }: Act, query: ListQuery): Promise<ResponseOf<typeof contract.billsInAll>> {
  const rows = await tx.db
    .select({
      currency: table.currency,
      count: sql<number>`count(*)::int`,
      amount: sql<string>`sum(case ${table.kind} when 'credit' then -1 else 1 end * ${rowFields.open})`,
    })
    .from(table)
    .innerJoin(party, eq(party.id, table.partyId))
    .innerJoinLateral(paidNow, sql`true`)
    .where(listed(query))
    .groupBy(table.currency)
    .orderBy(table.currency);
  return { count: rows.reduce((all, { count }) => all + count, 0), open: rows.map(({ currency, amount }) => ({ currency, amount })) };
}

/** Bills, those due first; words look through numbers, party, amount and day. */
export async function bills({ tx, today }: Act, query: ListQuery): Promise<ResponseOf<typeof contract.listBills>> {
  const sort: Sort = { sql: query.show === 'all' ? table.billedOn : sql`coalesce(${table.dueOn}, ${table.billedOn})`, type: 'date' };
  const page = pageOf(sort, table.id, { ...query, direction: query.show === 'all' ? 'down' : 'up' });
  const rows = await tx.db
    .select({ ...rowFields, ...cursorOf(sort, table.id) })
    .from(table)
    .innerJoin(party, eq(party.id, table.partyId))
    .innerJoinLateral(paidNow, sql`true`)
    .where(and(listed(query), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  const { rows: shown, next } = paged(rows, query.limit);
  return { rows: shown.map((row) => withLate(row, today)), next };
}

const linesOf = async ({ db }: Act['tx'], billId: number): Promise<contract.Bill['lines']> =>
  db
    .select({
      kind: billLine.kind,
      text: sql<string>`case ${billLine.kind} when 'goods' then ${purchaseOrder.number} || ' line ' || ${purchaseLine.position} || ', ' || ${item.sku} || ' ' || ${item.name}
        when 'charge' then ${landedSheet.number} || ', ' || ${landedCharge.name}
        when 'parcel' then ${parcel.number} || ' for ' || ${salesOrder.number} || ', ' || ${parcel.tracking} else ${billLine.text} end`,
      quantity: plain(billLine.quantity),
      amount: billLine.amount,
      cleared: billLine.cleared,
      difference: billLine.difference,
      toStock: billLine.toStock,
      words: sql<string>`''`,
    })
    .from(billLine)
    .leftJoin(purchaseLine, eq(purchaseLine.id, billLine.purchaseLineId))
    .leftJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .leftJoin(item, eq(item.id, purchaseLine.itemId))
    .leftJoin(landedCharge, eq(landedCharge.id, billLine.chargeId))
    .leftJoin(landedSheet, eq(landedSheet.id, landedCharge.sheetId))
    .leftJoin(parcel, eq(parcel.id, billLine.parcelId))
    .leftJoin(salesOrder, eq(salesOrder.id, parcel.orderId))
    .where(eq(billLine.billId, billId))
    .orderBy(billLine.position);

const paymentsOf = async ({ db }: Act['tx'], billId: number): Promise<contract.Bill['payments']> =>
  db
    .select({
      id: payment.id,
      paidOn: payment.paidOn,
      amount: payment.amount,
      exchange: payment.exchange,
      note: payment.note,
      undone: sql<boolean>`${payment.undoneAt} is not null`,
    })
    .from(payment)
    .where(eq(payment.billId, billId))
    .orderBy(payment.id);

export async function bill(act: Act, id: number): Promise<contract.Bill> {
  const { db } = act.tx;
  const [row] = await db
    .select({ ...rowFields, rate: plain(table.rate), net: table.net, tax: table.tax, owed: table.owed, bookedOn: table.bookedOn, note: table.note })
    .from(table)
    .innerJoin(party, eq(party.id, table.partyId))
    .innerJoinLateral(paidNow, sql`true`)
    .where(eq(table.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such bill.');
  const written = await db
    .select({ accountId: journalLine.accountId, itemId: journalLine.itemId, amount: journalLine.amount })
    .from(journalEntry)
    .innerJoin(journalLine, eq(journalLine.entryId, journalEntry.id))
    .where(and(eq(journalEntry.billId, id), isNull(journalEntry.paymentId)));
  const entry = await Entry.open(act);
  written.forEach(({ accountId, itemId, amount }) => entry.add(accountId, decimal(amount), itemId));
  return { ...withLate(row, act.today), lines: await linesOf(act.tx, id), payments: await paymentsOf(act.tx, id), ...entry.effects() };
}

/** A bill as it was entered, and how it stands. */
export async function formOf({ tx: { db } }: Act, id: number) {
  const [row] = await db
    .select({
      ...rowFields,
      paid: sql<boolean>`${paidNow.paid} > 0`,
      /** What standing payments took off it. */
      settled: paidNow.settled,
      owed: table.owed,
      rate: table.rate,
      note: table.note,
    })
    .from(table)
    .innerJoin(party, eq(party.id, table.partyId))
    .innerJoinLateral(paidNow, sql`true`)
    .where(eq(table.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such bill.');
  const lines = await db
    .select({
      kind: billLine.kind,
      purchaseLineId: billLine.purchaseLineId,
      quantity: billLine.quantity,
      price: billLine.price,
      chargeId: billLine.chargeId,
      parcelId: billLine.parcelId,
      final: billLine.final,
      accountId: billLine.accountId,
      text: billLine.text,
      amount: billLine.amount,
      taxCodeId: billLine.taxCodeId,
    })
    .from(billLine)
    .where(eq(billLine.billId, id))
    .orderBy(billLine.position);
  const form: Form = { ...row, lines: lines.map(formLine), knownReference: true, waits: false, sentBack: false };
  return { ...row, form };
}

type WrittenLine = Pick<
  typeof billLine.$inferSelect,
  'kind' | 'purchaseLineId' | 'quantity' | 'price' | 'chargeId' | 'parcelId' | 'final' | 'accountId' | 'text' | 'amount' | 'taxCodeId'
>;

/** A line as it was entered: what a line of its kind names is there. */
function formLine({
  kind,
  purchaseLineId,
  quantity,
  price,
  chargeId,
  parcelId,
  final,
  accountId,
  text,
  amount,
  taxCodeId,
}: WrittenLine): Form['lines'][number] {
  if (kind === 'charge' && chargeId !== null) return { kind, chargeId, final, amount, taxCodeId };
  if (kind === 'parcel' && parcelId !== null) return { kind, parcelId, amount, taxCodeId };
  if (kind === 'other' && accountId !== null) return { kind, accountId, text, amount, taxCodeId };
  if (kind === 'goods' && purchaseLineId !== null)
    return quantity === null || price === null ? { kind: 'credit', purchaseLineId, amount, taxCodeId } : { kind, purchaseLineId, quantity, price, taxCodeId };
  throw new Error(`a line of ${kind} names nothing of its kind`);
}

/** The deliveries that a worksheet is over, by their orders' numbers. */
export const deliveriesOf = (sheetId: PgColumn) =>
  sql<string | null>`(${new QueryBuilder()
    .select({ all: sql`string_agg(distinct coalesce(${purchaseOrder.number}, 'receipt ' || ${landedReceipt.movementId}), ', ')` })
    .from(landedReceipt)
    .leftJoin(movementLine, eq(movementLine.movementId, landedReceipt.movementId))
    .leftJoin(purchaseTerms, eq(purchaseTerms.id, movementLine.supplyLineId))
    .leftJoin(purchaseOrder, eq(purchaseOrder.id, purchaseTerms.orderId))
    .where(eq(landedReceipt.sheetId, sheetId))})`;

/** Estimates of charges that wait for a bill, oldest first. */
export const openCharges = async ({ tx: { db } }: Act): Promise<contract.OpenCharge[]> =>
  db
    .select({
      id: landedCharge.id,
      sheetId: landedCharge.sheetId,
      sheet: landedSheet.number,
      name: landedCharge.name,
      partyId: landedCharge.partyId,
      party: party.name,
      estimate: landedCharge.estimate,
      cleared: landedCharge.cleared,
      open: sql<string>`${landedCharge.estimate} - ${landedCharge.cleared}`,
      since: sql<string>`${landedSheet.createdAt}::date`,
      deliveries: sql<string>`${deliveriesOf(landedSheet.id)}`,
    })
    .from(landedCharge)
    .innerJoin(landedSheet, eq(landedSheet.id, landedCharge.sheetId))
    .leftJoin(party, eq(party.id, landedCharge.partyId))
    .where(and(isNull(landedCharge.removedAt), isNull(landedCharge.settledAt), gt(landedCharge.estimate, landedCharge.cleared)))
    .orderBy(landedSheet.id, landedCharge.position);

export async function billable(act: Act, partyId: number): Promise<ResponseOf<typeof contract.billable>> {
  const toBill = or(
    ne(purchaseLine.received, purchaseLine.billed),
    and(purchaseLine.active, sql`${purchaseLine.baseQuantity} - ${purchaseLine.cancelled} > ${purchaseLine.billed}`),
  );
  const lines = await act.tx.db
    .select({
      purchaseLineId: purchaseLine.id,
      orderId: purchaseOrder.id,
      orderNumber: purchaseOrder.number,
      position: purchaseLine.position,
      sku: item.sku,
      name: item.name,
      unit: purchaseLine.unit,
      factor: sql<string>`trim_scale(${purchaseLine.baseQuantity} / ${purchaseLine.quantity})`,
      ordered: plain(purchaseLine.baseQuantity),
      received: plain(purchaseLine.received),
      returned: plain(purchaseLine.returned),
      billed: plain(purchaseLine.billed),
      price: plain(purchaseLine.price),
      pricePer: plain(purchaseLine.pricePer),
      taxCodeId: sql<number | null>`coalesce(${purchaseLine.taxCodeId}, ${item.taxCodeId})`,
      currency: purchaseLine.currency,
      rate: plain(purchaseLine.rate),
    })
    .from(purchaseLine)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .innerJoin(item, eq(item.id, purchaseLine.itemId))
    .where(and(eq(purchaseOrder.supplierId, partyId), isNotNull(purchaseOrder.placedAt), toBill))
    .orderBy(purchaseOrder.id, purchaseLine.position)
    .limit(500);
  const charges = await openCharges(act);
  return { lines, charges: [...charges.filter((one) => one.partyId === partyId), ...charges.filter((one) => one.partyId !== partyId)] };
}

/** Sum of the open estimates, in company currency. */
export const openEstimates = (rows: readonly contract.OpenCharge[]): string => sum(rows.map(({ open }) => decimal(open))).toFixed(2);

/** Parcels that a party's carriers are still to bill, and the bills that came over their interface and were not entered yet, each line with its parcel. */
export async function carriersBills(act: Act, partyId: number): Promise<ResponseOf<typeof carriers.carriersBills>> {
  const parcels = await parcelsToBill(act, partyId);
  const entered = act.tx.db
    .select({ one: sql`1` })
    .from(table)
    .where(and(eq(table.partyId, carrier.partyId), eq(lower(table.reference), lower(carrierBill.reference)), isNull(table.undoneAt)));
  const sent = await act.tx.db
    .select({ id: carrierBill.id, reference: carrierBill.reference, billedOn: carrierBill.billedOn, dueOn: carrierBill.dueOn, lines: carrierBill.lines })
    .from(carrierBill)
    .innerJoin(carrier, eq(carrier.id, carrierBill.carrierId))
    .where(and(eq(carrier.partyId, partyId), notExists(entered)))
    .orderBy(carrierBill.billedOn, carrierBill.id);
  return {
    parcels: parcels.map(({ id, number, orderId, order, tracking, expected, since }) => ({ id, number, orderId, order, tracking, expected, since })),
    sent: sent.map(({ lines, ...one }) => ({
      ...one,
      lines: lines.map(({ tracking, amount }) => ({ tracking, amount, parcelId: parcels.find((parcel) => parcel.tracking === tracking)?.id ?? null })),
    })),
  };
}
