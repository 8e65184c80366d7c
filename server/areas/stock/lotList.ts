import type * as contract from '@larder/contract/lots';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { and, eq, exists, not, or, sql, type SQL } from 'drizzle-orm';
import { atSites, positive } from '../../db/given';
import { QueryBuilder } from 'drizzle-orm/pg-core';
import type { Sites } from '@larder/contract/rights';
import type { Act } from '../../act';
import { cursorOf, everyWord, pageOf, paged, type Sort } from '../../db/paging';
import { attributeValue, balance, item, lot, place, reminder, site } from '../../db/schema/index';
import { lower, placeInWords, sameText } from '../../db/text';

type LotQuery = QueryOf<typeof contract.listLots>;

const sorts: Record<LotQuery['sort'], Sort> = {
  code: { sql: lower(lot.code), type: 'text' },
  sku: { sql: lower(item.sku), type: 'text' },
  useBy: { sql: sql`coalesce(${lot.useBy}, '9999-12-31')`, type: 'date' },
  warrantyUntil: { sql: sql`coalesce(${lot.warrantyUntil}, '9999-12-31')`, type: 'date' },
};

/** What lots and serial units are found by; their item is joined. */
export const lotWords = sql`lower(${lot.code} || ' ' || coalesce(${lot.tag}, '') || ' ' || ${item.sku} || ' ' || ${item.name} || ' ' || ${lot.condition})`;

/** Some of a lot lies in a place of ours. */
const inPlace = and(eq(balance.itemId, lot.itemId), eq(balance.lotId, lot.id), positive(balance.quantity), place.owned);

/** Whether some of a lot lies in places of ours, at one of these sites. */
const here = (sites: Sites): SQL =>
  exists(
    new QueryBuilder()
      .select({ one: sql`1` })
      .from(balance)
      .innerJoin(place, eq(place.id, balance.placeId))
      .where(and(inPlace, atSites(place.siteId, sites))),
  );

const states: Record<LotQuery['state'], SQL | undefined> = {
  here: here(null),
  past: and(lot.pastUse, here(null)),
  gone: not(here(null)),
  all: undefined,
};

/** Lots that have the attribute, with that value if one is given. */
const withAttribute = (attributeId: number, value: string | undefined): SQL =>
  exists(
    new QueryBuilder()
      .select({ one: sql`1` })
      .from(attributeValue)
      .where(and(eq(attributeValue.lotId, lot.id), eq(attributeValue.attributeId, attributeId), value ? sameText(attributeValue.value, value) : undefined)),
  );

/** Conditions of a list of lots; their item is joined. */
export const lotConditions = (query: Omit<LotQuery, 'sort' | 'direction' | 'limit' | 'cursor'>): SQL | undefined =>
  and(
    everyWord(lotWords, query.q),
    states[query.state],
    query.kind === undefined ? undefined : eq(lot.kind, query.kind),
    query.itemId === undefined ? undefined : eq(lot.itemId, query.itemId),
    query.siteId === undefined || query.state === 'gone' ? undefined : here([query.siteId]),
    query.attributeId === undefined ? undefined : withAttribute(query.attributeId, query.attributeValue),
  );

/** Lots that lie at one of these sites, and those that are with none of ours: what lies only at others is not shown. */
export const lotsSeen = (sites: Sites): SQL | undefined => (sites === null ? undefined : or(here(sites), not(here(null))));

const listed = (query: LotQuery, sites: Sites): SQL | undefined => and(lotConditions(query), query.siteId === undefined ? lotsSeen(sites) : undefined);

/** How many lots and serial units the list has in all. */
export async function lotsInAll(act: Act, query: LotQuery): Promise<ResponseOf<typeof contract.lotsInAll>> {
  const found = act.tx.db
    .select({ id: lot.id })
    .from(lot)
    .innerJoin(item, eq(item.id, lot.itemId))
    .where(listed(query, act.sites('look', query.siteId)));
  return { count: await act.tx.db.$count(found.as('found')) };
}

/** Lots and serial units, each with how much of it is here and where. */
export async function lotList(act: Act, query: LotQuery): Promise<ResponseOf<typeof contract.listLots>> {
  const { db } = act.tx;
  const sites = act.sites('look', query.siteId);
  const sort = sorts[query.sort];
  const page = pageOf(sort, lot.id, query);
  const lying = db
    .select({
      quantity: sql<string | null>`trim_scale(sum(${balance.quantity}))`.as('quantity_here'),
      places: sql<string | null>`string_agg(${placeInWords(place, site)}, ', ' order by ${balance.quantity} desc)`.as('places'),
    })
    .from(balance)
    .innerJoin(place, eq(place.id, balance.placeId))
    .leftJoin(site, eq(site.id, place.siteId))
    .where(and(inPlace, atSites(place.siteId, sites)))
    .as('lying');
  const attributes = db
    .select({ all: sql`coalesce(json_object_agg(${attributeValue.attributeId}, ${attributeValue.value}), '{}')` })
    .from(attributeValue)
    .where(eq(attributeValue.lotId, lot.id));
  const rows = await db
    .select({
      id: lot.id,
      itemId: lot.itemId,
      sku: item.sku,
      name: item.name,
      kind: lot.kind,
      code: lot.code,
      tag: lot.tag,
      useBy: lot.useBy,
      pastUse: lot.pastUse,
      condition: lot.condition,
      boughtOn: lot.boughtOn,
      warrantyUntil: lot.warrantyUntil,
      quantity: sql<string>`coalesce(${lying.quantity}, 0)`,
      where: sql<string>`coalesce(${lying.places}, '')`,
      reminds: sql<boolean>`${exists(
        db
          .select({ one: sql`1` })
          .from(reminder)
          .where(eq(reminder.lotId, lot.id)),
      )}`,
      attributes: sql<Record<string, string>>`(${attributes})`,
      ...cursorOf(sort, lot.id),
    })
    .from(lot)
    .innerJoin(item, eq(item.id, lot.itemId))
    .leftJoinLateral(lying, sql`true`)
    .where(and(listed(query, sites), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  return paged(rows, query.limit);
}
