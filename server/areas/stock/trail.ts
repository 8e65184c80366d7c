import type * as contract from '@larder/contract/stock';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { and, eq, exists, lte, or, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Sites } from '@larder/contract/rights';
import type { Act } from '../../act';
import { atSites } from '../../db/given';
import { jsonRow } from '../../db/json';
import { cursorOf, pageOf, paged, type Sort } from '../../db/paging';
import { item, lot, movement, movementLine, person, lineDocument, place, reason, site } from '../../db/schema/index';
import { placeInWords, plain } from '../../db/text';

type TrailQuery = QueryOf<typeof contract.trail>;

const from = alias(place, 'from_place');
const to = alias(place, 'to_place');
const fromSite = alias(site, 'from_site');
const toSite = alias(site, 'to_site');
const undo = alias(movement, 'undo');

/** The document that a line is shown with, which is joined to it; null where it has none. */
export const documentOf = sql<
  contract.TrailRow['document']
>`case when ${lineDocument.id} is not null then ${jsonRow({ kind: lineDocument.kind, id: lineDocument.id, number: lineDocument.number })} end`;

/** Whether a place counts for what is measured. */
function counts(at: typeof from | typeof to, { measure, siteId }: TrailQuery): SQL {
  const here = siteId === undefined ? sql`true` : sql`${at.siteId} is not distinct from ${siteId}`;
  if (measure === 'on-hand') return sql`(${at.kind} = 'bin' and ${at.sellable} and ${here})`;
  return measure === 'bench' ? sql`(${at.kind} = 'bench' and ${here})` : sql`(${at.owned} and ${here})`;
}

/** What came from one of these sites or went there; from the outside or to it, at either end. */
export const movedAt = (sites: Sites): SQL | undefined => (sites === null ? undefined : or(atSites(from.siteId, sites), atSites(to.siteId, sites)));

/** Movement lines, newest first: who, when, why, from where to where, how many, at what value. */
export async function trail(act: Act, query: TrailQuery): Promise<ResponseOf<typeof contract.trail>> {
  const { db } = act.tx;
  const sites = act.sites('look', query.siteId);
  const change = sql`(${counts(to, query)}::int - ${counts(from, query)}::int)`;
  const concerned = query.measure === 'all' && query.siteId === undefined ? undefined : or(counts(to, query), counts(from, query));
  const undone = exists(
    db
      .select({ one: sql`1` })
      .from(undo)
      .where(eq(undo.reverses, movement.id)),
  );
  const sort: Sort = { sql: movementLine.id, type: 'numeric' };
  const page = pageOf(sort, movementLine.id, { ...query, direction: 'down' });
  const rows = await db
    .select({
      lineId: movementLine.id,
      movementId: movement.id,
      kind: movement.kind,
      postedAt: movement.postedAt,
      effectiveOn: movementLine.effectiveOn,
      person: person.name,
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      from: placeInWords(from, fromSite),
      to: placeInWords(to, toSite),
      quantity: plain(movementLine.quantity),
      change: sql<string>`trim_scale(${movementLine.quantity} * ${change})`,
      value: movementLine.value,
      lotId: movementLine.lotId,
      lot: lot.code,
      document: documentOf,
      why: sql<string>`concat_ws(': ', ${reason.name}, nullif(${movement.note}, ''))`,
      undone: sql<boolean>`${undone}`,
      undoes: movement.reverses,
      ...cursorOf(sort, movementLine.id),
    })
    .from(movementLine)
    .innerJoin(movement, eq(movement.id, movementLine.movementId))
    .innerJoin(person, eq(person.id, movement.personId))
    .innerJoin(item, eq(item.id, movementLine.itemId))
    .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
    .innerJoin(to, eq(to.id, movementLine.toPlaceId))
    .leftJoin(fromSite, eq(fromSite.id, from.siteId))
    .leftJoin(toSite, eq(toSite.id, to.siteId))
    .leftJoin(lot, eq(lot.id, movementLine.lotId))
    .leftJoin(reason, eq(reason.id, movement.reasonId))
    .leftJoin(lineDocument, eq(lineDocument.lineId, movementLine.id))
    .where(
      and(
        query.itemId === undefined ? undefined : eq(movementLine.itemId, query.itemId),
        query.lotId === undefined ? undefined : eq(movementLine.lotId, query.lotId),
        query.placeId === undefined ? undefined : or(eq(movementLine.fromPlaceId, query.placeId), eq(movementLine.toPlaceId, query.placeId)),
        query.until === undefined ? undefined : lte(movementLine.effectiveOn, query.until),
        movedAt(sites),
        concerned,
        query.measure === 'all' ? undefined : sql`${change} <> 0`,
        page.after,
      ),
    )
    .orderBy(...page.order)
    .limit(page.limit);
  return paged(rows, query.limit);
}
