import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { backTested, triedOn } from './backtest';
import { methodNames } from './methods';

const weeks = Array.from({ length: 120 }, (_, at) => at);
/** What looks like chance and is the same each time. */
const noise = (at: number) => {
  const far = Math.sin((at + 1) * 12.9898) * 43758.5453;
  return (far - Math.floor(far)) * 12 - 6;
};
const best = (series: number[], season = 52) => backTested(series, methodNames, season)[0]?.method;

describe('the way that did best on the past', () => {
  test('of demand that rises is the one with a trend', () => {
    expect(best(weeks.slice(0, 100).map((at) => 20 + 5 * at + noise(at)))).toBe('trend');
  });
  test('of demand that comes back each year is the one with a season, once there are two years before', () => {
    const yearly = (at: number) => Math.round(60 + 50 * Math.sin((2 * Math.PI * at) / 52)) + noise(at);
    const years = Array.from({ length: 156 }, (_, at) => yearly(at));
    expect(best(years)).toBe('season');
    expect(backTested(years.slice(0, 100), methodNames, 52).map(({ method }) => method)).not.toContain('season');
  });
  test('of demand that stays is an average or smoothed little', () => {
    const [tried] = backTested(
      weeks.map((at) => 50 + noise(at)),
      methodNames,
      52,
    );
    expect(tried?.rootSquared).toBeLessThan(4.2);
    expect(['average', 'smoothed', 'lumpy']).toContain(tried?.method);
  });
});

test('errors are those of the last periods, each forecast from all before it', () => {
  const [tried] = backTested([5, 5, 5, 5, 5, 5, 8, 2, 5], ['average'], 52);
  // The last three, by the average of four: 5, 5.75, 5.
  expect(tried).toMatchObject({ method: 'average', settings: { periods: 4 }, forecast: [5, 5.75, 5] });
  expect(tried?.meanError).toBeCloseTo((3 + 3.75 + 0) / 3, 12);
  expect(tried?.bias).toBeCloseTo((3 - 3.75) / 3, 12);
  expect(tried?.rootSquared).toBeCloseTo(Math.sqrt((9 + 14.0625) / 3), 12);
});

test('of too little nothing is said', () => {
  expect([backTested([], methodNames, 52), backTested([1, 2], methodNames, 52)]).toEqual([[], []]);
  expect([0, 9, 104, 116, 117, 140, 300].map((periods) => triedOn(periods, 52))).toEqual([0, 3, 34, 38, 13, 36, 52]);
});

test('the best stands first, and no forecast is below zero', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 40 }), { minLength: 3, maxLength: 60 }), (series) => {
      const tried = backTested(series, methodNames, 8);
      expect(tried.map(({ rootSquared }) => rootSquared)).toEqual(tried.map(({ rootSquared }) => rootSquared).sort((a, b) => a - b));
      for (const { forecast } of tried) for (const said of forecast) expect(said).toBeGreaterThanOrEqual(0);
    }),
    { numRuns: 60 },
  );
});
