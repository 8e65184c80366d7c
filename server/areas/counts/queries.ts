import type * as contract from '@larder/contract/counts';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { countStages, countState } from '@larder/core/stock/counting';
import { Refusal } from '@larder/core/refusal';
import { and, asc, eq, exists, isNull, sql, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import { seenAt, type Act } from '../../act';
import { atSites, notNone } from '../../db/given';
import type { RowOf } from '../../db/json';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import { balance, company, costPool, countBin, countItem, countLine, countSheet, item, lot, person, place, site, unit } from '../../db/schema/index';
import { plain } from '../../db/text';
import { codesHere, codesOf } from '../../documents/codes';

export { dueSites } from './calendar';

const query = () => new QueryBuilder();
const counter = alias(person, 'counter_person');
const ofSheet = eq(countBin.sheetId, countSheet.id);
const bins = (where?: SQL) =>
  sql<number>`(${query()
    .select({ n: sql`count(*)::int` })
    .from(countBin)
    .where(and(ofSheet, where))})`;
const lines = (where?: SQL) =>
  sql<number>`(${query()
    .select({ n: sql`count(*)::int` })
    .from(countLine)
    .innerJoin(countBin, eq(countBin.id, countLine.binId))
    .where(and(ofSheet, where))})`;
const isDone = sql`${countBin.doneAt} is not null`;
const isBegun = sql`(${countBin.heldAt} is not null or ${countBin.doneAt} is not null or exists (${query()
  .select({ one: sql`1` })
  .from(countLine)
  .where(eq(countLine.binId, countBin.id))}))`;
const figures = {
  bins: bins(),
  begun: bins(isBegun),
  done: bins(isDone),
  lines: lines(),
  differing: lines(sql`${countLine.counted} <> ${countLine.expected}`),
  settled: lines(sql`${countLine.settledAt} is not null`),
};
const fields = {
  id: countSheet.id,
  number: countSheet.number,
  siteId: countSheet.siteId,
  site: site.name,
  day: sql<string>`(${countSheet.createdAt} at time zone ${company.timeZone})::date::text`,
  person: person.name,
  note: countSheet.note,
  closed: sql<boolean>`${countSheet.closedAt} is not null`,
  ...figures,
  people: sql<string>`coalesce((${query()
    .select({ all: sql`string_agg(distinct ${counter.name}, ', ')` })
    .from(countBin)
    .innerJoin(counter, eq(counter.id, countBin.heldBy))
    .where(ofSheet)}), '')`,
};
type Row = RowOf<typeof fields>;
const told = ({ closed, begun, ...row }: Row): contract.CountRow => ({ ...row, state: countState({ ...row, begun, closed }) });

const open = isNull(countSheet.closedAt);
const review = and(open, sql`${figures.done} = ${figures.bins}`);
const shows: Record<QueryOf<typeof contract.listCounts>['show'], SQL | undefined> = {
  open,
  planned: and(open, sql`${figures.begun} = 0`),
  counting: and(open, sql`${figures.begun} > 0`, sql`${figures.done} < ${figures.bins}`),
  review,
  done: sql`${countSheet.closedAt} is not null`,
  all: undefined,
};
const listed = (act: Act, { q, show, siteId }: QueryOf<typeof contract.countsInAll>): SQL | undefined =>
  and(
    shows[show],
    atSites(countSheet.siteId, act.sites('look', siteId)),
    everyWord(sql`lower(concat_ws(' ', ${countSheet.number}, ${site.name}, ${person.name}, ${countSheet.note}))`, q),
  );

const from = (act: Act) =>
  act.tx.db
    .select(fields)
    .from(countSheet)
    .innerJoin(site, eq(site.id, countSheet.siteId))
    .innerJoin(person, eq(person.id, countSheet.createdBy))
    .crossJoin(company)
    .$dynamic();

/** Counts, newest first. */
export async function counts(act: Act, asked: QueryOf<typeof contract.listCounts>): Promise<ResponseOf<typeof contract.listCounts>> {
  const sort: Sort = { sql: countSheet.createdAt, type: 'timestamptz' };
  const page = pageOf(sort, countSheet.id, { ...asked, direction: 'down' });
  const rows = await act.tx.db
    .select({ ...fields, ...cursorOf(sort, countSheet.id) })
    .from(countSheet)
    .innerJoin(site, eq(site.id, countSheet.siteId))
    .innerJoin(person, eq(person.id, countSheet.createdBy))
    .crossJoin(company)
    .where(and(listed(act, asked), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  const { rows: shown, next } = paged(rows, asked.limit);
  return { rows: shown.map(told), next };
}

export async function countsInAll(act: Act, asked: QueryOf<typeof contract.countsInAll>): Promise<ResponseOf<typeof contract.countsInAll>> {
  const [row] = await act.tx.db
    .select({ count: sql<number>`count(*)::int` })
    .from(countSheet)
    .innerJoin(site, eq(site.id, countSheet.siteId))
    .innerJoin(person, eq(person.id, countSheet.createdBy))
    .where(listed(act, asked));
  return row ?? { count: 0 };
}

const holder = alias(person, 'holder');
const doer = alias(person, 'doer');
const ofBin = (where?: SQL) =>
  sql<number>`(${query()
    .select({ n: sql`count(*)::int` })
    .from(countLine)
    .where(and(eq(countLine.binId, countBin.id), where))})`;
const binFields = {
  placeId: place.id,
  bin: place.code,
  zone: place.zone,
  retired: sql<boolean>`${place.retiredAt} is not null`,
  heldById: countBin.heldBy,
  heldBy: holder.name,
  doneBy: doer.name,
  done: sql<boolean>`${countBin.doneAt} is not null`,
  counted: ofBin(),
  recount: ofBin(sql`${countLine.recount} is not null`),
};
const binRows = ({ tx: { db } }: Act, where: SQL | undefined) =>
  db
    .select({ ...binFields, binId: countBin.id })
    .from(countBin)
    .innerJoin(place, eq(place.id, countBin.placeId))
    .leftJoin(holder, eq(holder.id, countBin.heldBy))
    .leftJoin(doer, eq(doer.id, countBin.doneBy))
    .where(where)
    .orderBy(asc(place.unplaced), asc(place.walk), asc(place.code));

export async function getCount(act: Act, id: number): Promise<ResponseOf<typeof contract.getCount>> {
  const [row] = await from(act).where(eq(countSheet.id, id));
  const [sheet] = await act.tx.db.select().from(countSheet).where(eq(countSheet.id, id));
  if (!row || !sheet) throw new Refusal(404, 'not-found', 'There is no such count.');
  const { blind, recountShare, recountValue, plan } = sheet;
  return seenAt(act, {
    ...told(row),
    closed: row.closed,
    blind,
    recountShare,
    recountValue,
    plan,
    stages: countStages(row),
    binRows: (await binRows(act, eq(countBin.sheetId, id))).map(({ binId: _id, ...bin }) => bin),
  });
}

/** Whether the sheet counts this item, where it counts some only. */
export const chosenBy = (sheetId: number, itemId: PgColumn): SQL =>
  exists(
    query()
      .select({ one: sql`1` })
      .from(countItem)
      .where(and(eq(countItem.sheetId, sheetId), eq(countItem.itemId, itemId))),
  );

/** What is to be counted in a bin: what lies there now, of what the count is about, and what was counted though it did not. */
export async function binToCount(act: Act, id: number, placeId: number): Promise<ResponseOf<typeof contract.countBin>> {
  const { db } = act.tx;
  const [sheet] = await db.select().from(countSheet).where(eq(countSheet.id, id));
  const all = await binRows(act, eq(countBin.sheetId, id));
  const at = all.findIndex((one) => one.placeId === placeId);
  const bin = all[at];
  if (!sheet || !bin) throw new Refusal(404, 'not-found', 'That bin is not on this count.');
  const { binId, ...shown } = bin;
  const lying = and(eq(balance.placeId, placeId), notNone(balance.quantity), sheet.restricted ? chosenBy(id, balance.itemId) : undefined);
  const there = db.$with('there').as(db.select({ itemId: balance.itemId, lotId: balance.lotId, quantity: balance.quantity }).from(balance).where(lying));
  const counted = db
    .$with('counted')
    .as(
      db
        .select({ itemId: countLine.itemId, lotId: countLine.lotId, counted: countLine.counted, recount: countLine.recount, settledAt: countLine.settledAt })
        .from(countLine)
        .where(eq(countLine.binId, binId)),
    );
  const itemId = sql<number>`coalesce(${there.itemId}, ${counted.itemId})`;
  const lotId = sql<number | null>`coalesce(${there.lotId}, ${counted.lotId})`;
  const isBlind = sheet.blind && !bin.done;
  const rows = await db
    .with(there, counted)
    .select({
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      step: plain(unit.step),
      tracking: item.tracking,
      lotId,
      lot: lot.code,
      useBy: lot.useBy,
      lotKind: lot.kind,
      tag: lot.tag,
      expected: sql<string>`trim_scale(coalesce(${there.quantity}, 0))::text`,
      counted: sql<string | null>`trim_scale(${counted.counted})::text`,
      recount: counted.recount,
      settled: sql<boolean>`${counted.settledAt} is not null`,
      listed: sql<boolean>`${there.itemId} is not null`,
      seq: costPool.lastSeq,
      itemCodes: codesOf(item.id, { suppliers: false }),
    })
    .from(there)
    .fullJoin(counted, and(eq(counted.itemId, there.itemId), sql`${counted.lotId} is not distinct from ${there.lotId}`))
    .innerJoin(item, eq(item.id, itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(costPool, eq(costPool.itemId, item.id))
    .leftJoin(lot, eq(lot.id, lotId))
    .orderBy(item.sku, sql`${lot.useBy} nulls last`, lot.code);
  const onward = [...all.slice(at + 1), ...all.slice(0, at)].find((one) => !one.done && one.heldById === null && !one.retired);
  return seenAt(act, {
    ...shown,
    siteId: sheet.siteId,
    number: sheet.number,
    blind: sheet.blind,
    closed: sheet.closedAt !== null,
    restricted: sheet.restricted,
    rows: rows.map(({ lotKind, tag, itemCodes, expected, ...row }) => ({
      ...row,
      expected: isBlind ? null : expected,
      codes: codesHere({ lotKind, lot: row.lot, tag, itemCodes }),
    })),
    next: onward ? { placeId: onward.placeId, bin: onward.bin } : null,
  });
}
