import { planCharges, planUndone, postedCharge, type Charged, type PlannedCharge, type UndoneCost } from '@larder/core/costing/adjust';
import { zero } from '@larder/core/decimal';
import { sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { Entry, writeCosts, writeEntry } from '../../ledger/entry';
import { poolsOf, type ReceiptLine } from '../../ledger/receipts';
import type { Change } from './charges';
import { insertRows } from '../../db/given';
import { landedShare } from '../../db/schema/index';

/** A charge on a receipt line that is taken off. */
interface TakenOff {
  chargeId: number;
  bearer: ReceiptLine;
  before: Charged;
}

/** What a worksheet posts: charges as they are to be, and those taken off. */
export interface Planned {
  charges: { change: Change; cost: PlannedCharge }[];
  undone: { taken: TakenOff; cost: UndoneCost }[];
}

/** What charges put on and taken off do to each pool. */
export function planned(changes: readonly Change[], taken: readonly TakenOff[], lines: readonly ReceiptLine[]): Planned {
  const pools = poolsOf(lines);
  const undone = planUndone(
    taken.map(({ bearer, before }) => postedCharge(bearer, before)),
    pools,
  );
  // What is taken off is off the pools before anything is put on.
  for (const { poolKey, toStock } of undone) {
    const pool = pools.get(poolKey);
    if (pool) pools.set(poolKey, { ...pool, value: pool.value.plus(toStock) });
  }
  const costs = planCharges(changes, pools);
  return {
    charges: changes.map((change, index) => ({ change, cost: costs[index] as PlannedCharge })),
    undone: taken.map((one, index) => ({ taken: one, cost: undone[index] as UndoneCost })),
  };
}

/** The entry of charges put on, changed and taken off. */
export async function entryOf(act: Act, { charges, undone }: Planned, lines: readonly ReceiptLine[]): Promise<Entry> {
  const entry = await Entry.open(act);
  const lineOf = (lineId: number) => lines.find((one) => one.lineId === lineId) as ReceiptLine;
  for (const { cost } of charges) {
    entry.add(lineOf(cost.lineId).inventoryAccount, cost.toStock, cost.itemId);
    entry.add(lineOf(cost.lineId).costAccount, cost.toGone);
    entry.add('cost-variance', cost.variance);
    entry.add('landed-clearing', cost.amount.neg());
  }
  for (const { cost } of undone) {
    const { amount, toStock, variance } = cost.posted;
    entry.add(lineOf(cost.lineId).inventoryAccount, cost.toStock, cost.itemId);
    entry.add(lineOf(cost.lineId).costAccount, cost.toGone.minus(amount.minus(toStock).minus(variance)));
    entry.add('cost-variance', cost.variance.minus(variance));
    entry.add('landed-clearing', amount);
  }
  return entry;
}

/** Writes what each charge has come to on each line, the changes of cost, and the entry. */
export async function write(act: Act, id: number, number: string, { charges, undone }: Planned, chargeIds: readonly number[], entry: Entry): Promise<void> {
  const shares = [
    ...charges.map(({ change, cost: { after } }) => ({
      chargeId: chargeIds[change.charge] as number,
      lineId: change.lineId,
      leftOut: change.leftOut,
      typed: change.typed,
      after,
    })),
    ...undone.map(({ taken: { chargeId, before }, cost }) => ({
      chargeId,
      lineId: cost.lineId,
      leftOut: false,
      typed: null,
      after: { ...before, amount: zero, weight: zero, toStock: before.toStock.plus(cost.toStock) },
    })),
  ];
  await insertRows(
    act.tx,
    landedShare,
    shares.map(({ chargeId, lineId, leftOut, typed, after }) => ({
      chargeId,
      lineId,
      leftOut,
      typed: typed?.toFixed(4) ?? null,
      amount: after.amount.toFixed(2),
      brought: after.of.toFixed(),
      here: after.here.toFixed(),
      weight: after.weight.toFixed(),
      toStock: after.toStock.toFixed(2),
    })),
    sql`on conflict (charge_id, line_id) do update set left_out = excluded.left_out, typed = excluded.typed, amount = excluded.amount,
      here = excluded.here, weight = excluded.weight, to_stock = excluded.to_stock`,
  );
  const costs = [
    ...charges.map(({ change, cost }) => ({ ...cost, here: cost.after.here, chargeId: chargeIds[change.charge] as number })),
    ...undone.map(({ taken, cost }) => ({
      ...cost,
      amount: cost.posted.amount.neg(),
      variance: cost.variance.minus(cost.posted.variance),
      here: taken.before.here,
      chargeId: taken.chargeId,
    })),
  ];
  await writeCosts(
    act,
    act.today,
    'landed cost',
    costs.filter(({ amount, toStock }) => !amount.isZero() || !toStock.isZero()),
  );
  await writeEntry(act, { effectiveOn: act.today, text: `${number}: landed cost`, sheetId: id }, entry);
}

/** What a charge that is taken off had come to. */
export const takenOff = (chargeId: number, lines: readonly ReceiptLine[], shares: ReadonlyMap<string, Charged>): TakenOff[] =>
  lines.flatMap((bearer) => {
    const before = shares.get(`${chargeId}/${bearer.lineId}`);
    return before ? [{ chargeId, bearer, before }] : [];
  });
