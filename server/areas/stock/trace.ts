import type * as contract from '@larder/contract/lots';
import type { FileAnswer, ResponseOf } from '@larder/contract/endpoint';
import { traceOf, type TraceRow } from '@larder/core/stock/trace';
import { and, eq, inArray, isNull, or, sql } from 'drizzle-orm';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { csvFile } from '../../documents/csvFile';
import { madeOf, wentInto } from './genealogy';
import { lot } from './lots';
import { among } from '../../db/given';
import { jsonRows } from '../../db/json';
import {
  bill,
  billLine,
  invoice,
  invoiceCover,
  invoiceLine,
  lineDocument,
  movement,
  movementLine,
  party,
  place,
  standingMovement,
} from '../../db/schema/index';
import { plain } from '../../db/text';
import { documentOf, movedAt } from './trail';

/** What other ways in and out are called. */
const ways: Readonly<Record<string, string>> = {
  supplier: 'without a supplier',
  opening: 'opening stock',
  'found-or-lost': 'found or lost',
  scrap: 'scrapped',
  'own-use': 'used in the business',
  made: 'made here',
};

const query = () => new QueryBuilder();
const from = alias(place, 'from_place');
const to = alias(place, 'to_place');

/** What moved of a lot and was not undone, in order, with the orders and bills it was for. */
/** Invoices over a line of a dispatch, and the credit notes that take something off those lines. */
const credited = alias(invoiceLine, 'credited_line');
const invoicesOf = jsonRows(
  { id: invoice.id, number: invoice.number, kind: invoice.kind },
  (select) =>
    select.from(invoice).where(
      inArray(
        invoice.id,
        query()
          .select({ id: invoiceLine.invoiceId })
          .from(invoiceCover)
          .innerJoin(credited, eq(credited.id, invoiceCover.invoiceLineId))
          .innerJoin(invoiceLine, or(eq(invoiceLine.id, credited.id), eq(invoiceLine.creditsLineId, credited.id)))
          .where(eq(invoiceCover.lineId, movementLine.id)),
      ),
    ),
  { orderBy: invoice.id },
);

const linesOf = async ({ tx: { db }, sites }: Act, itemId: number, lotId: number) =>
  db
    .select({
      movementId: movement.id,
      kind: movement.kind,
      quantity: plain(movementLine.quantity),
      day: movementLine.effectiveOn,
      note: movement.note,
      from: { placeId: from.id, kind: from.kind },
      to: { placeId: to.id, kind: to.kind },
      order: documentOf,
      invoices: invoicesOf,
      bills: jsonRows(
        { id: bill.id, number: bill.number },
        (select) =>
          select
            .from(bill)
            .where(
              and(
                isNull(bill.undoneAt),
                inArray(bill.id, db.select({ id: billLine.billId }).from(billLine).where(eq(billLine.purchaseLineId, movementLine.supplyLineId))),
              ),
            ),
        { orderBy: bill.id },
      ),
    })
    .from(movementLine)
    .innerJoin(standingMovement, eq(standingMovement.id, movementLine.movementId))
    .innerJoin(movement, eq(movement.id, movementLine.movementId))
    .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
    .innerJoin(to, eq(to.id, movementLine.toPlaceId))
    .leftJoin(lineDocument, eq(lineDocument.lineId, movementLine.id))
    .where(and(eq(movementLine.itemId, itemId), eq(movementLine.lotId, lotId), movedAt(sites('look'))))
    .orderBy(movementLine.seq);

/** Where a lot or serial came from and who got it; movements that were undone are left out. */
export async function trace(act: Act, id: number): Promise<ResponseOf<typeof contract.traceLot>> {
  const { itemId } = await lot(act, id);
  const lines = (await linesOf(act, itemId, id)).map((line) => ({ ...line, document: line.order?.number ?? '' }));
  const { came, went, held, here } = traceOf(lines);
  const places = await act.tx.db
    .select({
      id: place.id,
      kind: place.kind,
      who: sql<string>`coalesce(${party.name}, '')`,
      partyId: party.id,
      email: sql<string>`coalesce(${party.email}, '')`,
    })
    .from(place)
    .leftJoin(party, eq(party.id, place.partyId))
    .where(
      among(
        place.id,
        [...came, ...went, ...held].map(({ placeId }) => placeId),
      ),
    );
  const told = (row: TraceRow): contract.TraceRow => {
    const outside = places.find((one) => one.id === row.placeId);
    if (!outside) throw new Error('the place was not read');
    const own = lines.filter((line) => line.document === row.document && [line.from.placeId, line.to.placeId].includes(row.placeId));
    const days = own.map(({ day }) => day).sort();
    return {
      who: outside.who || (outside.kind === 'made' && went.includes(row) ? 'went into what was made' : (ways[outside.kind] ?? outside.kind)),
      kind: outside.kind,
      partyId: outside.partyId,
      email: outside.email,
      document: own[0]?.order ?? null,
      from: days[0] ?? '',
      to: days.at(-1) ?? '',
      quantity: row.quantity.toFixed(),
      back: row.back.toFixed(),
      note: [...new Set(own.map(({ note }) => note).filter((note) => note !== ''))].join('; '),
      bills: outside.kind === 'supplier' ? (own[0]?.bills ?? []) : [],
      invoices: act.sites('books.invoice') === null ? [...new Map(own.flatMap(({ invoices }) => invoices.map((one) => [one.id, one] as const))).values()] : [],
      steps: own.map(({ movementId, kind, day, quantity }) => ({ movementId, kind, day, quantity })),
    };
  };
  const [into, of] = [await wentInto(act, id), await madeOf(act, id)];
  return { came: came.map(told), went: went.map(told), held: held.map(told), here: here.toFixed(), into, of };
}

/** Who got it, one row for each order: a list to write letters by. */
export async function traceFile(act: Act, id: number): Promise<FileAnswer> {
  const { sku, code } = await lot(act, id);
  const { went, held, into } = await trace(act, id);
  const cells = [{ sku, code, rows: [...went.filter(({ kind }) => kind !== 'made'), ...held] }, ...(await furtherOn(act, into))].flatMap((of) =>
    of.rows.map((row) => [of.sku, of.code, row.who, row.email, row.document?.number ?? '', row.from, row.to, row.quantity, row.back]),
  );
  return csvFile(`trace-${code}`, ['SKU', 'Lot', 'Who', 'Mail address', 'Order', 'First day', 'Last day', 'Quantity', 'Came back'], [cells]);
}

/** Who got the lots that a lot went into, each lot once. */
export async function furtherOn(act: Act, into: ResponseOf<typeof contract.traceLot>['into']) {
  const lots = [...new Map(into.flatMap((one) => (one.lotId === null ? [] : [[one.lotId, one] as const]))).values()];
  const found: { sku: string; name: string; code: string; rows: contract.TraceRow[]; held: contract.TraceRow[] }[] = [];
  for (const { lotId, sku, name, lot: code } of lots) {
    const { went, held } = await trace(act, lotId as number);
    found.push({ sku, name, code: code ?? '', rows: went.filter(({ kind }) => kind !== 'made'), held });
  }
  return found;
}
