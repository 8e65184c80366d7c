import type * as contract from '@larder/contract/workRecords';
import { decimal, money, sum, zero, type Decimal } from '@larder/core/decimal';
import type { Step } from '@larder/core/ledger/steps';
import type { Charged, MovementLine } from '@larder/core/ledger/types';
import { stillToCome, type RecordPlan, type WorkNow } from '@larder/core/making/record';
import { refuseField } from '@larder/core/refusal';
import { eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { costPool, item, place } from '../../db/schema/index';
import type { ItemFacts } from '../../documents/lines';
import { linesByLot, type ComingIn } from '../../documents/lots';
import { costNowOf, itemsOf } from './inUse';
import type { WorkNowRow } from './orderQueries';
import { rolledUpOf } from './rolledUp';
import type { backLines } from './taking';
import type { Asked, Form } from './recordChecks';

/** Of each component how many were used, and of each output how many were made. */
export const recordedOf = ({ used, made, rest }: Pick<Asked, 'used' | 'made' | 'rest'>) => ({
  used: summed(used.map(({ lineId, quantity }) => [lineId, decimal(quantity)])),
  made: new Map(made.map(({ lineId, quantity, scrapped }) => [lineId, { good: decimal(quantity), scrapped: decimal(scrapped) }])),
  rest,
});
function summed(rows: readonly (readonly [number, Decimal])[]): Map<number, Decimal> {
  const all = new Map<number, Decimal>();
  for (const [id, quantity] of rows) all.set(id, (all.get(id) ?? zero).plus(quantity));
  return all;
}

/** The order as records are decided over it; outputs without a typed share weigh by what one is worth now. */
export async function asWork({ tx: { db } }: Act, now: WorkNowRow): Promise<WorkNow> {
  const worths = await db
    .select({
      id: item.id,
      worth: sql<string>`coalesce(case when ${costPool.quantity} > 0 then ${costPool.value} / ${costPool.quantity} when ${costPool.lastQuantity} > 0 then ${costPool.lastValue} / ${costPool.lastQuantity} else ${item.purchasePrice} end, 0)::text`,
    })
    .from(item)
    .innerJoin(costPool, eq(costPool.itemId, item.id))
    .where(
      among(
        item.id,
        now.products.map(({ itemId }) => itemId),
      ),
    );
  return {
    components: now.lines.map((line) => ({ lineId: line.id, used: decimal(line.used), drawn: decimal(line.taken), stocked: line.stocked })),
    products: now.products.map((line) => ({
      lineId: line.id,
      quantity: decimal(line.quantity),
      made: decimal(line.made),
      scrapped: decimal(line.scrapped),
      share: line.share === null ? null : decimal(line.share),
      worth: decimal(worths.find(({ id }) => id === line.itemId)?.worth ?? 0),
    })),
  };
}

/** What by the order is still to be used and charged once this is recorded, at what its parts cost now. */
export async function toComeOf(act: Act, now: WorkNowRow, form: Form): Promise<Decimal> {
  const costNow = costNowOf(
    await itemsOf(
      act,
      now.lines.map(({ itemId }) => itemId),
    ),
  );
  const { used } = recordedOf(form);
  const charged = (name: string) => sum(form.charges.filter((charge) => charge.name === name).map(({ quantity }) => decimal(quantity)));
  return stillToCome(
    now.lines
      .filter(({ stocked }) => stocked)
      .map((line) => ({ needed: decimal(line.needed), used: decimal(line.used).plus(used.get(line.id) ?? zero), cost: costNow(line.itemId) })),
    now.costs.map((cost) => ({ planned: decimal(cost.quantity), charged: decimal(cost.charged).plus(charged(cost.name)), rate: decimal(cost.rate) })),
  );
}

/** What is used of each component and lot, as far as it was taken: what was not stays open. */
export function usedRows(now: WorkNowRow, form: Form, plan: RecordPlan): { lineId: number; lotId: number | null; quantity: string; at: number }[] {
  const missing = new Map(plan.untaken.map(({ lineId, quantity }) => [lineId, quantity]));
  const rows: { lineId: number; lotId: number | null; quantity: string; at: number }[] = [];
  for (const [at, { lineId, lotId, quantity }] of [...form.used.entries()].reverse()) {
    const short = missing.get(lineId) ?? zero;
    const less = short.gt(quantity) ? decimal(quantity) : short;
    missing.set(lineId, short.minus(less));
    const many = decimal(quantity).minus(less);
    const line = now.lines.find((one) => one.id === lineId);
    if (many.gt(zero) && line?.tracking !== 'none' && lotId === null && line?.lots.length === 1)
      rows.unshift({ lineId, lotId: line.lots[0]?.lotId ?? null, quantity: many.toFixed(), at });
    else if (many.gt(zero)) rows.unshift({ lineId, lotId, quantity: many.toFixed(), at });
  }
  const unnamed = rows.find(({ lineId, lotId }) => lotId === null && now.lines.find((line) => line.id === lineId)?.tracking !== 'none');
  if (unnamed) {
    const { sku = '', tracking = 'lot' } = now.lines.find((line) => line.id === unnamed.lineId) ?? {};
    throw refuseField(422, 'lots-missing', `used.${unnamed.at}.quantity`, `Say which ${tracking === 'serial' ? 'serials' : 'lots'} of ${sku} were used.`);
  }
  return rows;
}

/** What is still at the work once that is used, by component and lot. */
export function leftOf(
  now: WorkNowRow,
  used: readonly { lineId: number; lotId: number | null; quantity: string }[],
): { lineId: number; lotId: number | null; quantity: string }[] {
  return now.lines.flatMap((line) =>
    line.lots.flatMap(({ lotId, quantity }) => {
      const gone = sum(used.filter((one) => one.lineId === line.id && one.lotId === lotId).map((one) => decimal(one.quantity)));
      const left = decimal(quantity).minus(gone);
      return left.gt(zero) ? [{ lineId: line.id, lotId, quantity: left.toFixed() }] : [];
    }),
  );
}

/** What was made, lot by lot: each line takes its part of what is in progress. */
export async function outputLines(
  act: Act,
  now: WorkNowRow,
  form: Form,
  plan: RecordPlan,
  items: ReadonlyMap<number, ItemFacts>,
  madeId: number,
): Promise<MovementLine[]> {
  const coming = plan.parts.flatMap(({ lineId, part, whole }): ComingIn[] => {
    const index = form.made.findIndex((one) => one.lineId === lineId);
    const made = form.made[index];
    const product = now.products.find((line) => line.id === lineId);
    const facts = product && items.get(product.itemId);
    if (!made || !facts) return [];
    const line: MovementLine = {
      itemId: product.itemId,
      lotId: null,
      quantity: decimal(made.quantity),
      fromPlaceId: madeId,
      toPlaceId: made.binId ?? product.binId,
      valuation: { by: 'work', part, whole },
      serves: [{ kind: 'product', lineId }],
      field: `made.${index}.quantity`,
    };
    return [{ itemId: product.itemId, sku: facts.sku, tracking: facts.tracking, lots: made.lots, lotsField: `made.${index}.lots`, line }];
  });
  return linesByLot(act, coming);
}

export const chargedOf = ({ name, per, quantity, rate, accountId }: Form['charges'][number]): Charged => ({
  accountId,
  name,
  per,
  quantity: decimal(quantity),
  rate: decimal(rate),
  amount: money(decimal(quantity).times(rate)),
});

/** What a record comes to: what it does to work in progress, and what one of each output costs. */
export async function outcomeOf(
  act: Act,
  now: WorkNowRow,
  recorded: RecordPlan,
  { plan }: Step,
  charges: readonly Charged[],
  back: Awaited<ReturnType<typeof backLines>>,
): Promise<contract.Outcome> {
  const bins = await act.tx.db.select({ id: place.id, code: place.code }).from(place).where(among(place.id, back.binIds));
  const outputs = now.products.flatMap((product, index) => {
    const lines = plan.lines.filter(({ serves }) => serves.some(({ lineId }) => lineId === product.id));
    const quantity = sum(lines.map((line) => line.quantity));
    if (quantity.isZero()) return [];
    const value = sum(lines.map((line) => line.value.plus(line.variance)));
    return [{ product, index, quantity, value }];
  });
  const rolledUp = await Promise.all(outputs.map(({ product }) => rolledUpOf(act, product.itemId)));
  return {
    inProgress: now.inProgress,
    after: (plan.work?.after ?? zero).toFixed(2),
    variance: (plan.work?.variance ?? zero).toFixed(2),
    charged: sum(charges.map(({ amount }) => amount)).toFixed(2),
    outputs: outputs.map(({ product, quantity, value }, index) => ({
      itemId: product.itemId,
      sku: product.sku,
      quantity: quantity.toFixed(),
      value: value.toFixed(2),
      unitCost: value.div(quantity).toFixed(4),
      rolledUp: rolledUp[index]?.toFixed(4) ?? null,
    })),
    back: back.lines.map(({ itemId, quantity, toPlaceId }) => ({
      sku: now.lines.find((line) => line.itemId === itemId)?.sku ?? '',
      quantity: quantity.toFixed(),
      bin: bins.find(({ id }) => id === toPlaceId)?.code ?? '',
    })),
    ends: recorded.ends,
  };
}
