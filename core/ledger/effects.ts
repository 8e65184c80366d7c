import type { Pool } from '../costing/method';
import { zero, type Decimal } from '../decimal';
import { itemOf } from './plan';
import type { Reservations } from './reservations';
import { reservedOf, shortOf } from './serving';
import type { EffectRow, Effects, ItemState, LedgerState, PlannedLine, SiteState } from './types';

/** What a movement will change, figure by figure, before and after; figures that stay are left out. */
export function effectsOf(state: LedgerState, lines: readonly PlannedLine[], pools: ReadonlyMap<number, Pool>, reservations: Reservations): Effects {
  const rows = reservations.sites.flatMap(({ before, after }) => siteRows(itemOf(state, before.itemId), before, after));
  for (const [itemId, pool] of pools) rows.push(...poolRows(itemOf(state, itemId), pool));
  const clamped = lines
    .filter(({ variance, valuation }) => !variance.isZero() && valuation.by !== 'returned')
    .map(
      (line) =>
        `${line.variance.abs().toFixed(2)} of ${itemOf(state, line.itemId).sku} goes to cost variance, so that its stock is never worth less than nothing.`,
    );
  return { rows: rows.filter((row) => row.before !== row.after), notes: [...reservations.notes, ...clamped] };
}

/** Rows of one item at one site; also used when only reservations change. */
export function siteRows(item: Pick<ItemState, 'id' | 'sku' | 'name'>, before: SiteState, after: SiteState): EffectRow[] {
  const row = (measure: EffectRow['measure'], was: Decimal, is: Decimal): EffectRow => ({
    itemId: item.id,
    sku: item.sku,
    name: item.name,
    measure,
    where: before.siteName,
    before: was.toFixed(),
    after: is.toFixed(),
  });
  const free = (at: SiteState) => at.onHand.minus(reservedOf(at.demand));
  return [
    row('on hand', before.onHand, after.onHand),
    row('reserved', reservedOf(before.demand), reservedOf(after.demand)),
    row('free', free(before), free(after)),
    row('short', shortOf(before.demand), shortOf(after.demand)),
    row('on the bench', before.bench, after.bench),
  ].filter((one) => one.before !== one.after);
}

function poolRows(item: ItemState, after: Pool): EffectRow[] {
  const unit = (pool: Pool) => (pool.quantity.isZero() ? zero : pool.value.div(pool.quantity)).toFixed(4);
  const base = { itemId: item.id, sku: item.sku, name: item.name, where: '' };
  return [
    { ...base, measure: 'value', before: item.pool.value.toFixed(2), after: after.value.toFixed(2) },
    { ...base, measure: 'unit cost', before: unit(item.pool), after: unit(after) },
  ];
}
