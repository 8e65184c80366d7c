import { expect, test } from '@jest/globals';
import { blockOf, fillDown, pasteBlock } from './pasteBlock';

const rows = [1, 2, 3].map((n) => ({ sku: `S${n}`, price: '', cost: '' }));
const keys = ['sku', 'price', 'cost'];

test('a block from a spreadsheet is laid from the cell on, and not beyond the grid', () => {
  const block = blockOf('1.20\t0.40\tbeyond\r\n1.30\t0.45\r\n') as string[][];
  expect(pasteBlock(rows, keys, { row: 1, key: 'price' }, block)).toEqual([
    rows[0],
    { sku: 'S2', price: '1.20', cost: '0.40' },
    { sku: 'S3', price: '1.30', cost: '0.45' },
  ]);
});

test('one cell alone is pasted as usual', () => {
  expect(blockOf('1.20')).toBeNull();
  expect(blockOf('a\tb')).toEqual([['a', 'b']]);
});

test('a cell is filled down to the end', () => {
  const filled = fillDown(
    [{ ...rows[0], price: '9' }, rows[1], rows[2]].map((row) => ({ sku: '', price: '', cost: '', ...row })),
    { row: 0, key: 'price' },
  );
  expect(filled.map(({ price }) => price)).toEqual(['9', '9', '9']);
});
