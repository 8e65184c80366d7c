import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { planCosts } from '../costing/adjust';
import { shareHere } from '../costing/shareHere';
import { decimal, sum } from '../decimal';
import { billedOfReceipts, differenceInWords } from '../inbound/billing';
import { bookPurposes, moveFault, purposeWords, type MappedAccount } from './purpose';
import { plainJournal } from './plainText';
import { settleCharge } from './settle';

const cents = fc.integer({ min: 0, max: 10_000_000 }).map((n) => decimal(n).div(100));
const few = fc.integer({ min: 0, max: 500 }).map(decimal);

describe('which part of a receipt is still here', () => {
  test.each([
    // received, later, owned, here
    ['40', '0', '40', '1'],
    ['40', '0', '10', '0.25'],
    ['40', '30', '35', '0.125'],
    ['40', '60', '50', '0'],
    ['40', '0', '90', '1'],
    ['0', '0', '5', '0'],
  ])('%s received, %s after it, %s here: %s', (received, receivedLater, owned, here) => {
    expect(shareHere({ received: decimal(received), receivedLater: decimal(receivedLater), owned: decimal(owned) }).toFixed()).toBe(here);
  });
  test('it is never below nothing nor above the whole', () => {
    fc.assert(
      fc.property(few, few, few, (received, receivedLater, owned) => {
        const share = shareHere({ received, receivedLater, owned });
        expect(share.gte(0) && share.lte(1)).toBe(true);
      }),
    );
  });
});

describe('cost that comes after the goods', () => {
  const part = (amount: string, share: string) => ({ itemId: 1, poolKey: 'item 1', lineId: 7, amount: decimal(amount), share: decimal(share) });
  const pool = (quantity: string, value: string) => new Map([['item 1', { quantity: decimal(quantity), value: decimal(value) }]]);
  const shown = (planned: ReturnType<typeof planCosts>) =>
    planned.map(({ toStock, toGone, variance }) => [toStock, toGone, variance].map((amount) => amount.toFixed(2)));
  test('a quarter here: a quarter to stock', () => {
    expect(shown(planCosts([part('10.01', '0.25')], pool('10', '50')))).toEqual([['2.50', '7.51', '0.00']]);
  });
  test('a pool is not taken below zero: the rest is variance; an empty one takes nothing', () => {
    expect(shown(planCosts([part('-8.00', '1'), part('-3.00', '1')], pool('2', '10')))).toEqual([
      ['-8.00', '0.00', '0.00'],
      ['-2.00', '0.00', '-1.00'],
    ]);
    expect(shown(planCosts([part('4.00', '1')], pool('0', '0')))).toEqual([['0.00', '4.00', '0.00']]);
  });
  test('what goes to stock, to what has left and to variance is the whole, always', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: -90_000, max: 90_000 }), few), { minLength: 1, maxLength: 12 }), few, cents, (given, quantity, value) => {
        const parts = given.map(([amount, share]) => ({ itemId: 1, poolKey: 'item 1', lineId: 1, amount: decimal(amount).div(100), share: share.div(500) }));
        const before = { quantity, value: quantity.isZero() ? decimal(0) : value };
        const planned = planCosts(parts, new Map([['item 1', before]]));
        planned.forEach(({ amount, toStock, toGone, variance }) => expect(sum([toStock, toGone, variance]).eq(amount)).toBe(true));
        expect(before.value.plus(sum(planned.map(({ toStock }) => toStock))).gte(0)).toBe(true);
      }),
    );
  });
});

describe('clearing an estimate', () => {
  test.each([
    // open, billed, final, cleared, variance
    ['640.00', '640.00', false, '640.00', '0.00'],
    ['640.00', '700.00', false, '640.00', '60.00'],
    ['640.00', '500.00', false, '500.00', '0.00'],
    ['640.00', '500.00', true, '640.00', '-140.00'],
    ['0.00', '12.00', false, '0.00', '12.00'],
  ])('open %s, billed %s, final %p: clears %s, variance %s', (open, billed, final, cleared, variance) => {
    const settled = settleCharge(decimal(open), decimal(billed), final);
    expect([settled.cleared.toFixed(2), settled.variance.toFixed(2)]).toEqual([cleared, variance]);
  });
  test('a run of bills, the last one final, takes the estimate to zero, and all that was billed is accounted for', () => {
    fc.assert(
      fc.property(cents, fc.array(cents, { minLength: 1, maxLength: 6 }), (estimate, bills) => {
        let open = estimate;
        let variance = decimal(0);
        bills.forEach((billed, index) => {
          const settled = settleCharge(open, billed, index === bills.length - 1);
          open = open.minus(settled.cleared);
          variance = variance.plus(settled.variance);
          expect(open.gte(0)).toBe(true);
        });
        expect(open.toFixed(2)).toBe('0.00');
        expect(variance.eq(sum(bills).minus(estimate))).toBe(true);
      }),
    );
  });
});

describe('bills over receipts', () => {
  const parts = (net: number[], before: number, now: number) => billedOfReceipts(net.map(decimal), decimal(before), decimal(now)).map(Number);
  test('a bill goes on where the last one ended', () => {
    expect(parts([10, 20, 5], 0, 12)).toEqual([10, 2, 0]);
    expect(parts([10, 20, 5], 12, 23)).toEqual([0, 18, 5]);
    expect(parts([10], 4, 20)).toEqual([6]);
    expect(parts([0, 5], 0, 5)).toEqual([0, 5]);
  });
  test('differences are said in words', () => {
    const words = (ordered: string, billed: string, quantity: string, open: string) =>
      differenceInWords({ ordered: decimal(ordered), billed: decimal(billed), quantity: decimal(quantity), open: decimal(open) });
    expect(words('2', '2', '10', '10')).toBe('');
    expect(words('2', '2.10', '10', '10')).toBe('0.10 more for each than ordered, 1.00 in all');
    expect(words('2', '1.5', '4', '10')).toBe('0.50 less for each than ordered, 2.00 in all; 6 received and not billed yet');
    expect(words('2', '2', '12', '10')).toBe('2 billed before they have come');
  });
});

test('the plain-text journal has one entry a posting, and refuses one that does not balance', () => {
  const line = (code: string, name: string, type: 'inventory' | 'liability', amount: string) => ({ code, name, type, amount: decimal(amount) });
  const entry = {
    id: 4,
    day: '2026-11-24',
    text: 'Bill; of\nHexley | Joinery',
    document: 'BILL-1001',
    lines: [line('1200', 'Inventory', 'inventory', '10'), line('2100', 'Payable:  trade', 'liability', '-10')],
  };
  expect(plainJournal([entry, { ...entry, id: 5, lines: [] }], 'GBP')).toBe(
    '; Tidy Larder journal\ncommodity 1,000.00 GBP\n\n2026-11-24 (BILL-1001) Bill of Hexley Joinery\n    assets:1200 Inventory  10.00 GBP\n    liabilities:2100 Payable trade  -10.00 GBP\n',
  );
  expect(() => plainJournal([{ ...entry, lines: entry.lines.slice(0, 1) }], 'GBP')).toThrow('does not balance');
});

describe('which account a purpose has', () => {
  const account = (part: Partial<MappedAccount>): MappedAccount => ({
    code: '5210',
    name: 'Price variance',
    type: 'expense',
    purpose: null,
    used: false,
    ...part,
  });
  const now = account({ purpose: 'price-variance', used: true });
  const free = account({ code: '5211', name: 'Wood' });
  test('moves to an account of the same kind that is used for nothing, whatever was posted', () => {
    expect(moveFault('price-variance', now, free)).toBeNull();
    expect(moveFault('price-variance', now, account({ ...free, used: true }))).toBeNull();
  });
  test('does not move to itself, to one in use, or to one of another kind', () => {
    expect(moveFault('price-variance', now, now)).toBe('Price variance is used for this already.');
    expect(moveFault('price-variance', now, account({ ...free, purpose: 'bank' }))).toContain('Wood is used for what is paid');
    expect(moveFault('price-variance', now, account({ ...free, type: 'asset' }))).toBe('Wood is an account of asset; this asks for one of expense.');
  });
  test('an account held item by item moves only while nothing was posted to either', () => {
    const clearing = account({ code: '2130', name: 'Clearing', type: 'liability', purpose: 'landed-clearing' });
    const other = account({ code: '2131', name: 'Other', type: 'liability' });
    expect(moveFault('landed-clearing', clearing, other)).toBeNull();
    expect(moveFault('landed-clearing', { ...clearing, used: true }, other)).toContain('Clearing was posted to already');
    expect(moveFault('landed-clearing', clearing, { ...other, used: true })).toContain('Other was posted to already');
  });
  test('every purpose is said in words of its own', () => expect(new Set(Object.values(purposeWords)).size).toBe(bookPurposes.length));
});
