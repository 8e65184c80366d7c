import { choosePicks, mayTake } from '@larder/core/outbound/picking';
import { decimal, quantityText, zero } from '@larder/core/decimal';
import { and, eq, sql } from 'drizzle-orm';
import type { Act } from '../act';
import { among, atSites, positive } from '../db/given';
import { prepared } from '../db/prepared';
import { balance, binDoubt, componentTerms, documentLine, item, itemSite, lot, place, salesTerms, site, transferTerms, unit } from '../db/schema/index';
import { plain } from '../db/text';
import { codesHere, codesOf } from './codes';

/** What is picked for: a customer's order, a transfer, or a work order. */
export interface PickedFor {
  kind: 'sales' | 'transfer' | 'work';
  id: number;
}

const terms = {
  sales: { table: salesTerms, ownerId: salesTerms.orderId },
  transfer: { table: transferTerms, ownerId: transferTerms.transferId },
  work: { table: componentTerms, ownerId: componentTerms.workOrderId },
};

/** Kinds of what is picked for, in the order in which they are said. */
export const pickedKinds: readonly PickedFor['kind'][] = ['sales', 'transfer', 'work'];

/** What documents still want at sites, with what is free there. */
const readWanted = (kind: PickedFor['kind']) =>
  prepared(['orders', 'sites'], (db, { orders, sites }) =>
    db
      .select({
        lineId: documentLine.id,
        kind: sql<PickedFor['kind']>`${kind}::text`,
        orderId: terms[kind].ownerId,
        itemId: item.id,
        siteId: documentLine.siteId,
        position: documentLine.position,
        sku: item.sku,
        name: item.name,
        unit: unit.code,
        step: plain(unit.step),
        wanted: plain(documentLine.wanted),
        reserved: plain(documentLine.reserved),
        fromBinId: kind === 'transfer' ? transferTerms.fromBinId : sql<number | null>`null`,
        free: sql<string>`coalesce(${itemSite.free}, 0)::text`,
      })
      .from(documentLine)
      .innerJoin(terms[kind].table, eq(terms[kind].table.id, documentLine.id))
      .innerJoin(item, eq(item.id, documentLine.itemId))
      .innerJoin(unit, eq(unit.id, item.unitId))
      .leftJoin(itemSite, and(eq(itemSite.itemId, documentLine.itemId), eq(itemSite.siteId, documentLine.siteId)))
      .where(and(among(terms[kind].ownerId, orders), positive(documentLine.wanted), atSites(documentLine.siteId, sites)))
      .orderBy(documentLine.position),
  );

const wanted = { sales: readWanted('sales'), transfer: readWanted('transfer'), work: readWanted('work') };

/** Where these items lie at these sites, of what may go out. */
const readLying = prepared(['sites', 'items', 'today'], (db, { sites, items, today }) =>
  db
    .select({
      itemId: balance.itemId,
      siteId: site.id,
      site: site.name,
      binId: place.id,
      bin: place.code,
      walk: place.walk,
      unplaced: place.unplaced,
      lotId: balance.lotId,
      lot: lot.code,
      useBy: lot.useBy,
      inBin: plain(balance.quantity),
      lotKind: lot.kind,
      tag: lot.tag,
      doubtful: sql<boolean>`${binDoubt.itemId} is not null`,
      itemCodes: codesOf(balance.itemId, { suppliers: false }),
    })
    .from(site)
    .innerJoin(place, and(eq(place.kind, 'bin'), eq(place.siteId, site.id), place.sellable))
    .innerJoin(balance, and(eq(balance.placeId, place.id), positive(balance.quantity)))
    .leftJoin(lot, eq(lot.id, balance.lotId))
    .leftJoin(binDoubt, and(eq(binDoubt.itemId, balance.itemId), eq(binDoubt.placeId, balance.placeId)))
    .where(and(among(site.id, sites), among(balance.itemId, items), sql`not coalesce(${lot.pastUse} or ${lot.useBy} < ${today}, false)`)),
);

/** What to take from which bin for orders, transfers and work orders, in walking order, at these sites; of goods that several want, those named first go first. */
export async function picksOf({ tx, today }: Act, documents: readonly PickedFor[], sites: readonly number[]) {
  const idsOf = (kind: PickedFor['kind']) => documents.flatMap((one) => (one.kind === kind ? [one.id] : []));
  const [sales, transfers, work] = [idsOf('sales'), idsOf('transfer'), idsOf('work')];
  const place = new Map(documents.map(({ kind, id }, index) => [`${kind} ${id}`, index]));
  const placeOf = ({ kind, orderId }: { kind: PickedFor['kind']; orderId: number }): number => place.get(`${kind} ${orderId}`) ?? 0;
  const lines = [
    ...(sales.length > 0 ? await wanted.sales(tx, { orders: sales, sites }) : []),
    ...(transfers.length > 0 ? await wanted.transfer(tx, { orders: transfers, sites }) : []),
    ...(work.length > 0 ? await wanted.work(tx, { orders: work, sites }) : []),
  ].sort((a, b) => placeOf(a) - placeOf(b) || a.position - b.position);
  return chosen({ tx, today }, lines, sites);
}

/** A line that is to be picked, as it was read or as it is asked for. */
export type WantedLine = Awaited<ReturnType<typeof wanted.sales>>[number];

/** Which bins lines are taken from at these sites, in walking order, those named first first. */
export async function chosen({ tx, today }: Pick<Act, 'tx' | 'today'>, lines: readonly WantedLine[], sites: readonly number[]) {
  const lying = await readLying(tx, { sites, items: lines.map(({ itemId }) => itemId), today });
  const wanting = lines.map((line, index) => ({ ...line, position: index, wanted: decimal(line.wanted), reserved: decimal(line.reserved) }));
  const may = mayTake(wanting, (itemId, siteId) => decimal(lines.find((line) => line.itemId === itemId && line.siteId === siteId)?.free ?? 0));
  const { picks, missing } = choosePicks(
    wanting.map((line) => ({ ...line, may: may.get(line.lineId) ?? zero })),
    lying.map((one) => ({ ...one, quantity: decimal(one.inBin), codes: codesHere(one) })),
  );
  const lineOf = (lineId: number) => lines.find((line) => line.lineId === lineId) as (typeof lines)[number];
  return {
    rows: picks.map(({ lineId, from, take }) => {
      const { kind, orderId, itemId, sku, name, unit: of, step, wanted } = lineOf(lineId);
      const { siteId, site: at, binId, bin, inBin, doubtful, lotId, lot: code, useBy, codes } = from;
      const to = { lineId, kind, orderId, itemId, sku, name, unit: of, step, wanted };
      return { ...to, siteId, site: at, binId, bin, inBin, doubtful, lotId, lot: code, useBy, codes, take: quantityText(take) };
    }),
    missing: [...missing].map(([lineId, quantity]) => {
      const { kind, orderId, sku } = lineOf(lineId);
      return { lineId, kind, orderId, sku, quantity: quantityText(quantity) };
    }),
  };
}
