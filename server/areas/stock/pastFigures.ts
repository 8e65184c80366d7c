import type { Sites } from '@larder/contract/rights';
import { and, eq, lte, sql, type SQL } from 'drizzle-orm';
import { unionAll } from 'drizzle-orm/pg-core';
import type { Db } from '../../db/database';
import { atSites } from '../../db/given';
import { costChange, item, layerLine, lot, movementLine, place } from '../../db/schema/index';
import { heldParts, worthOf, type Of, type PastDay } from '../../documents/pastDays';

interface OfPast extends Of {
  zone?: string | undefined;
  /** All sites together, in one row for each item. */
  together?: boolean;
}

/** What each site had of each item at the end of a day, and its part of what all was worth. */
export function figuresBySite(db: Db, past: PastDay, of: OfPast = {}) {
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
export function figuresOn(db: Db, past: PastDay, sites: Sites, of: OfPast = {}) {
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
