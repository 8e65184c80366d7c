import { backTested, type Tried } from './forecast/backtest';
import { filledDays, inPeriods, type DemandDay, type FilledDays } from './forecast/demandDays';
import { mean } from './forecast/line';
import type { MethodName } from './forecast/methods';
import { traitsOf, type Pattern, type Traits } from './forecast/pattern';
import { replayed, type Levels, type Replayed } from './forecast/replay';
import { economicQuantity, suggestedPoint } from './reorderPoint';

/** How an item is bought and held at a site. */
export interface Holding {
  /** Days from ordering until it is there, on average, and how they vary. */
  leadDays: number;
  leadSpread: number;
  /** Normal quantile of the service level of its class. */
  z: number;
  /** What an order costs, and what one held for a year does. */
  orderCost: number;
  holdingCost: number;
  /** Base units in a pack, 0 for any number, and the step it is counted in. */
  pack: number;
  step: number;
  /** What is free should last so many days at least. */
  coverDays: number;
}

/** A week to come: what is expected, and between what four weeks of five lie. */
export interface WeekAhead {
  expected: number;
  low: number;
  high: number;
}

/** What an item's own past says for its levels at a site. Estimates, but for the levels, which are in whole steps. */
export interface Suggestion {
  traits: Traits;
  filled: Pick<FilledDays, 'withoutStock' | 'apart'>;
  /** What was wanted week by week, the oldest first. */
  weeks: number[];
  /** Ways of forecasting, the best first; none where there is too little past to try them on. */
  tried: Tried[];
  ahead: WeekAhead[];
  perDay: number;
  /** Standard deviation of what is wanted in a day. */
  spread: number;
  /** What is held beyond what is expected until it comes. */
  safety: number;
  /** By what the last year wanted; null where nothing costs anything to hold. */
  economic: number | null;
  point: number;
  upTo: number;
  /** What the last year would have been with these levels. */
  replay: Replayed;
}

const week = 7;
export const weeksOfYear = 52;
const yearDays = 365;
/** Weeks that are shown ahead. */
const weeksAhead = 13;
/** As long as nothing is known of what it costs to hold some, an order is for so many days; and never for more than a year. */
const withoutCost = 28;
/** Normal quantile between which and its negative four of five lie. */
const fourOfFive = 1.2816;

const methodsFor: Record<Pattern, readonly MethodName[]> = {
  none: [],
  new: ['average'],
  lumpy: ['lumpy', 'average', 'smoothed'],
  steady: ['average', 'smoothed', 'trend'],
  trending: ['trend', 'smoothed', 'average'],
  seasonal: ['season', 'trend', 'smoothed', 'average'],
};

/** Up to the next whole step; what is a hair above one counts as it. */
const inSteps = (value: number, step: number): number => Math.ceil(value / step - 1e-9) * step;

/**
 * Suggests levels from what was wanted day by day, the last day the day before today: a forecast by the way that did best on the item's own past; the
 * point that covers what is expected until more comes, and what
 * may be wanted beyond; and a level that makes an order worth its cost. Null while nothing was ever wanted.
 */
export function suggested(days: readonly DemandDay[], holding: Holding): Suggestion | null {
  const { wanted, withoutStock, apart } = filledDays(days);
  const weeks = inPeriods(wanted, week);
  const traits = traitsOf(weeks, weeksOfYear);
  if (traits.pattern === 'none' && wanted.every((many) => many === 0)) return null;
  const tried = backTested(weeks, methodsFor[traits.pattern], weeksOfYear);
  const [best] = tried;
  const run = best?.run(weeks);
  const ahead = (h: number): number => run?.ahead(h) ?? mean(wanted) * week;
  const missed = best?.rootSquared ?? deviationOf(wanted) * Math.sqrt(week);
  const until = Math.max(1, Math.ceil(holding.leadDays / week));
  const perDay = mean(Array.from({ length: until }, (_, index) => ahead(index + 1))) / week;
  const spread = missed / Math.sqrt(week);
  const { leadDays: leadTime, leadSpread: leadTimeSpread, z, step } = holding;
  const exact = suggestedPoint({ demand: perDay, demandSpread: spread, leadTime, leadTimeSpread, z });
  const perYear = mean(wanted.slice(-yearDays)) * yearDays;
  const economic = economicQuantity({ perYear, order: holding.orderCost, holding: holding.holdingCost });
  const point = inSteps(Math.max(exact, perDay * holding.coverDays), step);
  const many = Math.min(economic ?? (perYear * withoutCost) / yearDays, perYear);
  const upTo = inSteps(point + Math.max(many, step), step);
  const past = days.slice(-yearDays).map((day) => day.wanted);
  return {
    ...{ traits, filled: { withoutStock, apart }, weeks, tried, perDay, spread, economic, point, upTo },
    ahead: Array.from({ length: weeksAhead }, (_, index) => {
      const expected = ahead(index + 1);
      return { expected, low: Math.max(0, expected - fourOfFive * missed), high: expected + fourOfFive * missed };
    }),
    safety: exact - perDay * leadTime,
    replay: replayed(past, { point, upTo, pack: holding.pack, leadDays: Math.round(leadTime) }),
  };
}

/** What the last year would have been with the levels there are. */
export const asItIs = (days: readonly DemandDay[], levels: Levels): Replayed =>
  replayed(
    days.slice(-yearDays).map(({ wanted }) => wanted),
    levels,
  );

function deviationOf(values: readonly number[]): number {
  const average = mean(values);
  return Math.sqrt(mean(values.map((value) => (value - average) ** 2)));
}
