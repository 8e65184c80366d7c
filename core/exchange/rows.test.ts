import { describe, expect, test } from '@jest/globals';
import type { ExchangeKind } from './exchange';
import { checkRows, type Known, type Row } from './rows';

const kind: ExchangeKind = {
  key: 'items',
  name: 'Things',
  by: ['sku'],
  fields: [
    { key: 'sku', name: 'SKU', kind: 'code', needed: true },
    { key: 'price', name: 'Price', kind: 'number' },
    { key: 'day', name: 'Day', kind: 'day' },
    { key: 'kept', name: 'Kept', kind: 'flag' },
  ],
};
const there: Record<string, Row> = { a: { sku: 'A', price: '1.5', kept: 'yes', colour: 'red' } };
const known: Known = { current: (row) => there[(row.sku ?? '').toLowerCase()], faults: (row) => (row.price === '13' ? ['Thirteen is unlucky.'] : []) };
const check = (rows: Row[], more: Partial<Known> = {}) =>
  checkRows(kind, { ...known, ...more }, rows, new Map([['colour', 'Colour']])).map(({ line, status, reasons, changes }) =>
    [line, status, ...reasons, ...changes.map(({ field, was, is }) => `${field}: ${was} → ${is}`)].join(' | '),
  );

describe('a row is', () => {
  test('the same however its numbers and flags are written, and changed only in the fields the file has', () => {
    expect(check([{ sku: 'A', price: '1.50', kept: 'Y' }])).toEqual(['2 | same']);
    expect(check([{ sku: 'a', price: '2' }])).toEqual(['2 | changed | SKU: A → a | Price: 1.5 → 2']);
    expect(check([{ sku: 'A', colour: 'blue' }])).toEqual(['2 | changed | Colour: red → blue']);
  });
  test('new when nothing of its key is there', () => {
    expect(check([{ sku: 'B' }])).toEqual(['2 | new']);
  });
  test('refused with every reason at once, or as the same as an earlier line', () => {
    expect(check([{ price: 'dear', day: '31.2.', kept: 'maybe' }])).toEqual([
      '2 | refused | SKU is missing. | Price is no number above zero: “dear”. | Day is no day: “31.2.”. | Kept is yes or no, not “maybe”.',
    ]);
    expect(check([{ sku: 'B' }, { sku: 'b' }])).toEqual(['2 | new', '3 | refused | The same as line 2.']);
    expect(
      check([
        { sku: 'B', price: '13' },
        { sku: 'C', nonsense: 'x' },
      ]),
    ).toEqual(['2 | refused | Thirteen is unlucky.', '3 | refused | There is no field nonsense.']);
  });
  test('refused when it is there and only new ones may come', () => {
    expect(check([{ sku: 'A' }], { onlyNew: true })).toEqual(['2 | refused | This is there already.']);
  });
});
