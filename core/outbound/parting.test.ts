import { expect, test } from '@jest/globals';
import { parted, partFaults } from './parting';

const lines = [
  { id: 1, quantity: '10', sku: 'VASE' },
  { id: 2, quantity: '2.5', sku: 'ROPE' },
];

test('what is said stays, the rest goes; lines that nothing is said of stay whole', () => {
  expect(parted(lines, [{ lineId: 1, quantity: '4' }])).toEqual({
    staying: [
      { id: 1, quantity: '4', sku: 'VASE' },
      { id: 2, quantity: '2.5', sku: 'ROPE' },
    ],
    going: [{ id: 1, quantity: '6', sku: 'VASE' }],
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
