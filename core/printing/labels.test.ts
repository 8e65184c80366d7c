import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { codeFor } from './codeFor';
import { fitText, layOut, type Label, type Measure } from './layout';
import { ownSheet, placeOnSheet, sheets, type Sheet } from './sheets';

describe('sheets', () => {
  test('every label of every sheet lies on its page', () => {
    for (const sheet of sheets) {
      const last = placeOnSheet(sheet, sheet.columns * sheet.rows - 1, 1);
      expect([sheet.key, last.page, last.x + sheet.label.width <= sheet.page.width + 0.05, last.y + sheet.label.height <= sheet.page.height + 0.05]).toEqual([
        sheet.key,
        0,
        true,
        true,
      ]);
      expect(sheet.left).toBeGreaterThanOrEqual(0);
      expect(sheet.top).toBeGreaterThanOrEqual(0);
    }
    expect(new Set(sheets.map(({ key }) => key)).size).toBe(sheets.length);
  });
  test('printing starts at any label, goes on row by row, and over the page', () => {
    const sheet = sheets[0] as Sheet;
    expect(placeOnSheet(sheet, 0, 1)).toEqual({ page: 0, x: 7.25, y: 15.15 });
    expect(placeOnSheet(sheet, 0, 5)).toEqual({ page: 0, x: 73.25, y: 53.25 });
    expect(placeOnSheet(sheet, 1, 21)).toMatchObject({ page: 1, x: 7.25 });
  });
  test('own measures are checked in words', () => {
    const own = { page: { width: 100, height: 100 }, label: { width: 40, height: 20 }, columns: 2, rows: 4, left: 5, top: 5, gapX: 2, gapY: 2 };
    expect(ownSheet(own)).toMatchObject({ key: 'own', columns: 2 });
    expect(ownSheet({ ...own, columns: 3 })).toBe('The labels are wider than the page.');
    expect(ownSheet({ ...own, rows: 5 })).toBe('The labels are higher than the page.');
    expect(ownSheet({ ...own, label: { width: 4, height: 4 } })).toContain('at least');
  });
});

describe('the text of a label', () => {
  /** Every letter is 0.6 of the size wide. */
  const measure: Measure = (text) => text.length * 0.6;
  test('is as large as fits, wrapped at blanks', () => {
    expect(fitText('Honey jar', 'bold', { width: 40, height: 6 }, 4, measure)).toEqual({ size: 4, lines: ['Honey jar'] });
    expect(fitText('Honey jar 340 g gold lid', 'bold', { width: 20, height: 10 }, 4, measure)).toEqual({
      size: 2.7,
      lines: ['Honey jar', '340 g gold', 'lid'],
    });
  });
  test('is never cut, however long it is', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 200 }), fc.integer({ min: 10, max: 100 }), fc.integer({ min: 3, max: 40 }), (text, width, height) => {
        const { size, lines } = fitText(text, 'text', { width, height }, 4, measure);
        expect(lines.join('').replace(/\s/g, '')).toBe(text.replace(/\s/g, ''));
        for (const line of lines) expect(measure(line, 'text') * size <= width + 1e-6 || line.length === 1).toBe(true);
      }),
    );
  });
  test('words and code keep inside the label and apart from each other', () => {
    const label: Label = {
      title: 'Varroa strips, pack of ten, extended release',
      detail: 'use by 31 Mar 2027',
      code: 'VT-10 / L7-22',
      symbology: 'code128',
      payload: 'VT-10',
    };
    for (const { label: size } of sheets)
      for (const symbology of ['code128', 'qr'] as const) {
        const boxes = layOut({ ...label, symbology }, size, measure);
        for (const box of boxes) {
          const bottom = box.kind === 'code' ? box.y + box.height : box.y + box.lines.length * box.size * 1.22;
          expect([size.width, box.kind, box.x >= 0 && box.x + box.width <= size.width && bottom <= size.height + 0.6]).toEqual([size.width, box.kind, true]);
        }
      }
  });
});

test('a label bears the code that was asked for where it fits, else the next that does', () => {
  const said = (...given: Parameters<typeof codeFor>) => Object.values(codeFor(...given)).join(' ');
  expect(said('best', '6291041500213', 'code128')).toBe('ean13 6291041500213');
  expect(said('best', 'SM-STD', 'code128')).toBe('code128 SM-STD');
  expect(said('best', '6291041500213', 'qr')).toBe('qr 6291041500213');
  expect(said('ean13', '6291041500214', 'code128')).toBe('code128 6291041500214');
  expect(said('gs1datamatrix', '6291041500213', 'code128')).toBe('gs1datamatrix (01)06291041500213');
  expect(said('gs1datamatrix', 'A-01', 'code128')).toBe('qr A-01');
});
