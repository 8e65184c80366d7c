import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { DemandDay } from './forecast/demandDays';
import { asItIs, suggested, type Holding } from './suggestion';

const holding: Holding = { leadDays: 7, leadSpread: 0, z: 1.645, orderCost: 12, holdingCost: 1, pack: 0, step: 1, coverDays: 0 };
const past = (length: number, of: (day: number) => number): DemandDay[] => Array.from({ length }, (_, day) => ({ wanted: of(day), there: true, apart: false }));

describe('levels suggested from the past', () => {
  test('of what is wanted just alike each day: no safety is needed, and an order is worth its cost', () => {
    const found = suggested(
      past(210, () => 4),
      holding,
    );
    expect(found).toMatchObject({ perDay: 4, spread: 0, safety: 0, point: 28, traits: { pattern: 'steady' } });
    // The root of 2 × 1,460 × 12 is 187.2, and the level is in whole steps.
    expect([found?.economic?.toFixed(1), found?.upTo]).toEqual(['187.2', 216]);
    expect(found?.replay).toMatchObject({ daysOut: 0 });
    expect(found?.ahead[0]).toEqual({ expected: 28, low: 28, high: 28 });
  });
  test('a lead time that varies is covered, in whole steps', () => {
    const found = suggested(
      past(210, () => 4),
      { ...holding, leadSpread: 2, step: 5 },
    );
    // 28 + 1.645 × 4 × 2 is 41.16.
    expect([found?.safety.toFixed(2), found?.point]).toEqual(['13.16', 45]);
  });
  test('what is free lasts so many days at least', () => {
    expect(
      suggested(
        past(210, () => 4),
        { ...holding, coverDays: 90 },
      ),
    ).toMatchObject({ point: 360, upTo: 548 });
  });
  test('of nothing ever wanted nothing is suggested; of one sale something, and it says what it is', () => {
    expect([
      suggested(
        past(200, () => 0),
        holding,
      ),
      suggested([], holding),
    ]).toEqual([null, null]);
    const one = suggested(
      past(200, (day) => (day === 60 ? 3 : 0)),
      holding,
    );
    expect(one?.traits.pattern).toBe('lumpy');
    expect(one?.point).toBeGreaterThanOrEqual(0);
    const fresh = suggested(
      past(3, (day) => day),
      holding,
    );
    expect(fresh).toMatchObject({ tried: [], weeks: [], perDay: 1 });
  });
  test('days without stock do not make it less, and what is apart does not make it more', () => {
    const gone = past(210, () => 4).map((one, day) => (day % 3 === 0 ? { wanted: 0, there: false, apart: false } : one));
    const fair = past(210, () => 4).map((one, day) => (day === 200 ? { wanted: 400, there: true, apart: true } : one));
    expect(suggested(gone, holding)).toMatchObject({ perDay: 4, filled: { withoutStock: 70, apart: 0 } });
    expect(suggested(fair, holding)).toMatchObject({ perDay: 4, filled: { withoutStock: 0, apart: 1 } });
  });
  test('what comes back each year is expected before it comes', () => {
    // Ten times as much in every year's first ten weeks.
    const days = past(3 * 364, (day) => (day % 364 < 70 ? 20 : 2));
    const found = suggested(days, holding);
    expect(found?.traits.pattern).toBe('seasonal');
    expect(found?.tried[0]?.method).toBe('season');
    expect(found?.ahead[0]?.expected).toBeGreaterThan(100);
    expect(found?.ahead[12]?.expected).toBeLessThan(40);
  });
});

test('a point above the level never orders: the past says so', () => {
  expect(
    asItIs(
      past(10, () => 2),
      { point: 9, upTo: 5, pack: 0, leadDays: 1 },
    ),
  ).toMatchObject({ orders: 10 });
  expect(
    asItIs(
      past(10, () => 2),
      { point: 0, upTo: 0, pack: 0, leadDays: 1 },
    ),
  ).toMatchObject({ daysOut: 10, averageStock: 0 });
});

test('nothing is below zero, levels are in whole steps above the point, and more service never asks for less', () => {
  const wanted = fc.array(fc.integer({ min: 0, max: 12 }), { minLength: 1, maxLength: 260 });
  const terms = fc.record({
    leadDays: fc.integer({ min: 0, max: 40 }),
    leadSpread: fc.integer({ min: 0, max: 9 }),
    step: fc.constantFrom(1, 0.5, 6),
    pack: fc.constantFrom(0, 6),
  });
  fc.assert(
    fc.property(wanted, terms, (many, part) => {
      const days = past(many.length, (day) => many[day] as number);
      const found = suggested(days, { ...holding, ...part });
      if (!found) return expect(Math.max(...many)).toBe(0);
      for (const value of [
        found.perDay,
        found.spread,
        found.safety,
        found.point,
        ...found.ahead.flatMap(({ low, expected, high }) => [low, expected - low, high - expected]),
      ])
        expect(value).toBeGreaterThanOrEqual(-1e-9);
      expect(found.upTo).toBeGreaterThan(found.point);
      for (const level of [found.point, found.upTo]) expect(Math.abs(level / part.step - Math.round(level / part.step))).toBeLessThan(1e-9);
      expect(suggested(days, { ...holding, ...part, z: 2.33 })?.point).toBeGreaterThanOrEqual(found.point);
    }),
    { numRuns: 60 },
  );
});
