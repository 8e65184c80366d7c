import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum, type Decimal } from '../decimal';
import { notCharged, planCharges, planDifferences, planUndone, postedCharge, type Bearer, type Charged } from './adjust';
import type { Pool } from './method';
import { stillHere } from './shareHere';

const few = fc.integer({ min: 0, max: 500 }).map(decimal);
const bearer = (net: number, here: number, part: Partial<Bearer> = {}): Bearer => ({
  itemId: 1,
  lineId: 7,
  poolKey: 'item 1',
  net: decimal(net),
  here: decimal(here),
  ...part,
});
const pool = (quantity: number, value: string): Map<string, Pool> => new Map([['item 1', { quantity: decimal(quantity), value: decimal(value) }]]);
interface Shown {
  toStock: Decimal;
  toGone: Decimal;
  variance: Decimal;
}
const shown = (planned: readonly Shown[]) => planned.map(({ toStock, toGone, variance }) => [toStock, toGone, variance].map((amount) => amount.toFixed(2)));
const difference = (amount: string, ...covers: [Bearer, number][]) => ({
  amount: decimal(amount),
  quantity: sum(covers.map(([, quantity]) => decimal(quantity))),
  covers: covers.map(([one, quantity]) => ({ bearer: one, quantity: decimal(quantity) })),
});

describe('how many of a receipt are still here', () => {
  test.each([
    // net, later, owned, here
    ['40', '0', '40', '40'],
    ['40', '0', '10', '10'],
    ['40', '30', '35', '5'],
    ['40', '60', '50', '0'],
    ['40', '0', '90', '40'],
    ['0', '0', '5', '0'],
  ])('%s received, %s after it, %s here: %s', (net, receivedLater, owned, here) => {
    expect(stillHere({ net: decimal(net), receivedLater: decimal(receivedLater), owned: decimal(owned) }).toFixed()).toBe(here);
  });
  test('never fewer than none nor more than came', () => {
    fc.assert(
      fc.property(few, few, few, (net, receivedLater, owned) => {
        const here = stillHere({ net, receivedLater, owned });
        expect(here.gte(0) && here.lte(net)).toBe(true);
      }),
    );
  });
});

describe('a billed price that differs', () => {
  const planned = (pools: Map<string, Pool>, ...differences: ReturnType<typeof difference>[]) => planDifferences(differences, pools).map(shown);
  test('a quarter here: a quarter to stock', () => {
    expect(planned(pool(10, '50'), difference('10.01', [bearer(40, 10), 40]))).toEqual([[['2.50', '7.51', '0.00']]]);
  });
  test('12 received, 7 here: half a cent goes up', () => {
    expect(planned(pool(7, '70'), difference('1.62', [bearer(12, 7), 12]))).toEqual([[['0.95', '0.67', '0.00']]]);
    expect(planned(pool(7, '70'), difference('15.06', [bearer(12, 7), 12]))).toEqual([[['8.79', '6.27', '0.00']]]);
  });
  test('over two receipts it is rounded once, not for each', () => {
    const half = [bearer(6, 3), bearer(6, 3, { lineId: 8 })] as const;
    const [parts] = planDifferences([difference('0.02', [half[0], 6], [half[1], 6])], pool(6, '6'));
    expect(sum((parts ?? []).map(({ toStock }) => toStock)).toFixed(2)).toBe('0.01');
    expect(sum((parts ?? []).map(({ amount }) => amount)).toFixed(2)).toBe('0.02');
  });
  test('a receipt billed in part bears the share of that part', () => {
    const [parts] = planDifferences([difference('7.00', [bearer(2, 2), 2], [bearer(8, 4, { lineId: 8 }), 5])], pool(6, '60'));
    // 2 of 2 and 5 × 4/8 of 7 billed: 4.5 / 7 of 7.00
    expect(sum((parts ?? []).map(({ toStock }) => toStock)).toFixed(2)).toBe('4.50');
  });
  test('what is billed and went back bears its part elsewhere', () => {
    const [parts] = planDifferences([{ ...difference('20.00', [bearer(8, 8), 8]), quantity: decimal(10) }], pool(8, '80'));
    expect(shown(parts ?? [])).toEqual([['16.00', '0.00', '0.00']]);
    expect(planDifferences([{ amount: decimal(5), quantity: decimal(2), covers: [] }], pool(8, '80'))).toEqual([[]]);
  });
  test('no pool is taken below zero, an emptied one takes nothing, and one that just empties is not clamped', () => {
    const whole = bearer(2, 2);
    expect(planned(pool(2, '10'), difference('-8.00', [whole, 2]), difference('-3.00', [whole, 2]))).toEqual([
      [['-8.00', '0.00', '0.00']],
      [['-2.00', '0.00', '-1.00']],
    ]);
    expect(planned(pool(2, '10'), difference('-10.00', [whole, 2]))).toEqual([[['-10.00', '0.00', '0.00']]]);
    expect(planned(pool(0, '0'), difference('4.00', [bearer(2, 0), 2]))).toEqual([[['0.00', '4.00', '0.00']]]);
    expect(() => planDifferences([difference('1', [bearer(1, 1, { poolKey: 'item 2' }), 1])], pool(1, '1'))).toThrow('the pool was not read');
  });
  test('nothing differs: nothing is planned', () => expect(planDifferences([difference('0', [bearer(2, 2), 2])], pool(2, '2'))).toEqual([[]]));
  const receipts = fc.array(
    fc.record({ net: fc.integer({ min: 1, max: 60 }), here: fc.integer({ min: 0, max: 60 }), covered: fc.integer({ min: 1, max: 60 }) }),
    { minLength: 1, maxLength: 6 },
  );
  test('stock, what has left and variance are the whole, and stock is the exact share to the cent', () => {
    fc.assert(
      fc.property(receipts, fc.integer({ min: -90_000, max: 90_000 }), (given, cents) => {
        const covers = given.map(({ net, here, covered }, index): [Bearer, number] => [
          bearer(net, Math.min(net, here), { lineId: index }),
          Math.min(net, covered),
        ]);
        const [parts = []] = planDifferences([difference(decimal(cents).div(100).toFixed(2), ...covers)], pool(999, '100000'));
        parts.forEach(({ amount, toStock, toGone, variance }) => expect(sum([toStock, toGone, variance]).eq(amount)).toBe(true));
        // the same in whole numbers: cents × Σ(covered × here / net) / Σ covered, over one denominator
        const big = (n: number) => BigInt(n);
        const denominator = covers.reduce((product, [{ net }]) => product * big(net.toNumber()), 1n);
        const numerator = covers.reduce(
          (total, [{ net, here }, covered]) => total + (big(covered) * big(here.toNumber()) * denominator) / big(net.toNumber()),
          0n,
        );
        const whole = denominator * big(covers.reduce((total, [, covered]) => total + covered, 0));
        const twice = 2n * big(Math.abs(cents)) * numerator;
        const rounded = (twice + whole) / (2n * whole);
        expect(
          sum(parts.map(({ toStock }) => toStock))
            .times(100)
            .abs()
            .toFixed(),
        ).toBe(String(rounded));
      }),
    );
  });
});

describe('a charge', () => {
  const put = (before: Charged, one: Bearer, amount: string, pools = pool(100, '1000')) =>
    planCharges([{ bearer: one, before, amount: decimal(amount) }], pools)[0]!;
  const off = (after: Charged, one: Bearer, pools = pool(100, '1000')) => planUndone([postedCharge(one, after)], pools)[0]!;
  test('goes to stock as far as the goods are here; changed, only what differs is posted', () => {
    const first = put(notCharged(decimal(10)), bearer(10, 5), '10.00');
    expect(shown([first])).toEqual([['5.00', '5.00', '0.00']]);
    const second = put(first.after, bearer(10, 2), '20.00');
    expect(shown([second])).toEqual([['2.00', '8.00', '0.00']]);
    // of the 20.00 a fifth is still here
    expect(off(second.after, bearer(10, 2)).toStock.toFixed(2)).toBe('-4.00');
  });
  test('no later share exceeds the earlier one, though goods came back', () => {
    const first = put(notCharged(decimal(10)), bearer(10, 5), '10.00');
    expect(put(first.after, bearer(10, 9), '20.00').toStock.toFixed(2)).toBe('5.00');
  });
  test('receive 6, sell 1, charge 0.03, taken off: nothing stays; receive 2, sell 1, 0.03 changed to 0.06, taken off: nothing stays', () => {
    const one = put(notCharged(decimal(6)), bearer(6, 5), '0.03');
    expect([one.toStock, off(one.after, bearer(6, 5)).toStock].map(String)).toEqual(['0.03', '-0.03']);
    const two = put(notCharged(decimal(2)), bearer(2, 1), '0.03');
    const changed = put(two.after, bearer(2, 1), '0.06');
    expect([two.toStock, changed.toStock, off(changed.after, bearer(2, 1)).toStock].map(String)).toEqual(['0.02', '0.01', '-0.03']);
  });
  test('what left with goods that went back stays with them', () => {
    const put10 = put(notCharged(decimal(10)), bearer(10, 10), '30.00');
    expect(off(put10.after, bearer(7, 7)).toStock.toFixed(2)).toBe('-21.00');
    expect(off(put10.after, bearer(7, 7)).toGone.toFixed(2)).toBe('-9.00');
    expect(off(put10.after, bearer(0, 0)).toStock.isZero()).toBe(true);
  });
  test('taken off a pool that holds less, the rest is variance', () => {
    const charged = put(notCharged(decimal(2)), bearer(2, 2), '10.00');
    expect(shown([off(charged.after, bearer(2, 2), pool(2, '4.00'))])).toEqual([['-4.00', '0.00', '-6.00']]);
  });
  const edits = fc.array(fc.record({ cents: fc.integer({ min: 1, max: 9_999 }), sold: fc.integer({ min: 0, max: 3 }) }), { minLength: 1, maxLength: 6 });
  test('however often it is changed, stock has had the exact share of each change, rounded once', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), edits, (net, given) => {
        let charged = notCharged(decimal(net));
        let here = net;
        let weight = 0;
        for (const { cents, sold } of given) {
          here = Math.max(0, here - sold);
          weight += (cents - charged.amount.times(100).toNumber()) * here;
          charged = put(charged, bearer(net, here), decimal(cents).div(100).toFixed(2), pool(1000, '1000000')).after;
          const exact = Math.sign(weight) * Math.floor((2 * Math.abs(weight) + net) / (2 * net));
          expect(charged.toStock.times(100).toNumber()).toBe(exact + 0);
        }
      }),
    );
  });
});

describe('a cost turned round', () => {
  const posted = (amount: string, toStock: string, variance: string, fell: number) => ({
    amount: decimal(amount),
    toStock: decimal(toStock),
    variance: decimal(variance),
    fellOn: { weight: decimal(fell), amount: decimal(1) },
  });
  test('what was clamped is turned round as it was posted: 10 at 1.00, a credit of 15.00, undone', () => {
    const [undone] = planUndone([{ ...posted('-15', '-10', '-5', 10), bearer: bearer(10, 10) }], pool(10, '0.00'));
    expect(shown([undone!])).toEqual([['10.00', '0.00', '0.00']]);
  });
  test('what has been sold since keeps its part; goods that came back are not counted twice', () => {
    const undo = (here: number) => planUndone([{ ...posted('14', '14', '0', 7), bearer: bearer(7, here) }], pool(50, '500'))[0]!;
    expect([undo(7), undo(2), undo(0), undo(9)].map(({ toStock }) => toStock.toFixed(2))).toEqual(['-14.00', '-4.00', '0.00', '-14.00']);
  });
  test('it was for goods that had gone: stock stays', () => {
    expect(planUndone([{ ...posted('14', '0', '0', 0), bearer: bearer(7, 0) }], pool(5, '5'))[0]!.toStock.isZero()).toBe(true);
  });
});
