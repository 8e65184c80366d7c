import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum, zero } from '../decimal';
import { bringings, lackOf, surplusOf, type StandingAt } from './proposals';

const at = (siteId: number, free: number, part: Partial<Record<'incoming' | 'short' | 'reorderPoint' | 'orderUpTo', number>> = {}): StandingAt => {
  const orNone = (value: number | undefined) => (value === undefined ? null : decimal(value));
  return {
    siteId,
    free: decimal(free),
    incoming: decimal(part.incoming ?? 0),
    short: decimal(part.short ?? 0),
    reorderPoint: orNone(part.reorderPoint),
    orderUpTo: orNone(part.orderUpTo),
  };
};
const levels = { reorderPoint: 8, orderUpTo: 24 };
const said = (sites: StandingAt[], step = 1) =>
  bringings(sites, decimal(step)).map((one) => `${one.quantity.toFixed()} from ${one.fromSiteId} to ${one.toSiteId}`);

describe('what a site lacks, and has too many of', () => {
  test('lacks from its point down, up to its level; what is on its way counts, and so does what is short', () => {
    expect(
      [at(1, 9, levels), at(1, 8, levels), at(1, 2, { ...levels, incoming: 10 }), at(1, 9, { ...levels, short: 3 })].map((one) => lackOf(one).toFixed()),
    ).toEqual(['0', '16', '0', '18']);
    expect([at(1, 0, { short: 4 }), at(1, 0, { short: 4, incoming: 5 }), at(1, 3)].map((one) => lackOf(one).toFixed())).toEqual(['4', '0', '0']);
  });

  test('has too many above its level; without one, or while it is short itself, it keeps what it has', () => {
    expect([at(1, 30, levels), at(1, 20, levels), at(1, 30), at(1, 30, { ...levels, short: 1 })].map((one) => surplusOf(one).toFixed())).toEqual([
      '6',
      '0',
      '0',
      '0',
    ]);
  });
});

test('whoever lacks most is served first, by whoever has most too many, in whole steps', () => {
  expect(said([at(1, 2, levels), at(2, 40, levels), at(3, 30, levels), at(4, 7, levels)])).toEqual(['16 from 2 to 1', '6 from 3 to 1']);
  expect(said([at(1, 2, levels), at(2, 29.5, levels)], 2)).toEqual(['4 from 2 to 1']);
  expect(said([at(1, 2, levels), at(2, 24.4, levels)])).toEqual([]);
  expect(said([at(1, 50, levels), at(2, 40, levels)])).toEqual([]);
});

test('nobody gives more than it has too many of, and nobody gets more than it lacks', () => {
  const site = fc.record({
    free: fc.integer({ min: 0, max: 60 }),
    incoming: fc.integer({ min: 0, max: 9 }),
    short: fc.integer({ min: 0, max: 9 }),
    has: fc.boolean(),
  });
  fc.assert(
    fc.property(fc.array(site, { maxLength: 6 }), fc.integer({ min: 1, max: 5 }), (drawn, step) => {
      const sites = drawn.map(({ free, incoming, short, has }, index) => at(index, free, { incoming, short, ...(has ? levels : {}) }));
      const all = bringings(sites, decimal(step));
      for (const one of sites) {
        const total = (which: 'fromSiteId' | 'toSiteId') => sum(all.filter((each) => each[which] === one.siteId).map(({ quantity }) => quantity));
        expect(total('fromSiteId').lte(surplusOf(one))).toBe(true);
        expect(total('toSiteId').lte(lackOf(one))).toBe(true);
      }
      for (const { fromSiteId, toSiteId, quantity } of all) {
        expect(fromSiteId).not.toBe(toSiteId);
        expect([quantity.gt(zero), quantity.mod(step).isZero()]).toEqual([true, true]);
      }
    }),
  );
});
