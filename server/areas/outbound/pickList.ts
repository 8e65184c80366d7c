import type * as contract from '@larder/contract/outbound';
import { choosePicks } from '@larder/core/outbound/picking';
import type { ResponseOf } from '@larder/contract/endpoint';
import { decimal, quantityText } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import { and, eq, sql } from 'drizzle-orm';
import { seenAt, type Act } from '../../act';
import { among, positive } from '../../db/given';
import { balance, item, itemSite, lot, place, salesLine, salesOrder, unit } from '../../db/schema/index';
import { prepared } from '../../db/prepared';
import { plain } from '../../db/text';
import { codesOf } from '../../documents/codes';

type PickList = ResponseOf<typeof contract.pickList>;

interface LyingHere {
  lotKind: 'lot' | 'serial' | null;
  lot: string | null;
  tag: string | null;
  itemCodes: { code: string; factor: string }[];
}

/** The codes that mean what lies there: a serial unit its own, everything else its item's. */
const codesHere = ({ lotKind, lot: code, tag, itemCodes }: LyingHere) =>
  lotKind === 'serial' ? [code, tag].flatMap((own) => (own === null ? [] : [{ code: own, factor: '1' }])) : itemCodes;

/** What an order still wants, and how much of it may be taken. */
const readWanted = prepared(['id'], (db, { id }) =>
  db
    .select({
      lineId: salesLine.id,
      itemId: item.id,
      position: salesLine.position,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      step: plain(unit.step),
      wanted: plain(salesLine.wanted),
      may: sql<string>`least(${salesLine.wanted}, ${salesLine.reserved} + coalesce(${itemSite.free}, 0))`,
    })
    .from(salesLine)
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(itemSite, and(eq(itemSite.itemId, salesLine.itemId), eq(itemSite.siteId, salesLine.siteId)))
    .where(and(sql`${salesLine.orderId} = ${id}`, positive(salesLine.wanted)))
    .orderBy(salesLine.position),
);

/** Where these items lie at the order's site, of what may go out. */
const readLying = prepared(['id', 'items', 'today'], (db, { id, items, today }) =>
  db
    .select({
      itemId: balance.itemId,
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
      itemCodes: codesOf(balance.itemId, { suppliers: false }),
    })
    .from(salesOrder)
    .innerJoin(place, and(eq(place.kind, 'bin'), eq(place.siteId, salesOrder.siteId), place.sellable))
    .innerJoin(balance, and(eq(balance.placeId, place.id), positive(balance.quantity)))
    .leftJoin(lot, eq(lot.id, balance.lotId))
    .where(and(sql`${salesOrder.id} = ${id}`, among(balance.itemId, items), sql`not coalesce(${lot.pastUse} or ${lot.useBy} < ${today}, false)`)),
);

/** What to take from which bin for an order, in walking order: reserved goods and, beyond, what is free. */
export async function pickList(act: Act, id: number): Promise<PickList> {
  const { tx, today } = act;
  const [order] = await tx.db.select({ siteId: salesOrder.siteId }).from(salesOrder).where(eq(salesOrder.id, id));
  if (!order) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  seenAt(act, order);
  const lines = await readWanted(tx, { id });
  const lying = await readLying(tx, { id, items: lines.map(({ itemId }) => itemId), today });
  const { picks, missing } = choosePicks(
    lines.map((line) => ({ ...line, wanted: decimal(line.wanted), may: decimal(line.may) })),
    lying.map((one) => ({ ...one, quantity: decimal(one.inBin), codes: codesHere(one) })),
  );
  const lineOf = (lineId: number) => lines.find((line) => line.lineId === lineId) as (typeof lines)[number];
  return {
    rows: picks.map(({ lineId, from, take }) => {
      const { itemId, sku, name, unit: of, step, wanted } = lineOf(lineId);
      const { binId, bin, inBin, lotId, lot: code, useBy, codes } = from;
      return { lineId, itemId, sku, name, unit: of, step, wanted, binId, bin, inBin, lotId, lot: code, useBy, codes, take: quantityText(take) };
    }),
    missing: [...missing].map(([lineId, quantity]) => ({ lineId, sku: lineOf(lineId).sku, quantity: quantityText(quantity) })),
  };
}
