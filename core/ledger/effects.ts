import type { Pool } from '../costing/method';
import { zero, type Decimal } from '../decimal';
import { itemOf, placeOf } from './facts';
import { reservedOf, shortOf } from './serving';
import { isOwned, type Borne, type EffectRow, type Effects, type ItemState, type LedgerState, type PlannedLine, type SiteState } from './types';

/** What changes between two states, figure by figure; figures that stay are left out. However many steps lie between, only the first and the last count. */
export function effectsBetween(first: LedgerState, last: LedgerState, notes: readonly string[], costNotes: readonly string[] = []): Effects {
  const rows = [...last.sites].flatMap(([key, after]) => {
    const before = first.sites.get(key);
    return before && before !== after ? siteRows(itemOf(first, after.itemId), before, after) : [];
  });
  for (const [id, after] of last.items) {
    const before = itemOf(first, id);
    if (before !== after) rows.push(...poolRows(before, after.pool));
  }
  return { rows: rows.filter((row) => row.before !== row.after), notes: [...notes], costNotes: [...costNotes] };
}

/** Sentences about cost that no stock bears. */
export const notesOf = (state: LedgerState, lines: readonly PlannedLine[]): string[] =>
  lines.filter(({ variance, valuation }) => !variance.isZero() && valuation.by !== 'returned').map((line) => spentNote(state, line));

/** A sentence about cost that no stock bears: of goods that never lie here, or more than the stock is worth. */
function spentNote(state: LedgerState, { itemId, fromPlaceId, toPlaceId, variance }: PlannedLine): string {
  const { sku } = itemOf(state, itemId);
  if ([fromPlaceId, toPlaceId].some((id) => isOwned(placeOf(state, id).kind)))
    return `${variance.abs().toFixed(2)} of ${sku} goes to cost variance, so that its stock is never worth less than nothing.`;
  if ([fromPlaceId, toPlaceId].some((id) => placeOf(state, id).kind === 'scrap'))
    return variance.gt(zero)
      ? `${variance.toFixed(2)} that ${sku} had cost is written off.`
      : `${variance.neg().toFixed(2)} that ${sku} had cost is written off no more.`;
  return variance.gt(zero)
    ? `${variance.toFixed(2)} for ${sku} is cost at once: none of it lies here.`
    : `${variance.neg().toFixed(2)} for ${sku} comes off cost again.`;
}

/** What tax is due on what the business uses itself, or is not due any more. */
export const taxNote = (borne: Borne | null): string[] =>
  borne?.tax && !borne.tax.owed.isZero()
    ? [
        borne.tax.owed.gt(zero)
          ? `Tax of ${borne.tax.owed.toFixed(2)} is due on what is used: ${borne.tax.rate.toFixed()} % of ${borne.tax.base.toFixed(2)}.`
          : `Tax of ${borne.tax.owed.neg().toFixed(2)} is not due any more.`,
      ]
    : [];

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

/** What two steps change, one after the other. */
export const together = (first: Effects, then: Effects): Effects => ({
  rows: [...first.rows, ...then.rows],
  notes: [...first.notes, ...then.notes],
  costNotes: [...first.costNotes, ...then.costNotes],
});
