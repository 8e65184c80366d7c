import { expect, test } from '@jest/globals';
import { fileFault, separatorOf, shapedRows } from './shape';

test('cells are read by their column; what cannot be read is left for the dry run to refuse', () => {
  const reading = {
    fields: ['sku', 'price', 'useBy', null],
    kinds: ['code', 'number', 'day', null] as ('code' | 'number' | 'day' | null)[],
    mark: 'comma' as const,
    days: 'dmy' as const,
  };
  expect(shapedRows([['007', '1.234,50', '24/11/2026', 'left out'], [' A ', 'dear', '31/02/2026'], []], reading)).toEqual([
    ['007', '1234.50', '2026-11-24', ''],
    [' A ', 'dear', '31/02/2026', ''],
    ['', '', '', ''],
  ]);
});

test.each([
  ['SKU;Name;Price\nA;"one; two";1,5\n', ';'],
  ['SKU,Name\nA,"x;y;z"\n', ','],
  ['SKU\tName\nA\tB, C\n', '\t'],
  ['just one column\nof words\n', null],
])('the separator of %p is %p', (text, separator) => {
  expect(separatorOf(text)).toBe(separator);
});

test.each([
  ['items.csv', 200_000_000, 'The file has 200 MB; at most 20 MB are read.'],
  ['items.pdf', 100, 'Give a CSV or XLSX file.'],
  ['items.csv', 0, 'The file is empty.'],
  ['ITEMS.XLSX', 20_000_000, null],
])('a file %p of %p bytes: %p', (name, size, fault) => {
  expect(fileFault({ name, size })).toBe(fault);
});
