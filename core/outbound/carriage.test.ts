import { expect, test } from '@jest/globals';
import { decimal } from '../decimal';
import { arrivesOn, chargeableWeight, parcelPrice } from './carriage';

const sized = (weight: string, length: number | null, width: number | null, height: number | null) =>
  chargeableWeight({ weight, length, width, height }).toFixed();

test('a parcel is priced by what it weighs, or by what its size counts for when that is more', () => {
  expect(sized('12', 40, 30, 20)).toBe('12');
  expect(sized('2', 60, 40, 40)).toBe('19.2');
  expect(sized('2', null, null, null)).toBe('2');
});

test('each kilogram begun counts, and the service’s share is taken once, to the cent', () => {
  const zone = { parcel: '4.20', kilogram: '0.35', days: 1 };
  expect(parcelPrice(zone, decimal('4'), '1').toFixed(2)).toBe('5.60');
  expect(parcelPrice(zone, decimal('4.001'), '1').toFixed(2)).toBe('5.95');
  expect(parcelPrice(zone, decimal('0.2'), '1.55').toFixed(2)).toBe('7.05');
});

test('working days only count on the way, and what is taken on a weekend is taken on Monday', () => {
  expect(arrivesOn('2026-11-26', 1)).toBe('2026-11-27');
  expect(arrivesOn('2026-11-27', 1)).toBe('2026-11-30');
  expect(arrivesOn('2026-11-28', 3)).toBe('2026-12-03');
});
