import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, money, nextShare, quantityFault, shareOf, spread, sum } from './decimal';

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

test('half a cent is seen as such: multiplied first, divided once', () => {
  const here = (amount: string) => shareOf(decimal(amount), decimal(7), decimal(12)).toFixed(2);
  expect([here('1.62'), here('15.06'), here('-1.62')]).toEqual(['0.95', '8.79', '-0.95']);
  expect([shareOf(decimal(5), decimal(1), decimal(0)), shareOf(decimal('2.5'), decimal(1), decimal(1), 0)].map(String)).toEqual(['0', '3']);
});

test('what is undone in between leaves no cent behind: 3 at 10.00, the second undone and received again', () => {
  const next = (quantity: number, amount: string) => nextShare(decimal(10), decimal(3), { quantity: decimal(quantity), amount: decimal(amount) }, decimal(1));
  const parts = [next(0, '0'), next(1, '3.33'), next(2, '6.67')].map((part) => part.toFixed(2));
  expect(parts).toEqual(['3.33', '3.34', '3.33']);
  expect(next(2, '6.66').toFixed(2)).toBe('3.34');
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
          taken = taken.plus(nextShare(amount, decimal(whole), { quantity: done, amount: taken }, next.minus(done)));
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
