import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { cumulativeShare, decimal, money, quantityFault, spread, sum } from './decimal';

const cents = fc.integer({ min: -10_000_000, max: 10_000_000 }).map((n) => decimal(n).div(100));

describe('spreading an amount', () => {
  test('largest remainders get what rounding leaves, ties the earlier line', () => {
    expect(spread(decimal('10.00'), [decimal(1), decimal(1), decimal(1)]).map(String)).toEqual(['3.34', '3.33', '3.33']);
    expect(spread(decimal('0.05'), [decimal(2), decimal(1)]).map(String)).toEqual(['0.03', '0.02']);
  });
  test('parts always add up to the cent', () => {
    const weights = fc.array(
      fc.integer({ min: 0, max: 100000 }).map((n) => decimal(n).div(1000)),
      { minLength: 1, maxLength: 20 },
    );
    fc.assert(
      fc.property(cents, weights, (amount, given) => {
        const parts = spread(amount, given);
        expect(sum(parts).eq(amount)).toBe(true);
        parts.forEach((part) => expect(part.decimalPlaces()).toBeLessThanOrEqual(2));
      }),
    );
  });
  test('weights of zero spread evenly, a negative one is refused', () => {
    expect(spread(decimal('0.03'), [decimal(0), decimal(0)]).map(String)).toEqual(['0.02', '0.01']);
    expect(() => spread(decimal(1), [decimal(-1), decimal(2)])).toThrow(RangeError);
    expect(() => spread(decimal(1), [])).toThrow(RangeError);
  });
});

test('rounding goes half away from zero', () => {
  expect([money('1.005'), money('-1.005'), money('2.345')].map(String)).toEqual(['1.01', '-1.01', '2.35']);
});

test('the shares of a line taken bit by bit add up to its amount', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 500 }),
      fc.integer({ min: 0, max: 1_000_000 }),
      fc.array(fc.integer({ min: 1, max: 50 }), { minLength: 1 }),
      (whole, amountCents, steps) => {
        const amount = decimal(amountCents).div(100);
        let done = decimal(0);
        let taken = decimal(0);
        for (const step of [...steps, whole]) {
          const next = done.plus(step).gt(whole) ? decimal(whole) : done.plus(step);
          taken = taken.plus(cumulativeShare(amount, decimal(whole), next).minus(cumulativeShare(amount, decimal(whole), done)));
          done = next;
        }
        expect(taken.eq(amount)).toBe(true);
      },
    ),
  );
});

test.each([
  ['12', '1', null],
  ['0.5', '0.001', null],
  ['-3', '1', 'not-positive'],
  ['0', '1', 'not-positive'],
  ['1000000000', '1', 'too-large'],
  ['99999999999999999999', '1', 'too-large'],
  ['0.5', '1', 'too-fine'],
  ['1.0005', '0.001', 'too-fine'],
  ['twelve', '1', 'not-a-number'],
  ['', '1', 'not-a-number'],
  ['1e5', '1', 'not-a-number'],
  ['NaN', '1', 'not-a-number'],
])('a quantity of %p in steps of %p: %p', (text, step, fault) => {
  expect(quantityFault(text, step)).toBe(fault);
});
