import { mean } from './line';
import { intermittent, movingAverage, seasonal, seasonBegun, smoothed, trending, type MethodName, type Run } from './methods';

/** A way of forecasting with what it is set to. */
export interface Candidate {
  method: MethodName;
  /** What it is set to, by name, as it is told. */
  settings: Readonly<Record<string, number>>;
  run: (series: readonly number[]) => Run;
}

/** How a way did on the past that it was not fitted to, period by period, each forecast from all before it. */
export interface Tried extends Candidate {
  /** Of the periods it was tried on. */
  forecast: number[];
  /** The average error without its sign, the root of the average squared error, and the average error: above zero it said too little. */
  meanError: number;
  rootSquared: number;
  bias: number;
}

const shares = [0.05, 0.1, 0.2, 0.3, 0.5, 0.8];
const few = [0.05, 0.2, 0.5];
/** A trend wears off by so much each period: nothing grows for ever. */
const phi = 0.95;

/** All settings of a way that are tried on the past. */
function settingsOf(method: MethodName, series: readonly number[], season: number): Candidate[] {
  switch (method) {
    case 'average':
      return [4, 8, 13, 26].map((periods) => ({ method, settings: { periods }, run: (series) => movingAverage(series, periods) }));
    case 'smoothed':
      return shares.map((alpha) => ({ method, settings: { alpha }, run: (series) => smoothed(series, alpha) }));
    case 'trend':
      return shares.flatMap((alpha) =>
        few.map((beta) => ({ method, settings: { alpha, beta, phi }, run: (series: readonly number[]) => trending(series, { alpha, beta, phi }) })),
      );
    case 'season': {
      // However it is set, and however much of the past it sees, it begins alike.
      const begun = seasonBegun(series, season);
      return few.flatMap((alpha) =>
        few.flatMap((beta) =>
          few.map((gamma) => ({
            ...{ method, settings: { alpha, beta, gamma } },
            run: (past: readonly number[]) => seasonal(past, { alpha, beta, gamma, length: season }, begun),
          })),
        ),
      );
    }
    case 'lumpy':
      return [0.05, 0.1, 0.15, 0.2, 0.3].map((alpha) => ({ method, settings: { alpha }, run: (series) => intermittent(series, alpha) }));
  }
}

/**
 * How many of the last periods a way is tried on: a third of them, and a year at most; where that leaves two whole years before, and a quarter of one is
 * left, no more than that, so that a season can be told.
 */
export function triedOn(periods: number, season: number): number {
  const third = Math.min(season, Math.floor(periods / 3));
  const beyond = periods - 2 * season;
  return beyond >= season / 4 ? Math.min(third, beyond) : third;
}

/**
 * Tries ways of forecasting on an item's own past. Each is set by what fits the earlier periods best (least squared errors, each period forecast from
 * those before), and then judged by the last ones, which it
 * was not set by. Returns the tried ones, the best first: that with the least root of squared errors; of those alike the first asked. Nothing where there is too little to try on.
 */
export function backTested(series: readonly number[], methods: readonly MethodName[], season: number): Tried[] {
  const held = triedOn(series.length, season);
  if (held === 0) return [];
  const begin = series.length - held;
  const earlier = series.slice(0, begin);
  const able = methods.filter((method) => method !== 'season' || earlier.length >= 2 * season);
  return able
    .map((method) => {
      const [best] = settingsOf(method, series, season)
        .map((candidate) => ({ candidate, missed: squaredErrors(earlier, candidate.run(earlier).before) }))
        .sort((a, b) => a.missed - b.missed);
      return judged((best as { candidate: Candidate }).candidate, series, begin);
    })
    .sort((a, b) => a.rootSquared - b.rootSquared);
}

const squaredErrors = (series: readonly number[], before: readonly (number | null)[]): number =>
  series.reduce((all, value, at) => all + ((before[at] ?? value) - value) ** 2, 0);

function judged(candidate: Candidate, series: readonly number[], begin: number): Tried {
  const forecast = candidate
    .run(series)
    .before.slice(begin)
    .map((said) => Math.max(0, said ?? 0));
  const errors = forecast.map((said, index) => (series[begin + index] as number) - said);
  return {
    ...candidate,
    forecast,
    meanError: mean(errors.map(Math.abs)),
    rootSquared: Math.sqrt(mean(errors.map((error) => error ** 2))),
    bias: mean(errors),
  };
}
