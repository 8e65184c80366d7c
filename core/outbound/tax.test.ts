import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum } from '../decimal';
import { proposedShipBy } from './shipBy';
import { taxOf, taxParts } from './tax';

const line = (amount: string, rate: string, recoverable = '100') => ({ amount: decimal(amount), rate: decimal(rate), recoverable: decimal(recoverable) });

/** Hundredths of a currency unit, half away from zero, of `cents` × `rate` per cent: in whole numbers alone. */
const percentOf = (cents: bigint, rate: bigint): bigint => {
  const [sign, size] = cents < 0n ? [-1n, -cents] : [1n, cents];
  return sign * ((2n * size * rate + 100n) / 200n);
};

describe('tax', () => {
  test('is rounded once for each rate, not line by line', () => {
    expect(taxOf([line('0.33', '20'), line('0.33', '20'), line('0.34', '20')]).toFixed(2)).toBe('0.20');
    expect(taxOf([line('0.12', '20'), line('0.12', '5')]).toFixed(2)).toBe('0.03');
    expect(taxOf([])).toEqual(decimal(0));
  });
  test('has as many places as its currency', () => {
    expect(taxOf([line('101', '10')], 0).toFixed()).toBe('10');
    expect(taxOf([line('1.234', '10')], 3).toFixed(3)).toBe('0.123');
  });
  test('of what goes back is what it was, the other way round', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 1, max: 99999 }), fc.constantFrom(0, 5, 20)), { maxLength: 8 }), (lines) => {
        const there = lines.map(([cents, rate]) => line((cents / 100).toFixed(2), String(rate)));
        const back = there.map((one) => ({ ...one, amount: one.amount.neg() }));
        expect(taxOf(back).eq(taxOf(there).neg())).toBe(true);
      }),
    );
  });
  test('agrees with a reckoning in whole cents', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: -99999, max: 99999 }), fc.constantFrom(0, 5, 7, 20)), { maxLength: 12 }), (lines) => {
        const byRate = new Map<number, bigint>();
        for (const [cents, rate] of lines) byRate.set(rate, (byRate.get(rate) ?? 0n) + BigInt(cents));
        const expected = [...byRate].reduce((total, [rate, cents]) => total + percentOf(cents, BigInt(rate)), 0n);
        const asked = taxOf(lines.map(([cents, rate]) => line((cents / 100).toFixed(2), String(rate))));
        expect(asked.times(100).toFixed(0)).toBe(expected.toString());
      }),
    );
  });
});

describe('tax of a bill', () => {
  test('is told by rate and by how much of it is claimed back', () => {
    const parts = taxParts([line('10.00', '20'), line('5.00', '20', '50'), line('20.00', '5'), line('2.02', '20', '50')]);
    expect(parts.map(({ tax, recoverable }) => [tax.toFixed(2), recoverable.toFixed(2)])).toEqual([
      ['2.00', '2.00'],
      ['1.40', '0.70'],
      ['1.00', '1.00'],
    ]);
  });
  test('claims back no more than was charged, and all of it at a hundred per cent', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 99999 }), fc.constantFrom(5, 20), fc.integer({ min: 0, max: 100 })), { maxLength: 8 }),
        (lines) => {
          const parts = taxParts(lines.map(([cents, rate, back]) => line((cents / 100).toFixed(2), String(rate), String(back))));
          for (const { tax, recoverable } of parts) expect(recoverable.gte(0) && recoverable.lte(tax)).toBe(true);
          const whole = taxParts(lines.map(([cents, rate]) => line((cents / 100).toFixed(2), String(rate))));
          expect(sum(whole.map(({ recoverable }) => recoverable)).eq(sum(whole.map(({ tax }) => tax)))).toBe(true);
        },
      ),
    );
  });
});

describe('the day an order is to ship by', () => {
  test('is so many days on, or the next working day', () => {
    expect(proposedShipBy('2026-11-23', 2)).toBe('2026-11-25');
    expect(proposedShipBy('2026-11-25', 3)).toBe('2026-11-30');
    expect(proposedShipBy('2026-11-28', 0)).toBe('2026-11-30');
    expect(proposedShipBy('2026-12-30', 3)).toBe('2027-01-04');
  });
});
