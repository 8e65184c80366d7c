import { decimal, sum } from '@larder/core/decimal';
import { dayShifts, type DayShift, type DayStand } from '@larder/core/ledger/pastDays';
import type { Act } from '../act';
import { inventoryAccountsOf } from './accounts';
import { Entry, writeEntry } from './entry';

const standsSql = `SELECT item_id AS "itemId", day, quantity, value FROM (
    SELECT item_id, day, sum(sum(quantity)) OVER w AS quantity, sum(sum(value)) OVER w AS value FROM (
      SELECT l.item_id, l.effective_on AS day, l.quantity * (t.owned::int - f.owned::int) AS quantity, l.value FROM movement_line l JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id WHERE l.item_id = ANY($1)
      UNION ALL SELECT item_id, effective_on, 0, amount FROM cost_change WHERE item_id = ANY($1)) x
    GROUP BY 1, 2 WINDOW w AS (PARTITION BY item_id ORDER BY day)) y
  WHERE day >= $2 ORDER BY item_id, day`;

/**
 * After something was dated back: shifts value between days so that no past day since `from` has a value of stock without stock.
 * What is shifted comes back, so that nothing changes as of today. The pools are locked.
 */
export async function settlePastDays(act: Act, itemIds: readonly number[], from: string): Promise<void> {
  const ids = [...new Set(itemIds)];
  const rows = await act.tx.rows<{ itemId: number; day: string; quantity: string; value: string }>(standsSql, [ids, from]);
  const shifts = ids.flatMap((itemId) => {
    const stands = rows
      .filter((row) => row.itemId === itemId)
      .map(({ day, quantity, value }): DayStand => ({ day, quantity: decimal(quantity), value: decimal(value) }));
    return dayShifts(stands).map((shift) => ({ ...shift, itemId }));
  });
  if (shifts.length > 0) await writeShifts(act, shifts);
}

async function writeShifts(act: Act, shifts: readonly (DayShift & { itemId: number })[]): Promise<void> {
  if (!sum(shifts.map(({ amount }) => amount)).isZero()) throw new Error('shifts between days add up to nothing');
  const accounts = await inventoryAccountsOf(
    act,
    shifts.map(({ itemId }) => itemId),
  );
  await act.tx.rows(
    `INSERT INTO cost_change (item_id, amount, cause, effective_on, seq)
     SELECT x.item, x.amount, 'dated back', x.day, p.last_seq + row_number() OVER (PARTITION BY x.item ORDER BY x.at)
     FROM unnest($1::int[], $2::numeric[], $3::date[]) WITH ORDINALITY x(item, amount, day, at) JOIN pool p ON p.item_id = x.item`,
    [shifts.map(({ itemId }) => itemId), shifts.map(({ amount }) => amount.toFixed(2)), shifts.map(({ day }) => day)],
  );
  for (const day of new Set(shifts.map((shift) => shift.day))) {
    const entry = await Entry.open(act);
    for (const { itemId, amount } of shifts.filter((shift) => shift.day === day)) {
      entry.add(accounts.get(itemId) ?? 'inventory', amount, itemId);
      entry.add('cost-variance', amount.neg());
    }
    await writeEntry(act, { effectiveOn: day, text: 'value of stock that belongs to another day' }, entry);
  }
}
