import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal } from '../decimal';
import { advice, allowed, breaksText, longestLead, priceOf, readBreaks } from './terms';

const jars = {
  packSize: '12',
  minimum: '24',
  price: '1.10',
  breaks: [
    { from: '120', price: '0.95' },
    { from: '480', price: '0.90' },
  ],
};

describe("a supplier's terms", () => {
  test('the price is that of the break reached', () => {
    expect([1, 119, 120, 479, 480, 5000].map((quantity) => priceOf(jars, decimal(quantity))?.toFixed(2))).toEqual([
      '1.10',
      '1.10',
      '0.95',
      '0.95',
      '0.90',
      '0.90',
    ]);
    expect(priceOf({ price: null, breaks: [] }, decimal(5))).toBeNull();
  });
  test('below the minimum, a broken pack, and a break that costs no more are said with what to take', () => {
    expect(advice(jars, decimal(6))).toEqual({ sentence: 'They deliver at least 24.', take: '24' });
    expect(advice(jars, decimal(30))).toEqual({ sentence: 'They pack 12 together.', take: '36' });
    expect(advice(jars, decimal(108))).toEqual({ sentence: '120 cost 114.00 in all, no more than these.', take: '120' });
    expect(advice(jars, decimal(60))).toBeNull();
  });
  test('breaks are read as typed, in any order; what cannot be read is not guessed', () => {
    expect(readBreaks(' 480: 0.9; 120:0.95 ')).toEqual([
      { from: '120', price: '0.95' },
      { from: '480', price: '0.9' },
    ]);
    expect(readBreaks('')).toEqual([]);
    expect(['120', '120: 0.95; 120: 0.90', '0: 1', '-5: 1', 'many: 2'].map(readBreaks)).toEqual([null, null, null, null, null]);
    expect(breaksText(jars.breaks)).toBe('120: 0.95; 480: 0.90');
  });
  test('what is allowed is never less than wanted, is whole packs, and more than a pack only for the minimum', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5000 }), fc.integer({ min: 1, max: 60 }), fc.integer({ min: 0, max: 300 }), (wanted, pack, minimum) => {
        const take = allowed({ packSize: String(pack), minimum: String(minimum) }, decimal(wanted)).toNumber();
        expect(take).toBeGreaterThanOrEqual(Math.max(wanted, minimum));
        expect(take % pack).toBe(0);
        expect(take - Math.max(wanted, minimum)).toBeLessThan(pack);
      }),
    );
  });
});

test('an order is there when the slowest of its items is: by the item’s own days, else the supplier’s', () => {
  expect(longestLead(7, [])).toBe(7);
  expect(longestLead(7, [null, null])).toBe(7);
  expect(longestLead(7, [3])).toBe(3);
  expect(longestLead(7, [3, null])).toBe(7);
  expect(longestLead(7, [3, 21, null])).toBe(21);
});
