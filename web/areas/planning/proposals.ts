import type { TopUpRow } from '@larder/contract/planning';
import { decimal, sum } from '@larder/core/decimal';
import { isNumber } from '@larder/core/number';
import { count, money, price, quantity } from '../../kit/format';

/** Tells proposals apart: an item at a site may be brought from several, and partly bought. */
export const keyOf = ({ itemId, siteId, by, fromSiteId }: TopUpRow): string => `${itemId}/${siteId}/${by}/${fromSiteId ?? ''}`;

/** Under what a proposal stands: from which site to which, that it is made here, or its supplier. */
export function groupOf({ by, supplier, fromSite, site }: TopUpRow): string {
  if (by === 'bring') return `From ${fromSite ?? ''} to ${site}`;
  return by === 'make' ? 'Made here' : (supplier ?? 'No supplier');
}

/** Groups in the order they are gone through: what is brought, what is made, what is ordered, and what nobody sends. */
export function grouped(rows: readonly TopUpRow[]): [name: string, rows: TopUpRow[]][] {
  const rank = ({ by, supplierId }: TopUpRow) => (by === 'bring' ? 0 : by === 'make' ? 1 : supplierId === null ? 3 : 2);
  const groups = new Map<string, TopUpRow[]>();
  for (const row of [...rows].sort((one, other) => rank(one) - rank(other))) groups.set(groupOf(row), [...(groups.get(groupOf(row)) ?? []), row]);
  return [...groups];
}

/** The proposal in one line of arithmetic. */
export function arithmetic(row: TopUpRow): string {
  const more = (many: string, words: string) => (Number(many) > 0 ? ` + ${quantity(many)} ${words}` : '');
  const has = `${quantity(row.free)} free + ${quantity(row.onOrder)} on order${more(row.coming, 'from other sites')}${more(row.drafted, 'in drafts')}`;
  const cover = row.coverDays === null ? '' : ` (${count(row.coverDays, 'day')} of cover)`;
  const now = `${has} − ${quantity(row.short)} short = ${quantity(row.position)}, reorder at ${quantity(row.reorderPoint)}${cover}`;
  const missing = decimal(row.orderUpTo).minus(row.position).toFixed();
  const packs = decimal(row.propose).eq(missing)
    ? ''
    : row.by === 'bring'
      ? `, of which ${quantity(row.propose)} come from there`
      : `, ${quantity(row.propose)} in packs of ${quantity(row.packSize)}`;
  return `${now}; up to ${quantity(row.orderUpTo)} takes ${quantity(missing)}${packs}`;
}

/** What is otherwise than the way of the item has it. */
export const noteInWords = ({ note, fromSite }: TopUpRow): string =>
  note === null
    ? ''
    : {
        'supplier-retired': 'Its preferred supplier is retired; this is the next one.',
        'giver-short': `${fromSite ?? 'That site'} has no more free; it is topped up itself.`,
        'no-bill': 'It should be made, and no bill of materials in use says how.',
      }[note];

/** What the next price break would cost and save. */
export const breakInWords = ({ nextBreak }: TopUpRow): string | null =>
  nextBreak &&
  `${quantity(nextBreak.quantity)} at ${price(nextBreak.price)} each: ${decimal(nextBreak.costs).lt(0) ? `${money(decimal(nextBreak.costs).neg().toFixed(2))} less` : `${money(nextBreak.costs)} more`} in all, ${money(nextBreak.saves)} saved on them`;

/** A proposal that is chosen, with how many of it. */
export interface Chosen {
  row: TopUpRow;
  many: string;
}

interface Totals {
  amount: string | null;
  weightKg: string | null;
  volumeM3: string | null;
}

/** What chosen proposals come to, in money, weight and room; null where nothing is known of any. */
export function totals(chosen: readonly Chosen[]): Totals {
  const of = (each: (one: Chosen) => string | null, digits: number): string | null => {
    const parts = chosen.flatMap((one) => {
      const known = each(one);
      return known === null || known === '' || !isNumber(one.many, 'quantity') ? [] : [decimal(known).times(one.many)];
    });
    return parts.length === 0 ? null : sum(parts).toFixed(digits);
  };
  return { amount: of(({ row }) => row.price, 2), weightKg: of(({ row }) => row.weightKg, 1), volumeM3: of(({ row }) => row.volumeM3, 2) };
}

/** Orders that chosen proposals become and that come to less than their supplier asks at least: by how much, and at which site. */
export function belowMinimum(chosen: readonly Chosen[], minimums: readonly { supplierId: number; amount: string }[]) {
  return minimums.flatMap(({ supplierId, amount }) => {
    const own = chosen.filter(({ row }) => row.supplierId === supplierId && row.by === 'buy');
    return [...new Map(own.map(({ row }) => [row.siteId, row])).values()].flatMap(({ siteId, site, supplier }) => {
      const comesTo = totals(own.filter(({ row }) => row.siteId === siteId)).amount ?? '0.00';
      return decimal(comesTo).lt(amount) ? [{ supplierId, supplier: supplier ?? '', siteId, site, comesTo, least: amount }] : [];
    });
  });
}
