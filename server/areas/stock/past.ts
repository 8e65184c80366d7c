import type * as contract from '@larder/contract/stock';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import type { Sites } from '@larder/contract/rights';
import { Refusal, refuseField } from '@larder/core/refusal';
import { and, eq, sql, type SQL } from 'drizzle-orm';
import type { Act } from '../../act';
import type { Db } from '../../db/database';
import { atSites, notNone, positive } from '../../db/given';
import { jsonList } from '../../db/json';
import { cursorOf, everyWord, pageOf, paged, type Sort } from '../../db/paging';
import { item, lot, place, site, unit } from '../../db/schema/index';
import { lower } from '../../db/text';
import { itemsHeld } from '../../documents/itemsHeld';
import { heldParts, pastDay, type PastDay } from '../../documents/pastDays';
import { figuresBySite, figuresOn } from './pastFigures';

type PastQuery = QueryOf<typeof contract.pastStock>;

const whole = (figure: SQL | SQL.Aliased) => sql<string>`trim_scale(${figure})::text`;

/** The day that is looked at, which is over or today. */
export async function dayAsked({ tx, today }: Act, asOf: string): Promise<PastDay> {
  if (asOf > today) throw refuseField(422, 'in-the-future', 'asOf', 'Give today or a day before it.');
  return pastDay(tx.db, asOf);
}

/** Stock per item as it stood at the end of a day, over all sites, some or one. */
export async function pastStock(act: Act, query: PastQuery): Promise<ResponseOf<typeof contract.pastStock>> {
  if (!act.seesCosts && ['unitCost', 'value'].includes(query.sort)) throw new Refusal(403, 'no-right', 'You do not have the right to see what stock costs.');
  const { rows, where } = stoodOn(act, query, await dayAsked(act, query.asOf));
  // Named whole: what is shown of them has the same short names, and is text.
  const of = (name: string) => sql`past.${sql.identifier(name)}`;
  const sorts: Record<PastQuery['sort'], Sort> = {
    sku: { sql: lower(of('sku')), type: 'text' },
    name: { sql: of('name'), type: 'text' },
    onHand: { sql: of('on_hand'), type: 'numeric' },
    inTransit: { sql: of('in_transit'), type: 'numeric' },
    onLoan: { sql: of('on_loan'), type: 'numeric' },
    quarantine: { sql: of('quarantine'), type: 'numeric' },
    unitCost: { sql: of('unit_cost'), type: 'numeric' },
    value: { sql: of('value'), type: 'numeric' },
  };
  const sort = sorts[query.sort];
  const page = pageOf(sort, sql`${rows.itemId}`, query);
  const found = await act.tx.db
    .select({
      itemId: rows.itemId,
      sku: rows.sku,
      name: rows.name,
      unit: rows.unit,
      onHand: whole(rows.onHand),
      bench: whole(rows.bench),
      inTransit: whole(rows.inTransit),
      onLoan: whole(rows.onLoan),
      quarantine: whole(rows.quarantine),
      unitCost: whole(rows.unitCost),
      value: rows.value,
      ...cursorOf(sort, sql`${rows.itemId}`),
    })
    .from(rows)
    .where(and(where, page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  return paged(found, query.limit);
}

/** How many items the table of a past day has in all, and what they were worth together. */
export const pastInAll = async (act: Act, query: PastQuery): Promise<ResponseOf<typeof contract.pastInAll>> =>
  pastInAllFrom(act, query, await dayAsked(act, query.asOf));

/** The same, reckoned from where it is said. */
export async function pastInAllFrom(act: Act, query: PastQuery, past: PastDay): Promise<ResponseOf<typeof contract.pastInAll>> {
  const { rows, where } = stoodOn(act, query, past);
  const [all] = await act.tx.db
    .select({ count: sql<number>`count(*)::int`, value: sql<string>`coalesce(sum(${rows.value}), 0)` })
    .from(rows)
    .where(where);
  return all ?? { count: 0, value: '0' };
}

/** The items of the question, as a table with their figures at the end of the day, and the condition of their state. */
function stoodOn(act: Act, { q, state, siteId, zone, asOf: _day, ...held }: PastQuery, past: PastDay) {
  const { db } = act.tx;
  const sites = act.sites('look', siteId);
  const figures = figuresOn(db, past, sites, { zone: zone || undefined });
  const none = (figure: SQL.Aliased<string>, name: string) => sql<string>`coalesce(${figure}, 0)`.as(name);
  const rows = db
    .select({
      itemId: sql<number>`${item.id}`.as('id'),
      sku: sql<string>`${item.sku}`.as('sku'),
      name: sql<string>`${item.name}`.as('name'),
      unit: sql<string>`${unit.code}`.as('unit'),
      onHand: none(figures.onHand, 'on_hand'),
      bench: none(figures.bench, 'bench'),
      inTransit: none(figures.inTransit, 'in_transit'),
      onLoan: none(figures.onLoan, 'on_loan'),
      quarantine: none(figures.quarantine, 'quarantine'),
      unitCost: none(figures.unitCost, 'unit_cost'),
      value: sql<string>`coalesce(${figures.value}, 0)::numeric(18, 2)`.as('value'),
    })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(figures, eq(figures.itemId, item.id))
    .where(and(everyWord(item.findable, q), itemsHeld(filled(held), { site: undefined, sites: null }), zone ? positive(figures.inZone) : undefined))
    .as('past');
  const where = { all: undefined, 'in-stock': positive(rows.onHand), out: sql`${rows.onHand} = 0` }[state];
  return { rows, where };
}

/** Stock as it stood, in a row for each item and site that had something of it: for a file. */
export function pastBySite(
  db: Db,
  past: PastDay,
  sites: Sites,
  { state, zone, asOf, ...held }: Omit<PastQuery, 'sort' | 'direction' | 'limit' | 'cursor' | 'q' | 'siteId'>,
  words: SQL | undefined,
) {
  const by = figuresBySite(db, past, { zone: zone || undefined });
  return db
    .select({
      sku: item.sku,
      name: item.name,
      site: site.name,
      asOf: sql<string>`${asOf}::text`,
      onHand: whole(by.onHand),
      bench: whole(by.bench),
      inTransit: whole(by.inTransit),
      onLoan: whole(by.onLoan),
      quarantine: whole(by.quarantine),
      unitCost: sql<string>`trim_scale(case when ${by.all} > 0 then round(${by.worth} / ${by.all}, 6) else 0 end)::text`,
      value: sql<string>`${by.value}::numeric(18, 2)::text`,
    })
    .from(by)
    .innerJoin(item, eq(item.id, by.itemId))
    .innerJoin(site, eq(site.id, by.siteId))
    .where(
      and(
        words,
        itemsHeld(filled(held), { site: undefined, sites: null }),
        atSites(site.id, sites),
        notNone(by.owned),
        zone ? positive(by.inZone) : undefined,
        { all: undefined, 'in-stock': positive(by.onHand), out: sql`${by.onHand} = 0` }[state],
      ),
    )
    .orderBy(sql`1, 3`);
}

/** Facts that were left empty hold nothing back. */
const filled = <F extends Pick<PastQuery, 'attributeValue' | 'fromSku' | 'toSku'>>(held: F) => ({
  ...held,
  attributeValue: held.attributeValue || undefined,
  fromSku: held.fromSku || undefined,
  toSku: held.toSku || undefined,
});

/** Where an item lay at the end of a day, bin by bin, and what it was worth. */
export async function pastItem(act: Act, id: number, { asOf, siteId }: QueryOf<typeof contract.pastItem>): Promise<contract.PastItem> {
  const { db } = act.tx;
  const sites = act.sites('look', siteId);
  const past = await dayAsked(act, asOf);
  const of = { itemId: id };
  const [facts] = await db
    .select({ itemId: item.id, sku: item.sku, name: item.name, unit: unit.code, tracking: item.tracking })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .where(eq(item.id, id));
  if (!facts) throw new Refusal(404, 'not-found', 'There is no such item.');
  const figures = figuresOn(db, past, sites, of);
  const [inAll] = await db.select({ unitCost: whole(figures.unitCost), value: figures.value }).from(figures);
  const by = figuresBySite(db, past, of);
  const there = await db
    .select({
      siteId: by.siteId,
      site: site.name,
      onHand: whole(by.onHand),
      quarantine: whole(by.quarantine),
      bench: whole(by.bench),
      inTransit: whole(by.inTransit),
      onLoan: whole(by.onLoan),
      value: sql<string>`${by.value}::numeric(18, 2)::text`,
    })
    .from(by)
    .innerJoin(site, eq(site.id, by.siteId))
    .where(and(atSites(site.id, sites), notNone(by.all)))
    .orderBy(site.id);
  const bins = await readBins(act, past, id);
  return {
    ...facts,
    unitCost: inAll?.unitCost ?? '0',
    value: inAll?.value ?? '0.00',
    sites: there.map((one) => ({ ...one, bins: bins.filter((bin) => bin.siteId === one.siteId).map(({ siteId: _site, ...bin }) => bin) })),
  };
}

/** What the bins held of an item, in the order of walking. */
function readBins({ tx: { db } }: Act, past: PastDay, itemId: number) {
  const parts = heldParts(db, past, { itemId });
  const held = db
    .select({
      placeId: sql<number>`${parts.placeId}`.as('held_place'),
      lotId: sql<number | null>`${parts.lotId}`.as('held_lot'),
      quantity: sql<string>`sum(${parts.quantity})`.as('held_quantity'),
    })
    .from(parts)
    .groupBy(parts.placeId, parts.lotId)
    .having(sql`sum(${parts.quantity}) <> 0`)
    .as('held');
  return db
    .select({
      siteId: sql<number>`${place.siteId}`,
      binId: place.id,
      bin: place.code,
      quantity: sql<string>`trim_scale(sum(${held.quantity}))::text`,
      sellable: place.sellable,
      lots: jsonList(
        { lotId: lot.id, code: lot.code, useBy: lot.useBy, pastUse: sql<boolean>`coalesce(${lot.useBy} < ${past.day}, false)`, quantity: whole(held.quantity) },
        { orderBy: sql`${lot.useBy} nulls last, ${lot.code}`, where: sql`${lot.id} is not null` },
      ),
    })
    .from(held)
    .innerJoin(place, and(eq(place.id, held.placeId), eq(place.kind, 'bin')))
    .leftJoin(lot, eq(lot.id, held.lotId))
    .groupBy(place.id)
    .orderBy(place.walk, place.code);
}

/** What lay in a bin at the end of a day; nothing of it is scanned. */
export async function pastBin(act: Act, placeId: number, asOf: string): Promise<ResponseOf<typeof contract.binContents>['rows']> {
  const { db } = act.tx;
  const past = await dayAsked(act, asOf);
  const parts = heldParts(db, past, { placeId });
  const rows = await db
    .select({
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      quantity: sql<string>`trim_scale(sum(${parts.quantity}))::text`,
      lotId: sql<number | null>`${lot.id}`,
      lot: sql<string | null>`${lot.code}`,
      useBy: lot.useBy,
      pastUse: sql<boolean>`coalesce(${lot.useBy} < ${past.day}, false)`,
    })
    .from(parts)
    .innerJoin(item, eq(item.id, parts.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(lot, eq(lot.id, parts.lotId))
    .groupBy(item.id, unit.code, lot.id)
    .having(sql`sum(${parts.quantity}) <> 0`)
    .orderBy(sql`${item.sku}, ${lot.useBy} nulls last, ${lot.code}`);
  return rows.map((row) => ({ ...row, codes: [] }));
}
