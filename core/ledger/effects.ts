import type { Pool } from '../costing/method';
import { decimal, zero, type Decimal } from '../decimal';
import { itemOf, placeOf } from './facts';
import type { Reservations } from './reservations';
import { reservedOf, shortOf } from './serving';
import { isOwned, type EffectRow, type Effects, type ItemState, type LedgerState, type PlannedLine, type SiteState } from './types';

/** What a movement will change, figure by figure, before and after; figures that stay are left out. */
export function effectsOf(state: LedgerState, lines: readonly PlannedLine[], pools: ReadonlyMap<number, Pool>, reservations: Reservations): Effects {
  const rows = reservations.sites.flatMap(({ before, after }) => siteRows(itemOf(state, before.itemId), before, after));
  for (const [itemId, pool] of pools) rows.push(...poolRows(itemOf(state, itemId), pool));
  const spent = lines.filter(({ variance, valuation }) => !variance.isZero() && valuation.by !== 'returned').map((line) => spentNote(state, line));
  return { rows: rows.filter((row) => row.before !== row.after), notes: [...reservations.notes, ...spent] };
}

/** A sentence about cost that no stock bears: of goods that never lie here, or more than the stock is worth. */
function spentNote(state: LedgerState, { itemId, fromPlaceId, toPlaceId, variance }: PlannedLine): string {
  const { sku } = itemOf(state, itemId);
  if ([fromPlaceId, toPlaceId].some((id) => isOwned(placeOf(state, id).kind)))
    return `${variance.abs().toFixed(2)} of ${sku} goes to cost variance, so that its stock is never worth less than nothing.`;
  return variance.gt(zero)
    ? `${variance.toFixed(2)} for ${sku} is cost at once: none of it lies here.`
    : `${variance.neg().toFixed(2)} for ${sku} comes off cost again.`;
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

/** Goods that are carried to the bench of a site in the same step in which they come in; `bench` is what lies there before. */
export interface Carried extends Pick<EffectRow, 'itemId' | 'sku' | 'name' | 'where'> {
  bench: Decimal;
  quantity: Decimal;
}

/** The effects of a receipt, with what is carried on to the bench at once: that is neither on hand nor reserved afterwards, and what is free stays. */
export function withCarried(effects: Effects, carried: readonly Carried[]): Effects {
  const rows = carried.reduce((sofar, one) => {
    const here = (row: EffectRow) => row.itemId === one.itemId && row.where === one.where;
    const less = sofar.map((row) =>
      here(row) && (row.measure === 'on hand' || row.measure === 'reserved') ? { ...row, after: decimal(row.after).minus(one.quantity).toFixed() } : row,
    );
    const { bench, quantity, ...of } = one;
    const benched: EffectRow = { ...of, measure: 'on the bench', before: bench.toFixed(), after: bench.plus(quantity).toFixed() };
    return less.toSpliced(sofar.findLastIndex(here) + 1, 0, benched);
  }, effects.rows);
  return {
    rows: rows.filter((row) => row.before !== row.after),
    notes: [...effects.notes, ...carried.map(({ quantity, sku, where }) => `${quantity.toFixed()} of ${sku} go straight to the bench of ${where}.`)],
  };
}

function poolRows(item: ItemState, after: Pool): EffectRow[] {
  const unit = (pool: Pool) => (pool.quantity.isZero() ? zero : pool.value.div(pool.quantity)).toFixed(4);
  const base = { itemId: item.id, sku: item.sku, name: item.name, where: '' };
  return [
    { ...base, measure: 'value', before: item.pool.value.toFixed(2), after: after.value.toFixed(2) },
    { ...base, measure: 'unit cost', before: unit(item.pool), after: unit(after) },
  ];
}
