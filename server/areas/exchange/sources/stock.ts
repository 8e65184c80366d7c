import { and, eq, isNull, not, sql } from 'drizzle-orm';
import { atSites } from '../../../db/given';
import { lotsSeen, lotWords, movedAt, pastBySite } from '../../stock/queries';
import {
  attributeValue,
  balance,
  item,
  itemSite,
  lineDocument,
  lot,
  movement,
  movementLine,
  person,
  place,
  costPool,
  reason,
  site,
} from '../../../db/schema/index';
import { plain } from '../../../db/text';
import { type Source, inOrder, day, ownOf, figuresAt, figures, named, from, to } from './source';

export const bins: Source = {
  read: (db, where) =>
    db
      .select({
        site: site.name,
        code: place.code,
        zone: place.zone,
        walk: sql<string>`${place.walk}::text`,
        use: sql<string>`case when ${place.sellable} then 'sale' else 'quarantine' end`,
      })
      .from(place)
      .innerJoin(site, eq(site.id, place.siteId))
      .where(and(eq(place.kind, 'bin'), not(place.unplaced), isNull(place.retiredAt), where))
      .orderBy(inOrder),
  words: sql`lower(${place.code})`,
  at: (sites) => atSites(place.siteId, sites),
};

export const stock: Source = {
  read: (db, where) =>
    db
      .select({
        sku: item.sku,
        name: item.name,
        site: site.name,
        ...figuresAt(itemSite),
        short: plain(itemSite.short),
        lastCounted: day(itemSite.countedOn),
        unitCost: plain(costPool.unitCost),
        value: itemSite.value,
      })
      .from(itemSite)
      .innerJoin(item, eq(item.id, itemSite.itemId))
      .innerJoin(site, eq(site.id, itemSite.siteId))
      .innerJoin(costPool, eq(costPool.itemId, item.id))
      .where(where)
      // An item stands there once for each site.
      .orderBy(inOrder, site.name),
  words: item.findable,
  at: (sites) => atSites(itemSite.siteId, sites),
  costs: ['unitCost', 'value'],
  more: [
    { key: 'sku', name: 'SKU' },
    { key: 'name', name: 'Name' },
    { key: 'site', name: 'Site' },
    ...figures,
    { key: 'short', name: 'Short' },
    { key: 'lastCounted', name: 'Last counted' },
    { key: 'unitCost', name: 'Unit cost' },
    { key: 'value', name: 'Value' },
  ],
};

export const past: Source = {
  read: (db, where, sites, { on, held }) => pastBySite(db, on, sites, held, where),
  words: item.findable,
  costs: ['unitCost', 'value'],
  more: named([
    ['sku', 'SKU'],
    ['name', 'Name'],
    ['site', 'Site'],
    ['asOf', 'As of'],
    ['onHand', 'On hand'],
    ['bench', 'Picked'],
    ['inTransit', 'In transit'],
    ['onLoan', 'On loan'],
    ['quarantine', 'Quarantine'],
    ['unitCost', 'Unit cost'],
    ['value', 'Value'],
  ]),
};

export const lots: Source = {
  read: (db, where, sites) => {
    const here = db
      .select({ sum: sql`trim_scale(coalesce(sum(${balance.quantity}), 0))::text` })
      .from(balance)
      .innerJoin(place, eq(place.id, balance.placeId))
      .where(and(eq(balance.itemId, lot.itemId), eq(balance.lotId, lot.id), place.owned, atSites(place.siteId, sites)));
    return db
      .select({
        sku: item.sku,
        code: lot.code,
        name: item.name,
        useBy: day(lot.useBy),
        tag: lot.tag,
        condition: lot.condition,
        boughtOn: day(lot.boughtOn),
        warrantyUntil: day(lot.warrantyUntil),
        onHand: sql<string>`(${here})`,
        own: ownOf(attributeValue.lotId, lot.id),
      })
      .from(lot)
      .innerJoin(item, eq(item.id, lot.itemId))
      .where(where)
      .orderBy(inOrder);
  },
  words: lotWords,
  at: lotsSeen,
  more: named([
    ['name', 'Name'],
    ['onHand', 'Here'],
  ]),
};

export const trail: Source = {
  read: (db, where) =>
    db
      .select({
        when: sql<string>`${movement.postedAt}::text`,
        who: person.name,
        what: movement.kind,
        sku: item.sku,
        name: item.name,
        from: from.code,
        to: to.code,
        quantity: plain(movementLine.quantity),
        value: movementLine.value,
        lot: lot.code,
        why: sql<string>`concat_ws(': ', ${reason.name}, nullif(${movement.note}, ''))`,
        document: lineDocument.number,
      })
      .from(movementLine)
      .innerJoin(movement, eq(movement.id, movementLine.movementId))
      .innerJoin(person, eq(person.id, movement.personId))
      .innerJoin(item, eq(item.id, movementLine.itemId))
      .innerJoin(from, eq(from.id, movementLine.fromPlaceId))
      .innerJoin(to, eq(to.id, movementLine.toPlaceId))
      .leftJoin(lot, eq(lot.id, movementLine.lotId))
      .leftJoin(reason, eq(reason.id, movement.reasonId))
      .leftJoin(lineDocument, eq(lineDocument.lineId, movementLine.id))
      .where(where)
      // What was posted at the same moment stands as it was written.
      .orderBy(inOrder, movementLine.id),
  words: item.findable,
  at: movedAt,
  costs: ['value'],
  item: movementLine.itemId,
  more: named([
    ['when', 'When'],
    ['who', 'Who'],
    ['what', 'What'],
    ['why', 'Why'],
    ['document', 'Document'],
    ['sku', 'SKU'],
    ['name', 'Name'],
    ['from', 'From'],
    ['to', 'To'],
    ['quantity', 'Quantity'],
    ['lot', 'Lot or serial'],
    ['value', 'Value'],
  ]),
};
