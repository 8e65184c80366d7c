import { describe, expect, test } from '@jest/globals';
import Excel from 'exceljs';
import { readTable } from './readTable';

const bytes = (text: string): ArrayBuffer => new Uint8Array(Buffer.from(text)).buffer;
const workbook = async (fill: (sheet: Excel.Worksheet) => void): Promise<ArrayBuffer> => {
  const book = new Excel.Workbook();
  fill(book.addWorksheet('items'));
  return new Uint8Array(await book.xlsx.writeBuffer()).buffer;
};

describe('CSV', () => {
  test('what was found is told: encoding, separator, decimal mark, form of days, columns without anything', async () => {
    const { found, rows } = await readTable(bytes('SKU;Price;Use by;EAN\nA;1,50;24/11/2026;\n\nB;2,00;01/12/2026;\n'), 'a.csv');
    expect(found).toMatchObject({
      headings: ['SKU', 'Price', 'Use by', 'EAN'],
      rows: 2,
      encoding: 'utf-8',
      separator: ';',
      mark: 'comma',
      days: 'dmy',
      empty: [false, false, false, true],
    });
    expect(rows[1]).toEqual(['B', '2,00', '01/12/2026', '']);
  });
  test('headings without rows, and hundreds of columns, are refused in words', async () => {
    await expect(readTable(bytes('SKU,Name\n'), 'a.csv')).rejects.toThrow('no rows');
    const wide = Array.from({ length: 300 }, (_, n) => `C${n}`).join();
    await expect(readTable(bytes(`${wide}\n${wide}\n`), 'a.csv')).rejects.toThrow('300 columns');
  });
  test('more rows than can be brought in are refused', async () => {
    await expect(readTable(bytes(`SKU,Name\n${'A,B\n'.repeat(50_001)}`), 'a.csv')).rejects.toThrow('at most 50,000');
  });
});

describe('XLSX', () => {
  test('numbers, days, formulas and merged cells are read as they are kept', async () => {
    const buffer = await workbook((sheet) => {
      sheet.addRow(['SKU', 'Name', 'Price', 'Use by', 'Twice']);
      sheet.addRow(['007', 'One', 1.5, new Date(Date.UTC(2026, 10, 24)), { formula: 'C2*2', result: 3 }]);
      sheet.addRow(['008', 'Two', 2, null, { richText: [{ text: 'bold' }, { text: ' text' }] }]);
      sheet.mergeCells('B2:B3');
    });
    const { found, rows } = await readTable(buffer, 'a.xlsx');
    expect(rows).toEqual([
      ['007', 'One', '1.5', '2026-11-24', '3'],
      ['008', 'One', '2', '', 'bold text'],
    ]);
    expect(found).toMatchObject({ encoding: null, mark: 'point', days: 'ymd' });
  });
  test('what is no workbook, or is protected, is told', async () => {
    await expect(readTable(new Uint8Array([0xd0, 0xcf, 0x11, 0xe0]).buffer, 'a.xlsx')).rejects.toThrow('protected by a password');
  });
});
