import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { intermittent, movingAverage, seasonal, smoothed, trending } from './methods';

/**
 * Oil production of Saudi Arabia 1996 to 2013, million tonnes: Hyndman and Athanasopoulos, Forecasting: principles and practice, 2nd edition (2018),
 * table 7.1, with the level that is said there for each year.
 */
const oil = [445.36, 453.2, 454.41, 422.38, 456.04, 440.39, 425.19, 486.21, 500.43, 521.28, 508.95, 488.89, 509.87, 456.72, 473.82, 525.95, 549.83, 542.34];
const levels = [445.57, 451.93, 454.0, 427.63, 451.32, 442.2, 428.02, 476.54, 496.46, 517.15, 510.31, 492.45, 506.98, 465.07, 472.36, 517.05, 544.39, 542.68];

describe('simple smoothing', () => {
  test('comes to the levels of the textbook', () => {
    // The book begins with a level of 446.59, which is a value before the first here.
    const { before, ahead } = smoothed([446.5868, ...oil], 0.8339);
    const said = [...before.slice(2), ahead(1)].map((level) => Number((level as number).toFixed(2)));
    expect(said.map((level, index) => Math.abs(level - (levels[index] as number)) <= 0.011)).toEqual(levels.map(() => true));
  });
  test('says the same for each period ahead, and of nothing nothing', () => {
    const { ahead } = smoothed([4, 8], 0.5);
    expect([ahead(1), ahead(9), smoothed([], 0.5).ahead(1)]).toEqual([6, 6, 0]);
  });
});

test('the moving average is that of the last periods, or of as many as there are', () => {
  const { before, ahead } = movingAverage([3, 5, 10, 1], 2);
  expect([before, ahead(1), movingAverage([], 2).ahead(1)]).toEqual([[null, 3, 4, 7.5], 5.5, 0]);
});

describe('smoothing with a trend', () => {
  test('by hand: alpha one half, beta one half', () => {
    // Level 12, slope 2. Before the third 14, which was 18: level 16, slope 3. Before the fourth 19, which was 17: level 18, slope 2.5.
    const { before, ahead } = trending([10, 12, 18, 17], { alpha: 0.5, beta: 0.5, phi: 1 });
    expect([before, ahead(1), ahead(2)]).toEqual([[null, null, 14, 19], 20.5, 23]);
  });
  test('a straight line goes on, and wears off where it is damped', () => {
    const line = [1, 2, 3, 4, 5, 6];
    expect(trending(line, { alpha: 0.3, beta: 0.1, phi: 1 }).ahead(4)).toBeCloseTo(10, 10);
    const damped = trending(line, { alpha: 0.3, beta: 0.1, phi: 0.9 });
    const rises = [1, 2, 3].map((h) => damped.ahead(h + 1) - damped.ahead(h));
    expect((rises[1] as number) / (rises[0] as number)).toBeCloseTo(0.9, 10);
    expect((rises[2] as number) / (rises[1] as number)).toBeCloseTo(0.9, 10);
  });
  test('nobody wants less than nothing', () => {
    expect(trending([9, 6, 3], { alpha: 0.5, beta: 0.5, phi: 1 }).ahead(5)).toBe(0);
  });
});

describe('smoothing with a season', () => {
  const season = [10, -4, -8, 2];
  const exact = Array.from({ length: 16 }, (_, at) => 40 + 3 * at + (season[at % 4] as number));
  test('what repeats itself on a straight line is told exactly', () => {
    const { before, ahead } = seasonal(exact, { alpha: 0.2, beta: 0.1, gamma: 0.3, length: 4 });
    before.slice(4).forEach((said, index) => expect(said).toBeCloseTo(exact[index + 4] as number, 8));
    for (const h of [1, 2, 3, 4, 5]) expect(ahead(h)).toBeCloseTo(40 + 3 * (15 + h) + (season[(15 + h) % 4] as number), 8);
  });
  test('by hand: seasons of three', () => {
    // Averages of three: 20, 21, 22, 23, of the second to the fifth: by the end of the third the line is at 21 and rises by 1. What is left of each: 11, -5 and -6.
    const { before } = seasonal([30, 15, 15, 33, 18, 18], { alpha: 0.5, beta: 0, gamma: 0, length: 3 });
    expect(before.slice(0, 3)).toEqual([null, null, null]);
    expect(before.slice(3).map((said) => Number((said as number).toFixed(4)))).toEqual([33, 18, 18]);
  });
  test('without two whole seasons there is none', () => {
    expect(() => seasonal([1, 2, 3], { alpha: 0.5, beta: 0.1, gamma: 0.1, length: 2 })).toThrow(RangeError);
  });
});

describe('demand that comes now and then', () => {
  test('by hand: 4 in the second period, 2 three periods later', () => {
    // Size 4, apart 2: two a period. Then size 4 + 0.5 × (2 - 4) = 3, apart 2 + 0.5 × (3 - 2) = 2.5: 1.2 a period.
    const { before, ahead } = intermittent([0, 4, 0, 0, 2, 0], 0.5, false);
    expect(before).toEqual([null, null, 2, 2, 2, 1.2]);
    expect(ahead(3)).toBe(1.2);
  });
  test('what it says too much is taken off: alpha/2 of it', () => {
    expect(intermittent([0, 4, 0, 0, 2, 0], 0.5).ahead(1)).toBeCloseTo(0.75 * 1.2, 12);
    expect(intermittent([0, 0, 0], 0.5).ahead(1)).toBe(0);
  });
  test('of demand in every period it is simple smoothing', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 99 }), { minLength: 1, maxLength: 30 }), fc.constantFrom(0.1, 0.3, 0.8), (series, alpha) => {
        expect(intermittent(series, alpha, false).ahead(1)).toBeCloseTo(smoothed(series, alpha).ahead(1), 9);
      }),
    );
  });
});

test('no way of forecasting ever says less than nothing', () => {
  const series = fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 8, maxLength: 40 });
  const share = fc.constantFrom(0.05, 0.3, 0.9);
  fc.assert(
    fc.property(series, share, share, share, fc.integer({ min: 1, max: 30 }), (values, alpha, beta, gamma, h) => {
      const runs = [
        movingAverage(values, 4),
        smoothed(values, alpha),
        trending(values, { alpha, beta, phi: 0.95 }),
        seasonal(values, { alpha, beta, gamma, length: 4 }),
        intermittent(values, alpha),
      ];
      for (const { ahead, before } of runs) {
        expect(ahead(h)).toBeGreaterThanOrEqual(0);
        expect(before).toHaveLength(values.length);
      }
    }),
  );
});
