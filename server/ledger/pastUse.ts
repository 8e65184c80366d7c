import { dayOf } from '@larder/core/day';
import { decimal } from '@larder/core/decimal';
import { reservedAnew } from '@larder/core/ledger/serving';
import type { ReservationChange } from '@larder/core/ledger/types';
import type pg from 'pg';
import { and, eq, not, sql } from 'drizzle-orm';
import { positive } from '../db/given';
import type { Act } from '../act';
import { transaction } from '../db/database';
import { jsonRows } from '../db/json';
import { balance, company, documentLine, itemSite, lot, place } from '../db/schema/index';
import { demandFields, demandLine } from './demand';
import { changeReservations } from './door';
import { lock } from './lock';

/** Lots whose flag does not say what their use-by day says. */
const wrongOn = (today: string) => sql`(${lot.useBy} < ${today} and not ${lot.pastUse} or ${lot.pastUse} and coalesce(${lot.useBy} >= ${today}, true))`;

/** The sites where lots of the item change: what that takes off what is on hand there, or brings back, and who wants the item. */
function sitesOf({ db }: Act['tx'], itemId: number, today: string) {
  const change = db
    .select({ siteId: place.siteId, change: sql<string>`sum(${balance.quantity} * case when ${lot.pastUse} then 1 else -1 end)`.as('change') })
    .from(lot)
    .innerJoin(balance, and(eq(balance.itemId, lot.itemId), eq(balance.lotId, lot.id)))
    .innerJoin(place, eq(place.id, balance.placeId))
    .where(and(eq(lot.itemId, itemId), wrongOn(today), eq(place.kind, 'bin'), place.sellable, positive(balance.quantity)))
    .groupBy(place.siteId)
    .as('change_at_site');
  const demand = jsonRows(demandFields, (select) =>
    select.from(documentLine).where(and(eq(documentLine.itemId, itemId), eq(documentLine.siteId, itemSite.siteId), positive(documentLine.wanted))),
  );
  return db
    .select({ siteId: itemSite.siteId, onHand: itemSite.onHand, change: change.change, demand })
    .from(itemSite)
    .innerJoin(change, eq(change.siteId, itemSite.siteId))
    .where(eq(itemSite.itemId, itemId));
}
type SiteRow = Awaited<ReturnType<typeof sitesOf>>[number];

/**
 * Flags the lots of an item that have passed their use-by day, and takes the flag off those whose day was put right: what is flagged
 * is no longer on hand. What was promised of it is released, last served first; what comes back serves who is short.
 * Answers how many lots changed. The item's pool is locked first.
 */
export async function flagPastUse(act: Pick<Act, 'tx' | 'today'>, itemId: number): Promise<number> {
  await lock.pools(act, [itemId]);
  const sites = await sitesOf(act.tx, itemId, act.today);
  const changes = sites.flatMap((site) => changesAt(site, itemId));
  await changeReservations(
    act,
    changes.filter(({ quantity }) => quantity.lt(0)),
  );
  const flagged = await act.tx.db
    .update(lot)
    .set({ pastUse: not(lot.pastUse) })
    .where(and(eq(lot.itemId, itemId), wrongOn(act.today)))
    .returning({ id: lot.id });
  await changeReservations(
    act,
    changes.filter(({ quantity }) => quantity.gt(0)),
  );
  return flagged.length;
}

function changesAt({ siteId, onHand, change, demand }: SiteRow, itemId: number): ReservationChange[] {
  const before = demand.map(demandLine);
  const after = reservedAnew(decimal(onHand).plus(change), before);
  return before.map(({ lineId, reserved }) => ({
    lineId,
    itemId,
    siteId,
    quantity: (after.find((line) => line.lineId === lineId)?.reserved ?? reserved).minus(reserved),
  }));
}

/** The day's change: flags what has passed its use-by day, item by item, each in a transaction of its own. Answers how many lots changed; again on the same day it finds nothing to do. */
export async function changeDay(pool: pg.Pool, now: Date): Promise<number> {
  const { today, items } = await transaction(pool, 'snapshot', async ({ db }) => {
    const [business] = await db.select({ zone: company.timeZone }).from(company);
    if (!business) return { today: '', items: [] };
    const day = dayOf(now, business.zone);
    return { today: day, items: await db.selectDistinct({ itemId: lot.itemId }).from(lot).where(wrongOn(day)).orderBy(lot.itemId) };
  });
  let flagged = 0;
  for (const { itemId } of items) flagged += await transaction(pool, 'write', (tx) => flagPastUse({ tx, today }, itemId));
  return flagged;
}
