import { expect, test } from '@jest/globals';
import type { LandedLine } from '@larder/contract/landed';
import { chargeFaults, emptyCharge, sentSheet, workSheet, type ChargeDraft } from './sheetDraft';

const line = (lineId: number, quantity: string, value: string, volume: string | null, weight: string | null = null): LandedLine => ({
  lineId,
  movementId: 1,
  itemId: lineId,
  sku: `S${lineId}`,
  name: '',
  lot: null,
  unit: 'each',
  supplier: '',
  orderNumber: null,
  quantity,
  value,
  billedDifference: '0.00',
  weight,
  volume,
  here: '1',
});
const lines = [line(1, '40', '740.00', '0.045'), line(2, '200', '220.00', '0.0004'), line(3, '25', '300.00', '0.006')];
const charge = (part: Partial<ChargeDraft>): ChargeDraft => ({ ...emptyCharge('GBP'), name: 'Freight', ...part });
const freight = charge({ by: 'volume', amount: '640.00' });
const duty = charge({ name: 'Duty', by: 'value', amount: '96.40', leftOut: [2] });

test('freight by volume and duty by value without the nails, worked out as it is typed', () => {
  const { lines: worked, total } = workSheet(lines, [freight, duty]);
  expect(worked.map(({ shares }) => shares.map((share) => share?.toFixed(2)))).toEqual([
    ['567.49', '68.59'],
    ['25.22', '0.00'],
    ['47.29', '27.81'],
  ]);
  expect(worked.map(({ landed }) => landed.toFixed())).toEqual(['34.402', '1.2261', '15.004']);
  expect(total.toFixed(2)).toBe('1996.40');
});
test('a charge that cannot be measured yet says by which lines, and the others go on', () => {
  const { lines: worked, without } = workSheet(lines, [charge({ by: 'weight', amount: '10' }), duty]);
  expect(without.map((list) => list.map(({ sku }) => sku))).toEqual([['S1', 'S2', 'S3'], []]);
  expect(worked[0]?.shares.map((share) => share?.toFixed(2) ?? null)).toEqual([null, '68.59']);
});
test('another currency at its rate; typed parts; billed prices stand beside ordered ones', () => {
  const typed = charge({ by: 'typed', amount: '100', currency: 'EUR', rate: '0.85', typed: { 1: '3', 2: '1', 3: '' } });
  const { lines: worked, estimates } = workSheet(
    [{ ...(lines[0] as LandedLine), billedDifference: '20.00' }, ...lines.slice(1)],
    [typed, charge({ amount: 'x' })],
  );
  expect(estimates.map((estimate) => estimate.toFixed(2))).toEqual(['85.00', '0.00']);
  expect(worked.map(({ shares }) => shares[0]?.toFixed(2))).toEqual(['63.75', '21.25', '0.00']);
  expect([worked[0]?.ordered.toFixed(), worked[0]?.billed.toFixed()]).toEqual(['18.5', '19']);
  expect(sentSheet([7], '', [typed]).charges[0]).toMatchObject({
    currency: 'EUR',
    typed: [
      { lineId: 1, part: '3' },
      { lineId: 2, part: '1' },
      { lineId: 3, part: '0' },
    ],
  });
});

test('what is typed wrong of a charge is told by its field, and what is empty is not', () => {
  expect(chargeFaults(charge({ amount: '-5', rate: '0', currency: 'EURO' }))).toEqual({
    amount: 'An amount above zero, such as 640.00.',
    rate: 'A rate above zero, such as 0.86.',
    currency: 'Three letters, such as EUR.',
  });
  expect(chargeFaults(charge({ amount: '', rate: '', currency: '' }))).toEqual({});
  expect(chargeFaults(charge({ amount: '0.01', rate: '0.86', currency: 'EUR' }))).toEqual({});
});
