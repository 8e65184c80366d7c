import type { getLevel, LevelRow } from '@larder/contract/levels';
import type { ResponseOf } from '@larder/contract/endpoint';
import { decimal } from '@larder/core/decimal';
import type { MethodName } from '@larder/core/planning/forecast/methods';
import type { Pattern } from '@larder/core/planning/forecast/pattern';
import { count, quantity } from '../../kit/format';

/** How demand comes, in a word or two. */
export const patternWords: Record<Pattern, string> = {
  none: 'never wanted',
  new: 'new',
  steady: 'steady',
  seasonal: 'seasonal',
  trending: 'trending',
  lumpy: 'lumpy',
};

export const methodWords: Record<MethodName, string> = {
  average: 'Moving average',
  smoothed: 'Smoothed',
  trend: 'Smoothed, with a trend',
  season: 'Season and trend',
  lumpy: 'For lumpy demand',
};

/** An estimate as one reads it: with a decimal while it is small. */
export const roughly = (value: number): string => quantity(value < 10 ? String(Math.round(value * 10) / 10) : String(Math.round(value)));

/** Levels as they stand, in one line. */
export function levelsInWords({
  reorderPoint,
  orderUpTo,
  coverDays,
  packSize,
}: Pick<LevelRow, 'reorderPoint' | 'orderUpTo' | 'coverDays' | 'packSize'>): string {
  const levels = reorderPoint === null || orderUpTo === null ? 'none' : `${quantity(reorderPoint)}, up to ${quantity(orderUpTo)}`;
  return [levels, coverDays === null ? '' : count(coverDays, 'day'), packSize === null ? '' : `packs of ${quantity(packSize)}`]
    .filter((part) => part !== '')
    .join(', ');
}

/** How more comes, in words. */
export function wayInWords({ way, wayName }: Pick<LevelRow, 'way' | 'wayName'>): string {
  if (way === 'best') return '';
  if (way === 'make') return 'made here';
  if (way === 'buy') return 'bought';
  return way.startsWith('bring') ? `from ${wayName}` : `bought from ${wayName}`;
}

type Past = NonNullable<ResponseOf<typeof getLevel>['past']>;

/** How the suggested point comes about, in one line of arithmetic. */
export function pointInWords({ point, perDay, lead, safety, service }: Past, coverDays: number | null): string {
  const until = perDay * lead.days;
  const reckoned = `${roughly(perDay)} a day × ${roughly(lead.days)} days until more is there (${roughly(until)}) + ${roughly(safety)} for safety, so that ${service} of 100 orders are served`;
  return coverDays !== null && Number(point) > Math.ceil(until + safety) + 1
    ? `${roughly(perDay)} a day × ${count(coverDays, 'day')} that are to be covered; without that ${reckoned}`
    : reckoned;
}

/** Where the lead time is from, and what was left out of the past. */
export function groundsInWords({ lead, withoutStock, apart }: Past, events: ResponseOf<typeof getLevel>['events']): string[] {
  const spread = lead.spread < 0.05 ? '' : `, give or take ${roughly(lead.spread)}`;
  const seen = count(lead.seen, 'time');
  const until = {
    own: `Until more of it was there took ${roughly(lead.days)} days on average${spread}, ${seen} within two years (${lead.source}).`,
    all: `All that came from there took ${roughly(lead.days)} days on average${spread}, ${seen} within two years (${lead.source}); of this item too little came to tell.`,
    agreed: `${roughly(lead.days)} days until more is there is what is agreed (${lead.source}); too little has come to tell.`,
  }[lead.from];
  const left = events.filter(({ counts }) => !counts).map(({ name }) => name);
  return [
    until,
    ...(withoutStock > 0 ? [`${count(withoutStock, 'day')} without stock and without an order were filled from the days around them.`] : []),
    ...(apart > 0 ? [`${count(apart, 'day')} of ${left.join(', ')} do not count.`] : []),
  ];
}

/** By how much another average stock changes what is bound in it; null where cost is not shown. */
export const boundBy = (stock: number, unitCost: string): string | null => (unitCost === '' ? null : decimal(stock).times(unitCost).toFixed(2));
