import { lineThrough, mean } from './line';

/** How demand comes. */
export const patterns = ['none', 'new', 'steady', 'seasonal', 'trending', 'lumpy'] as const;
export type Pattern = (typeof patterns)[number];

/** What tells the patterns apart. */
export interface Traits {
  pattern: Pattern;
  /** Periods from one with demand to the next, on average; null without any. */
  apart: number | null;
  /** The squared coefficient of variation of the sizes of demand, where there was some. */
  variation: number | null;
}

/** Demand that comes further apart than so many periods is lumpy (Syntetos, Boylan and Croston, Journal of the Operational Research Society 56 (2005) 495–503). */
const lumpyFrom = 1.32;
/** With fewer periods since the first demand nothing is said but that it is new. */
const knownAfter = 8;

/** Recognises how demand came, period by period; `season` is how many periods a year has. */
export function traitsOf(series: readonly number[], season: number): Traits {
  const first = series.findIndex((value) => value > 0);
  if (first < 0) return { pattern: 'none', apart: null, variation: null };
  const since = series.slice(first);
  const sizes = since.filter((value) => value > 0);
  const apart = since.length / sizes.length;
  const average = mean(sizes);
  const variation = mean(sizes.map((size) => (size - average) ** 2)) / average ** 2;
  const pattern =
    since.length < knownAfter ? 'new' : apart >= lumpyFrom ? 'lumpy' : isSeasonal(since, season) ? 'seasonal' : isTrending(since) ? 'trending' : 'steady';
  return { pattern, apart, variation };
}

/**
 * Whether demand repeats itself year by year: what is left of each period beside the straight line through all has more to do with the same period a
 * year before than chance would have it, by Student's test of
 * Pearson's correlation (Fisher, Statistical methods for research workers, 1925, § 34), at the level of one in a hundred. There must be two whole years.
 */
export function isSeasonal(series: readonly number[], season: number): boolean {
  if (series.length < 2 * season) return false;
  const { level, slope } = lineThrough(series);
  const left = series.map((value, at) => value - (level + slope * (at + 1)));
  const [now, before] = [left.slice(season), left.slice(0, -season)];
  const [averageNow, averageBefore] = [mean(now), mean(before)];
  const both = now.reduce((all, value, at) => all + (value - averageNow) * ((before[at] as number) - averageBefore), 0);
  const spread = (values: readonly number[], average: number) => values.reduce((all, value) => all + (value - average) ** 2, 0);
  const alone = Math.sqrt(spread(now, averageNow) * spread(before, averageBefore));
  if (alone < 1e-9) return false;
  const correlation = both / alone;
  return correlation >= 1 || correlation * Math.sqrt((now.length - 2) / (1 - correlation ** 2)) > beyondChance;
}
/** Of Student's t for ten pairs and more: above it lies one in a hundred, or fewer. */
const beyondChance = 2.9;

/** Whether demand rises or falls, by the test of Mann (Econometrica 13 (1945) 245–259) and Kendall with its correction for ties: at the level of one in a hundred. */
export function isTrending(series: readonly number[]): boolean {
  const n = series.length;
  let score = 0;
  for (let at = 0; at < n; at += 1) for (let other = at + 1; other < n; other += 1) score += Math.sign((series[other] as number) - (series[at] as number));
  const alike = new Map<number, number>();
  for (const value of series) alike.set(value, (alike.get(value) ?? 0) + 1);
  const tied = [...alike.values()].reduce((all, many) => all + many * (many - 1) * (2 * many + 5), 0);
  const variance = (n * (n - 1) * (2 * n + 5) - tied) / 18;
  if (variance <= 0 || score === 0) return false;
  return Math.abs((score - Math.sign(score)) / Math.sqrt(variance)) > 2.576;
}
