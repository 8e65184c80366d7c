import { decimal, sum } from '@larder/core/decimal';
import { dayShifts, type DayShift, type DayStand } from '@larder/core/ledger/pastDays';
import { and, eq, gte, sql } from 'drizzle-orm';
import type { Act } from '../act';
import { among, given, insertFrom } from '../db/given';
import { costChange, itemDay, costPool } from '../db/schema/index';
import { inventoryAccountsOf } from './accounts';
import { Entry, writeEntry } from './entry';

/**
 * After something was dated back: shifts value between days so that no past day since `from` has a value of stock without stock.
 * What is shifted comes back, so that nothing changes as of today. The pools are locked.
 */
export async function moveStrandedValue(act: Act, itemIds: readonly number[], from: string): Promise<void> {
  const ids = [...new Set(itemIds)];
  const rows = await act.tx.db
    .select()
    .from(itemDay)
    .where(and(among(itemDay.itemId, ids), gte(itemDay.day, from)))
    .orderBy(itemDay.itemId, itemDay.day);
  const shifts = ids.flatMap((itemId) => {
    const stands = rows
      .filter((row) => row.itemId === itemId)
      .map(({ day, quantity, value }): DayStand => ({ day, quantity: decimal(quantity), value: decimal(value) }));
    return dayShifts(stands).map((shift) => ({ ...shift, itemId }));
  });
  if (shifts.length > 0) await writeShifts(act, shifts);
}

async function writeShifts(act: Act, shifts: readonly (DayShift & { itemId: number })[]): Promise<void> {
  if (!sum(shifts.map((shift) => shift.amount)).isZero()) throw new Error('shifts between days add up to nothing');
  const accounts = await inventoryAccountsOf(
    act,
    shifts.map((shift) => shift.itemId),
  );
  const { itemId, amount, effectiveOn } = costChange;
  const { rows, row } = given(
    'shift',
    { at: costChange.seq, itemId, amount, effectiveOn },
    shifts.map((shift, at) => ({ at, itemId: shift.itemId, amount: shift.amount.toFixed(2), effectiveOn: shift.day })),
  );
  const changes = act.tx.db
    .select({
      itemId: row.itemId,
      amount: row.amount,
      cause: sql`'dated back'`,
      effectiveOn: row.effectiveOn,
      seq: sql`${costPool.lastSeq} + row_number() over (partition by ${row.itemId} order by ${row.at})`,
    })
    .from(rows)
    .innerJoin(costPool, eq(costPool.itemId, row.itemId));
  await act.tx.db.execute(insertFrom(costChange, changes));
  for (const day of new Set(shifts.map((shift) => shift.day))) {
    const entry = await Entry.open(act);
    for (const shift of shifts.filter((each) => each.day === day)) {
      entry.add(accounts.get(shift.itemId) ?? 'inventory', shift.amount, shift.itemId);
      entry.add('cost-variance', shift.amount.neg());
    }
    await writeEntry(act, { effectiveOn: day, text: 'value of stock that belongs to another day' }, entry);
  }
}
