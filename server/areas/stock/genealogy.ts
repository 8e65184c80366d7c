import type { LotLink } from '@larder/contract/lots';
import { eq, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { jsonRow } from '../../db/json';
import { item, lot, wentIntoLots, workOrder } from '../../db/schema/index';
import { plain } from '../../db/text';

const used = alias(lot, 'used_lot');
/** How many makings after each other are followed. */
const mostLevels = 30;

/** The lots and serials that a lot went into by making, and what those went into, level by level. */
export const wentInto = (act: Act, lotId: number): Promise<LotLink[]> => followed(lotId, (ids) => intoRows(act, ids));

/** The lots and serials that went into a lot, and into those, level by level. */
export const madeOf = (act: Act, lotId: number): Promise<LotLink[]> => followed(lotId, (ids) => ofRows(act, ids));

/** Follows lots level by level; each is told once, at the first level it is met. */
async function followed(lotId: number, next: (ids: readonly number[]) => Promise<Omit<LotLink, 'level'>[]>): Promise<LotLink[]> {
  const found: LotLink[] = [];
  const seen = new Set([lotId]);
  let at = [lotId];
  for (let level = 1; at.length > 0 && level <= mostLevels; level += 1) {
    const rows = await next(at);
    const fresh = rows.filter((row) => row.lotId === null || !seen.has(row.lotId));
    found.push(...fresh.map((row) => ({ ...row, level })));
    at = [...new Set(fresh.flatMap((row) => row.lotId ?? []))];
    for (const id of at) seen.add(id);
  }
  return found;
}

const workFields = jsonRow({ kind: sql<'work order'>`'work order'`, id: workOrder.id, number: workOrder.number });

const intoRows = ({ tx: { db } }: Act, ids: readonly number[]) =>
  db
    .select({
      lotId: wentIntoLots.madeLotId,
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      lot: lot.code,
      document: workFields,
      quantity: plain(wentIntoLots.quantity),
      day: wentIntoLots.day,
    })
    .from(wentIntoLots)
    .innerJoin(item, eq(item.id, wentIntoLots.madeItemId))
    .innerJoin(workOrder, eq(workOrder.id, wentIntoLots.workOrderId))
    .leftJoin(lot, eq(lot.id, wentIntoLots.madeLotId))
    .where(among(wentIntoLots.lotId, ids))
    .orderBy(wentIntoLots.day, item.sku, lot.code);

const ofRows = ({ tx: { db } }: Act, ids: readonly number[]) =>
  db
    .selectDistinct({
      lotId: sql<number | null>`${wentIntoLots.lotId}`,
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      lot: sql<string | null>`${used.code}`,
      document: sql<LotLink['document']>`jsonb_build_object('kind', 'work order', 'id', ${workOrder.id}, 'number', ${workOrder.number})`,
      quantity: sql<string>`''`,
      day: wentIntoLots.day,
    })
    .from(wentIntoLots)
    .innerJoin(item, eq(item.id, wentIntoLots.itemId))
    .innerJoin(workOrder, eq(workOrder.id, wentIntoLots.workOrderId))
    .innerJoin(used, eq(used.id, wentIntoLots.lotId))
    .where(among(wentIntoLots.madeLotId, ids))
    .orderBy(wentIntoLots.day, item.sku);
