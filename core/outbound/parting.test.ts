import { expect, test } from '@jest/globals';
import { parted, partFaults } from './parting';

const factor = { numerator: 1, denominator: 1 };
const lines = [
  { id: 1, quantity: '10', direct: '0', bring: '0', factor, sku: 'VASE' },
  { id: 2, quantity: '2.5', direct: '0', bring: '0', factor, sku: 'ROPE' },
];

test('what is said stays, the rest goes; lines that nothing is said of stay whole', () => {
  expect(parted(lines, [{ lineId: 1, quantity: '4' }])).toEqual({
    staying: [
      { id: 1, quantity: '4', direct: '0', bring: '0', factor, sku: 'VASE' },
      { id: 2, quantity: '2.5', direct: '0', bring: '0', factor, sku: 'ROPE' },
    ],
    going: [{ id: 1, quantity: '6', direct: '0', bring: '0', factor, sku: 'VASE' }],
  });
  const { staying, going } = parted(lines, [
    { lineId: 1, quantity: '0' },
    { lineId: 2, quantity: '1.25' },
  ]);
  expect(staying.map(({ id, quantity }) => [id, quantity])).toEqual([[2, '1.25']]);
  expect(going.map(({ id, quantity }) => [id, quantity])).toEqual([
    [1, '10'],
    [2, '1.25'],
  ]);
});

test('no more stays than is on the quote, and of lines that are', () => {
  expect(partFaults('SO-9', lines, [{ lineId: 1, quantity: '10.0' }])).toEqual([]);
  expect(
    partFaults('SO-9', lines, [
      { lineId: 2, quantity: '2.6' },
      { lineId: 3, quantity: '1' },
    ]),
  ).toEqual([
    { field: 'lines.0.quantity', sentence: 'Only 2.5 are on the quote.' },
    { field: 'lines.1.lineId', sentence: 'SO-9 has no such line.' },
  ]);
});

test('what was to come straight from a supplier stays so as far as its line stays, and the rest of it goes along', () => {
  const line = { id: 1, quantity: '10', factor: { numerator: 6, denominator: 1 }, direct: '36', bring: '18', sku: 'VASE' };
  const of = (quantity: string) => {
    const { staying, going } = parted([line], [{ lineId: 1, quantity }]);
    return [...staying, ...going].map(({ quantity: many, direct, bring }) => `${direct} and ${bring} of ${many}`);
  };
  // What is brought stays as far as what does not come straight is left for it: 8 of 6 are 48, of which 36 come straight.
  expect(of('4')).toEqual(['24 and 0 of 4', '12 and 18 of 6']);
  expect(of('8')).toEqual(['36 and 12 of 8', '0 and 6 of 2']);
});
