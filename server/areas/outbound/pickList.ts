import type * as contract from '@larder/contract/picking';
import { choosePicks, mayTake } from '@larder/core/outbound/picking';
import type { ResponseOf } from '@larder/contract/endpoint';
import { decimal, quantityText, zero } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import { and, eq, exists, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, atSites, positive } from '../../db/given';
import { balance, binDoubt, item, itemSite, lot, place, salesLine, salesOrder, site, unit } from '../../db/schema/index';
import { jsonRows } from '../../db/json';
import { prepared } from '../../db/prepared';
import { plain } from '../../db/text';
import { codesHere, codesOf } from '../../documents/codes';
import { seenSale } from './queries';

type PickList = ResponseOf<typeof contract.pickList>;

/** Where an order is, and where its lines come from. */
const readSites = prepared(['id'], (db, { id }) =>
  db
    .select({
      siteId: salesOrder.siteId,
      lines: jsonRows({ siteId: site.id }, (select) =>
        select.from(site).where(
          exists(
            db
              .select({ one: sql`1` })
              .from(salesLine)
              .where(and(eq(salesLine.orderId, salesOrder.id), eq(salesLine.siteId, site.id))),
          ),
        ),
      ),
    })
    .from(salesOrder)
    .where(sql`${salesOrder.id} = ${id}`),
);

/** What orders still want at sites, with what is free there. */
const readWanted = prepared(['orders', 'sites'], (db, { orders, sites }) =>
  db
    .select({
      lineId: salesLine.id,
      orderId: salesLine.orderId,
      itemId: item.id,
      siteId: salesLine.siteId,
      position: salesLine.position,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      step: plain(unit.step),
      wanted: plain(salesLine.wanted),
      reserved: plain(salesLine.reserved),
      free: sql<string>`coalesce(${itemSite.free}, 0)::text`,
    })
    .from(salesLine)
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(itemSite, and(eq(itemSite.itemId, salesLine.itemId), eq(itemSite.siteId, salesLine.siteId)))
    .where(and(among(salesLine.orderId, orders), positive(salesLine.wanted), atSites(salesLine.siteId, sites)))
    .orderBy(salesLine.position),
);

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

/** What to take from which bin for an order, in walking order, at the sites that the person may look at: reserved goods and, beyond, what is free. */
export async function pickList(act: Act, id: number): Promise<PickList> {
  const [order] = await readSites(act.tx, { id });
  if (!order) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  seenSale(act, order);
  const mine = act.sites('look');
  const sites = order.lines.map(({ siteId }) => siteId).filter((siteId) => mine === null || mine.includes(siteId));
  return picksOf(act, [id], sites);
}

/** What to take from which bin for orders, in walking order, at these sites; of goods that several want, those of the orders named first go first. */
export async function picksOf({ tx, today }: Act, orders: readonly number[], sites: readonly number[]) {
  const lines = (await readWanted(tx, { orders, sites })).sort((a, b) => orders.indexOf(a.orderId) - orders.indexOf(b.orderId) || a.position - b.position);
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
      const { orderId, itemId, sku, name, unit: of, step, wanted } = lineOf(lineId);
      const { siteId, site: at, binId, bin, inBin, doubtful, lotId, lot: code, useBy, codes } = from;
      const to = { lineId, orderId, itemId, sku, name, unit: of, step, wanted };
      return { ...to, siteId, site: at, binId, bin, inBin, doubtful, lotId, lot: code, useBy, codes, take: quantityText(take) };
    }),
    missing: [...missing].map(([lineId, quantity]) => ({ lineId, orderId: lineOf(lineId).orderId, sku: lineOf(lineId).sku, quantity: quantityText(quantity) })),
  };
}
