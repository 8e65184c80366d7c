import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum } from '../decimal';
import { average } from './average';
import { landedCost } from './landed';

describe('moving average', () => {
  test('12 worth 84.00 and 30 at 8.40 make 42 worth 336.00; 5 leave at 40.00', () => {
    const pool = { quantity: decimal(42), value: decimal(84).plus(decimal(30).times('8.40')) };
    expect(pool.value.toFixed(2)).toBe('336.00');
    expect(average.unitCost(pool)?.toFixed(2)).toBe('8.00');
    const gone = average.take(pool, decimal(5));
    expect([gone.toFixed(2), pool.value.minus(gone).toFixed(2)]).toEqual(['40.00', '296.00']);
  });
  test('three units worth 10.00 leave as 3.33, 3.34, 3.33', () => {
    let pool = { quantity: decimal(3), value: decimal(10) };
    const left = [1, 2, 3].map(() => {
      const value = average.take(pool, decimal(1));
      pool = { quantity: pool.quantity.minus(1), value: pool.value.minus(value) };
      return value.toFixed(2);
    });
    expect(left).toEqual(['3.33', '3.34', '3.33']);
  });
  test('a pool that empties is worth 0.00, however it empties', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 99 }), { minLength: 1, maxLength: 30 }), fc.integer({ min: 0, max: 1_000_000 }), (parts, worth) => {
        let pool = { quantity: sum(parts.map(decimal)), value: decimal(worth).div(100) };
        for (const part of parts) {
          const value = average.take(pool, decimal(part));
          expect(value.gte(0)).toBe(true);
          pool = { quantity: pool.quantity.minus(part), value: pool.value.minus(value) };
        }
        expect([pool.quantity.toFixed(), pool.value.toFixed(2)]).toEqual(['0', '0.00']);
      }),
    );
  });
});

describe('landed cost', () => {
  const line = (quantity: number, price: string, volume: string) => ({
    quantity: decimal(quantity),
    value: decimal(price).times(quantity),
    volume: decimal(volume),
    weight: decimal(0),
  });
  const boxes = line(40, '18.50', '0.045');
  const nails = line(200, '1.10', '0.0004');
  const smokers = line(25, '12.00', '0.006');
  const charges = [
    { amount: decimal(640), by: 'volume' as const },
    { amount: decimal('96.40'), by: 'value' as const, leftOut: [1] },
  ];

  test('freight by volume and duty by value with nails left out', () => {
    const result = landedCost([boxes, nails, smokers], charges);
    expect(result.map(({ shares }) => shares.map((share) => share.toFixed(2)))).toEqual([
      ['567.49', '68.59'],
      ['25.22', '0.00'],
      ['47.29', '27.81'],
    ]);
    expect(result.map(({ unitCost }) => unitCost.toString())).toEqual(['34.402', '1.2261', '15.004']);
    expect(sum(result.map(({ total }) => total)).toFixed(2)).toBe('1996.40');
  });
  test('with wax as well', () => {
    const result = landedCost([boxes, nails, smokers, line(90, '0.80', '0.0011')], charges);
    expect(result.map(({ shares }) => shares.map((share) => share.toFixed(2)))).toEqual([
      ['541.10', '64.15'],
      ['24.05', '0.00'],
      ['45.09', '26.01'],
      ['29.76', '6.24'],
    ]);
    expect(result.map(({ unitCost }) => unitCost.toString())).toEqual(['33.63125', '1.22025', '14.844', '1.2']);
    expect(sum(result.map(({ total }) => total)).toFixed(2)).toBe('2068.40');
  });
});
