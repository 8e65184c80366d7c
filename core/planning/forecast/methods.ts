import { lineThrough, mean } from './line';

/**
 * Ways to forecast demand, period by period. All are estimates in floating point: nothing of the books rests on them, and what is proposed from them is rounded up to whole steps.
 * Begun alike, each comes to what R's own functions say (`HoltWinters` of package stats, `croston` of package forecast).
 */
export const methodNames = ['average', 'smoothed', 'trend', 'season', 'lumpy'] as const;
export type MethodName = (typeof methodNames)[number];

/** What a way of forecasting said of a series. */
export interface Run {
  /** What was forecast for each period just before it; null where nothing could be said yet. */
  before: (number | null)[];
  /** The forecast for the `h`-th period after the last, 1 for the next. Never below zero: nobody wants less than nothing. */
  ahead: (h: number) => number;
}

const notBelowZero = (value: number): number => Math.max(0, value);

/** The average of the last `periods`, or of as many as there are. */
export function movingAverage(series: readonly number[], periods: number): Run {
  const last = (until: number) => series.slice(Math.max(0, until - periods), until);
  return {
    before: series.map((_, at) => (at === 0 ? null : mean(last(at)))),
    ahead: () => (series.length === 0 ? 0 : mean(last(series.length))),
  };
}

/** Simple exponential smoothing (Brown, Statistical forecasting for inventory control, 1959): the level moves by the share `alpha` of each error. It begins as the first value. */
export function smoothed(series: readonly number[], alpha: number): Run {
  let level = series[0] ?? 0;
  const before = series.map((value, at) => {
    if (at === 0) return null;
    const said = level;
    level += alpha * (value - level);
    return said;
  });
  return { before, ahead: () => notBelowZero(level) };
}

/**
 * Smoothing with a trend (Holt 1957, International Journal of Forecasting 20 (2004) 5–10), which is damped by `phi` a period (Gardner and McKenzie,
 * Management Science 31 (1985) 1237–1246); 1 leaves it as it is.
 * It begins as the second value, rising as from the first.
 */
export function trending(series: readonly number[], { alpha, beta, phi }: { alpha: number; beta: number; phi: number }): Run {
  let level = series[1] ?? series[0] ?? 0;
  let slope = series.length < 2 ? 0 : level - (series[0] as number);
  const before = series.map((value, at) => {
    if (at < 2) return null;
    const said = level + phi * slope;
    const next = said + alpha * (value - said);
    slope = beta * (next - level) + (1 - beta) * phi * slope;
    level = next;
    return said;
  });
  const damping = (h: number) => (phi === 1 ? h : (phi * (1 - phi ** h)) / (1 - phi));
  return { before, ahead: (h) => notBelowZero(level + damping(h) * slope) };
}

/**
 * Smoothing with a trend and a season of `length` periods that is added (Winters, Management Science 6 (1960) 324–342). It begins with the line through
 * the centred average of the first two seasons, and the
 * season that is left of them; so there must be two.
 */
export function seasonal(
  series: readonly number[],
  { alpha, beta, gamma, length }: { alpha: number; beta: number; gamma: number; length: number },
  begun: SeasonBegun = seasonBegun(series, length),
): Run {
  let { level, slope } = begun;
  const seasons = [...begun.season];
  const before = series.map((value, at) => {
    if (at < length) return null;
    const season = seasons[at - length] as number;
    const said = level + slope + season;
    const next = alpha * (value - season) + (1 - alpha) * (level + slope);
    slope = beta * (next - level) + (1 - beta) * slope;
    level = next;
    seasons[at] = gamma * (value - level) + (1 - gamma) * season;
    return said;
  });
  const last = series.length - length;
  return { before, ahead: (h) => notBelowZero(level + h * slope + (seasons[last + ((h - 1) % length)] as number)) };
}

/** What a season is begun with. */
export interface SeasonBegun {
  level: number;
  slope: number;
  season: number[];
}

/** A classical decomposition of the first two seasons: the line through their centred moving average, and what of each period of the season is left on average, which comes to nothing in all. */
export function seasonBegun(all: readonly number[], length: number): SeasonBegun {
  if (all.length < 2 * length) throw new RangeError('two whole seasons are needed');
  const series = all.slice(0, 2 * length);
  const half = Math.floor(length / 2);
  const weights = length % 2 === 1 ? Array<number>(length).fill(1 / length) : [0.5, ...Array<number>(length - 1).fill(1), 0.5].map((weight) => weight / length);
  const trend = series.map((_, at) =>
    at < half || at + half >= series.length ? null : weights.reduce((all, weight, index) => all + weight * (series[at - half + index] as number), 0),
  );
  const left = Array.from({ length }, (_, of) => {
    const values = series.flatMap((value, at) => (at % length === of && trend[at] !== null ? [value - (trend[at] as number)] : []));
    return mean(values);
  });
  const known = trend.filter((value) => value !== null);
  const { level, slope } = lineThrough(known);
  // At the end of the first season, from which it goes on.
  return { level: level + slope * (length - half), slope, season: left.map((value) => value - mean(left)) };
}

/**
 * Demand that comes now and then: how much, and how long apart, are smoothed each by itself, and only when there is some (Croston, Operational Research
 * Quarterly 23 (1972) 289–303). That says too much by
 * alpha/2, which `corrected` takes off (Syntetos and Boylan, International Journal of Forecasting 21 (2005) 303–314).
 */
export function intermittent(series: readonly number[], alpha: number, corrected = true): Run {
  let size: number | null = null;
  let apart = 0;
  let since = 0;
  const factor = corrected ? 1 - alpha / 2 : 1;
  const now = () => (size === null ? 0 : (factor * size) / apart);
  const before = series.map((value) => {
    const said = size === null ? null : now();
    since += 1;
    if (value > 0) {
      apart = size === null ? since : apart + alpha * (since - apart);
      size = size === null ? value : size + alpha * (value - size);
      since = 0;
    }
    return said;
  });
  return { before, ahead: now };
}
