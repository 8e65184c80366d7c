import { expect, test } from '@jest/globals';
import Excel from 'exceljs';
import { unpackedSize } from './zip';

const workbook = async () => {
  const book = new Excel.Workbook();
  book.addWorksheet('items').addRows([
    ['SKU', 'Name'],
    ['A', 'One'],
  ]);
  return new Uint8Array(await book.xlsx.writeBuffer());
};

test('a workbook says how large it is unpacked; one that unpacks beyond all bounds is seen before it is opened', async () => {
  const bytes = await workbook();
  const plain = unpackedSize(bytes) ?? 0;
  expect(plain).toBeGreaterThan(bytes.length / 2);
  expect(plain).toBeLessThan(1_000_000);
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  for (let at = 0; at + 46 < bytes.length; at += 1) if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 24, 0xf0000000, true);
  expect(unpackedSize(bytes)).toBeGreaterThan(4_000_000_000);
});

test('what is no archive, as a protected workbook, is told apart', () => {
  expect(unpackedSize(new Uint8Array([0xd0, 0xcf, 0x11, 0xe0]))).toBeNull();
  expect(unpackedSize(new TextEncoder().encode('PK but nothing more'))).toBeNull();
});
