import type * as contract from '@larder/contract/stock';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import type { Sites } from '@larder/contract/rights';
import { Refusal, refuseField } from '@larder/core/refusal';
import { and, eq, lte, sql, type SQL } from 'drizzle-orm';
import { unionAll } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import type { Db } from '../../db/database';
import { atSites, notNone, positive } from '../../db/given';
import { jsonList } from '../../db/json';
import { cursorOf, everyWord, pageOf, paged, type Sort } from '../../db/paging';
import { costChange, item, layerLine, lot, movementLine, place, site, unit } from '../../db/schema/index';
import { lower } from '../../db/text';
import { itemsHeld } from '../../documents/itemsHeld';
import { heldParts, pastDay, worthOf, type Of, type PastDay } from '../../documents/pastDays';

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
      value: sql<string>`coalesce(${figures.value}, 0.00)`.as('value'),
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

interface OfPast extends Of {
  zone?: string | undefined;
  /** All sites together, in one row for each item. */
  together?: boolean;
}

/** What each site had of each item at the end of a day, and its part of what all was worth. */
function figuresBySite(db: Db, past: PastDay, of: OfPast = {}) {
  const parts = heldParts(db, past, of);
  const sum = (of: SQL, name: string) => sql<string>`coalesce(sum(${parts.quantity}) filter (where ${of}), 0)`.as(name);
  const sold = sql`${place.kind} = 'bin' and ${place.sellable} and coalesce(${lot.useBy} >= ${past.day}, true)`;
  const kind = (name: string) => sql`${place.kind} = ${name}`;
  const there = db
    .select({
      itemId: sql<number>`${parts.itemId}`.as('there_item'),
      siteId: (of.together ? sql<number>`null::int` : sql<number>`${place.siteId}`).as('there_site'),
      onHand: sum(sold, 'on_hand'),
      quarantine: sum(sql`${place.kind} = 'bin' and not (${sold})`, 'quarantine'),
      bench: sum(kind('bench'), 'bench'),
      inTransit: sum(kind('transit'), 'in_transit'),
      onLoan: sum(kind('holder'), 'on_loan'),
      inZone: sum(and(kind('bin'), eq(place.zone, of.zone ?? '')) ?? sql`false`, 'in_zone'),
      owned: sql<string>`sum(${parts.quantity})`.as('owned'),
      all: (of.together ? sql<string>`sum(${parts.quantity})` : sql<string>`sum(sum(${parts.quantity})) over (partition by ${parts.itemId})`).as('all_owned'),
    })
    .from(parts)
    .innerJoin(place, and(eq(place.id, parts.placeId), place.owned))
    .leftJoin(lot, eq(lot.id, parts.lotId))
    .groupBy(...(of.together ? [parts.itemId] : [parts.itemId, place.siteId]))
    .as('there');
  const worth = worthOf(db, past, of).as('worth_of');
  const units = unitsWorth(db, past, of);
  return db
    .select({
      itemId: sql<number>`${there.itemId}`.as('by_item'),
      siteId: sql<number>`${there.siteId}`.as('by_site_id'),
      onHand: there.onHand,
      quarantine: there.quarantine,
      bench: there.bench,
      inTransit: there.inTransit,
      onLoan: there.onLoan,
      inZone: there.inZone,
      owned: there.owned,
      worth: sql<string>`${worth.value}`.as('worth'),
      all: there.all,
      value: sql<string>`case when ${item.costMethod} = 'specific' then coalesce(${units.value}, 0)
        when ${there.all} > 0 then round(${worth.value} * ${there.owned} / ${there.all}, 2) else 0 end`.as('site_worth'),
    })
    .from(there)
    .innerJoin(item, eq(item.id, there.itemId))
    .innerJoin(worth, eq(worth.itemId, there.itemId))
    .leftJoin(units, and(eq(units.itemId, there.itemId), eq(units.siteId, there.siteId)))
    .as('by_site');
}

/** The same over all sites, or those that are looked at, and what one was worth. */
function figuresOn(db: Db, past: PastDay, sites: Sites, of: OfPast = {}) {
  const by = figuresBySite(db, past, { ...of, together: sites === null });
  const sum = (figure: SQL.Aliased<string>, name: string) => sql<string>`sum(${figure})`.as(name);
  return db
    .select({
      itemId: sql<number>`${by.itemId}`.as('of_item'),
      onHand: sum(by.onHand, 'on_hand_there'),
      quarantine: sum(by.quarantine, 'quarantine_there'),
      bench: sum(by.bench, 'bench_there'),
      inTransit: sum(by.inTransit, 'in_transit_there'),
      onLoan: sum(by.onLoan, 'on_loan_there'),
      inZone: sum(by.inZone, 'in_zone_there'),
      unitCost: sql<string>`max(case when ${by.all} > 0 then round(${by.worth} / ${by.all}, 6) else 0 end)`.as('unit_cost_then'),
      // Over all sites it is the pool itself, whose parts may be off it by their cents.
      value: sites === null ? sql<string>`max(${by.worth})`.as('worth_there') : sum(by.value, 'worth_there'),
    })
    .from(by)
    .where(atSites(sql`${by.siteId}`, sites))
    .groupBy(by.itemId)
    .as('figures');
}

/** Where each unit keeps its own cost: what the units that lay at each site were worth. */
function unitsWorth(db: Db, past: PastDay, of: Of) {
  const made = db.select({ itemId: movementLine.itemId, seq: movementLine.seq, lotId: movementLine.lotId }).from(movementLine).as('made');
  const own = and(eq(item.costMethod, 'specific'), of.itemId === undefined ? undefined : eq(item.id, of.itemId));
  const parts = unionAll(
    db
      .select({
        itemId: sql<number>`${layerLine.itemId}`.as('layer_item'),
        layer: sql<number>`${layerLine.layerSeq}`.as('layer'),
        quantity: sql<string>`${layerLine.quantity}`.as('layer_quantity'),
        value: sql<string>`${layerLine.value}`.as('layer_value'),
      })
      .from(item)
      .innerJoin(layerLine, eq(layerLine.itemId, item.id))
      .innerJoin(movementLine, and(eq(movementLine.itemId, layerLine.itemId), eq(movementLine.seq, layerLine.seq)))
      .where(and(own, lte(movementLine.effectiveOn, past.day))),
    db
      .select({
        itemId: sql<number>`${costChange.itemId}`.as('layer_item'),
        layer: sql<number>`${movementLine.seq}`.as('layer'),
        quantity: sql<string>`0`.as('layer_quantity'),
        value: sql<string>`${costChange.amount}`.as('layer_value'),
      })
      .from(item)
      .innerJoin(costChange, eq(costChange.itemId, item.id))
      .innerJoin(movementLine, eq(movementLine.id, costChange.movementLineId))
      .where(and(own, lte(costChange.effectiveOn, past.day))),
  ).as('layer_part');
  const layers = db
    .select({
      itemId: sql<number>`${parts.itemId}`.as('layers_item'),
      layer: sql<number>`${parts.layer}`.as('layers_layer'),
      value: sql<string>`sum(${parts.value})`.as('layer_worth'),
    })
    .from(parts)
    .groupBy(parts.itemId, parts.layer)
    .having(sql`sum(${parts.quantity}) > 0`)
    .as('layers');
  const held = heldParts(db, past, of);
  const lying = db
    .select({
      itemId: sql<number>`${held.itemId}`.as('lying_item'),
      lotId: sql<number>`${held.lotId}`.as('lying_lot'),
      siteId: sql<number>`${place.siteId}`.as('lying_site'),
    })
    .from(held)
    .innerJoin(item, and(eq(item.id, held.itemId), own))
    .innerJoin(place, and(eq(place.id, held.placeId), place.owned))
    .groupBy(held.itemId, held.lotId, place.siteId)
    .having(sql`sum(${held.quantity}) > 0`)
    .as('lying');
  return db
    .select({
      itemId: sql<number>`${layers.itemId}`.as('units_item'),
      siteId: sql<number>`${lying.siteId}`.as('units_site'),
      value: sql<string>`sum(${layers.value})`.as('units_worth'),
    })
    .from(layers)
    .innerJoin(made, and(eq(made.itemId, layers.itemId), eq(made.seq, layers.layer)))
    .innerJoin(lying, and(eq(lying.itemId, layers.itemId), eq(lying.lotId, made.lotId)))
    .groupBy(layers.itemId, lying.siteId)
    .as('units');
}

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
