import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal } from '../decimal';
import { lineAmount } from '../inbound/amount';
import { priceOf } from '../inbound/terms';
import { clashingRows, discountOf, holdsOn, priceAt, priceFor, pricesAt, pricesFor, type PriceRow } from './pricing';

const smoker = { itemId: 1, categoryId: 7, salesPrice: '40' };
const row = (part: Partial<PriceRow>): PriceRow => ({
  itemId: part.categoryId === undefined ? 1 : null,
  categoryId: null,
  from: '0',
  price: null,
  percentOff: null,
  startsOn: null,
  endsOn: null,
  ...part,
});
const day = '2026-11-28';
const costs = (lists: PriceRow[][], quantity: string, item = smoker) => priceFor(lists, item, decimal(quantity), day)?.toFixed() ?? null;

describe('the price for a customer', () => {
  test('is by their list, then by the next one, then what the item says', () => {
    const own = [row({ from: '12', price: '33' })];
    const house = [row({ from: '6', price: '36' })];
    expect([costs([own, house], '5'), costs([own, house], '6'), costs([own, house], '12')]).toEqual(['40', '36', '33']);
    expect(costs([], '12', { ...smoker, itemId: 2 })).toBe('40');
  });
  test('is what the item’s own row says before what its category’s says, however much cheaper that is', () => {
    const list = [row({ categoryId: 7, percentOff: '50' }), row({ price: '39' }), row({ categoryId: 8, price: '1' })];
    expect(costs([list], '1')).toBe('39');
    expect(costs([list], '1', { ...smoker, itemId: 2 })).toBe('20');
    expect(costs([list], '1', { ...smoker, itemId: 2, categoryId: 9 })).toBe('40');
  });
  test('takes a part off the sales price to six decimals, and nothing off a price nobody said', () => {
    expect(costs([[row({ percentOff: '12.5' })]], '1', { ...smoker, salesPrice: '3.333333' })).toBe('2.916666');
    expect(priceFor([[row({ percentOff: '10' })]], { ...smoker, salesPrice: null }, decimal(1), day)).toBeNull();
    expect(costs([[row({ percentOff: '100' })]], '1')).toBe('0');
  });
  test('holds on its days, the first and the last with them', () => {
    const sale = row({ startsOn: '2026-11-20', endsOn: day });
    expect([holdsOn(sale, '2026-11-19'), holdsOn(sale, '2026-11-20'), holdsOn(sale, day), holdsOn(sale, '2026-11-29')]).toEqual([false, true, true, false]);
    expect(costs([[row({ price: '1', endsOn: '2026-11-27' })]], '1')).toBe('40');
  });
});

test('prices by quantity say at each quantity what is found for that quantity alone', () => {
  const rows = fc.array(
    fc.record({
      itemId: fc.constantFrom(1, 2, null),
      from: fc.constantFrom('0', '1', '5', '10', '24.5'),
      amount: fc.integer({ min: 0, max: 90 }).map(String),
      off: fc.boolean(),
      startsOn: fc.constantFrom(null, '2026-11-01', '2026-12-01'),
    }),
    { maxLength: 8 },
  );
  fc.assert(
    fc.property(fc.array(rows, { maxLength: 3 }), fc.constantFrom('0.5', '1', '4', '5', '9.9999', '10', '24.5', '1000'), (given, quantity) => {
      const lists = given.map((list) =>
        list.map(({ itemId, from, amount, off, startsOn }) =>
          row({ itemId, categoryId: itemId === null ? 7 : null, from, startsOn, price: off ? null : amount, percentOff: off ? amount : null }),
        ),
      );
      // Of rows that say two things of the same the first in the list counts for both ways of asking.
      expect(priceOf(pricesFor(lists, smoker, day), decimal(quantity))?.toFixed()).toBe(costs(lists, quantity));
    }),
  );
});

test('rows that say two things of the same on one day are found, and only those', () => {
  const rows = [
    row({ from: '10', endsOn: '2026-11-30' }),
    row({ from: '10.0', startsOn: '2026-12-01' }),
    row({ from: '10', startsOn: '2026-11-30', endsOn: '2026-11-30' }),
    row({ from: '11' }),
    row({ categoryId: 7, from: '10' }),
    row({ itemId: 2, from: '10' }),
  ];
  expect(clashingRows(rows)).toEqual([[0, 2]]);
  expect(clashingRows([row({}), row({})])).toEqual([[0, 1]]);
});

test('a discount of the line and one of the order are taken one after the other, exactly', () => {
  expect(discountOf(decimal('10'), decimal('5')).toFixed()).toBe('14.5');
  expect(discountOf(decimal('12.34'), decimal('5.67')).toFixed()).toBe('17.310322');
  expect(discountOf(decimal('100'), decimal('3')).toFixed()).toBe('100');
  const amountOf = (discount: string) =>
    lineAmount({ quantity: decimal('7'), price: decimal('19.99'), pricePer: decimal(1), discount: decimal(discount) }).toFixed(2);
  // 7 × 19.99 = 139.93; less 12.34 % and 5.67 %: 139.93 × 0.82689678 = 115.707666…
  expect(amountOf(discountOf(decimal('12.34'), decimal('5.67')).toFixed())).toBe('115.71');
});

describe('a price in another currency', () => {
  test('has the decimals of that currency, or as many as it is written with', () => {
    expect([priceAt('12.00', '0.86', 2), priceAt('12', '0.86', 2), priceAt('0.0335', '0.86', 2), priceAt('12', '0.0052', 0)]).toEqual([
      '13.95',
      '13.95',
      '0.039',
      '2308',
    ]);
  });
  test('is what it is where one is worth one, of all its breaks as well', () => {
    const prices = { price: '4.20', breaks: [{ from: '12', price: '3.90' }] };
    expect(pricesAt(prices, '1', 2)).toEqual(prices);
    expect(pricesAt(prices, '0.5', 2)).toEqual({ price: '8.4', breaks: [{ from: '12', price: '7.8' }] });
    expect(pricesAt({ price: null, breaks: [] }, '0.5', 2).price).toBeNull();
  });
});
