import { CountPlan } from '@larder/contract/counts';
import { decimal } from '@larder/core/decimal';
import { and, asc, eq } from 'drizzle-orm';
import type { Act } from '../act';
import { enterCount, finishBin } from '../areas/counts/counting';
import { createCount } from '../areas/counts/planning';
import { postCount } from '../areas/counts/reviewing';
import { notNone } from '../db/given';
import { balance, countBin, place, reason } from '../db/schema/index';
import { dice } from './dice';
import { idOf } from './idOf';

/** Each month a few bins are counted, and now and then one unit is missing or found. */
export async function countSome(act: Act, siteId: number): Promise<void> {
  const id = await planned(act, siteId, Number(act.today.slice(5, 7)), 12, 'the monthly round');
  for (const { placeId } of await binsOf(act, id)) await countBinOf(act, id, placeId);
  await postCount(act, id, { reasonId: await idOf(act, reason, eq(reason.code, 'miscount')), note: '', lines: [] });
}

/** This morning a count is under way: some bins are done, of which one differs. */
export async function countThisMorning(act: Act, siteId: number): Promise<void> {
  const id = await planned(act, siteId, 5, 8, 'the aisle by the door');
  for (const { placeId } of (await binsOf(act, id)).slice(0, 5)) await countBinOf(act, id, placeId, 0.4);
}

async function planned(act: Act, siteId: number, from: number, many: number, note: string): Promise<number> {
  const bins = await act.tx.db
    .selectDistinct({ id: place.id, walk: place.walk, code: place.code })
    .from(place)
    .innerJoin(balance, and(eq(balance.placeId, place.id), notNone(balance.quantity)))
    .where(and(eq(place.siteId, siteId), eq(place.kind, 'bin'), place.sellable))
    .orderBy(asc(place.walk), asc(place.code));
  const binIds = Array.from({ length: many }, (_, at) => bins[(from * 11 + at) % bins.length]?.id as number);
  const plan = CountPlan.parse({ binIds: [...new Set(binIds)] });
  return (await createCount(act, { siteId, plan, blind: false, recountShare: null, recountValue: null, note })).id;
}

const binsOf = ({ tx: { db } }: Act, sheetId: number) =>
  db.select({ placeId: countBin.placeId }).from(countBin).where(eq(countBin.sheetId, sheetId)).orderBy(countBin.id);

/** Counts what lies in a bin; one unit more or fewer with that chance. */
async function countBinOf(act: Act, id: number, placeId: number, offBy = 0.06): Promise<void> {
  const there = await act.tx.db
    .select({ itemId: balance.itemId, lotId: balance.lotId, quantity: balance.quantity })
    .from(balance)
    .where(and(eq(balance.placeId, placeId), notNone(balance.quantity)))
    .orderBy(balance.itemId);
  const chance = dice(id * 1000 + placeId);
  const entries = there.map(({ itemId, lotId, quantity }) => {
    const differs = lotId === null && Number.isInteger(Number(quantity)) && Number(quantity) > 8 && chance.roll() < offBy;
    const counted = differs ? decimal(quantity).plus(chance.roll() < 0.7 ? -1 : 1) : decimal(quantity);
    return { itemId, lotId, quantity: counted.toFixed(), way: 'typed' as const, seq: null };
  });
  if (entries.length > 0) await enterCount(act, { id, placeId }, { entries });
  await finishBin(act, { id, placeId }, false);
}
