import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { dayFormOf, decimalMarkOf, neutralised, readDay, readNumber, restored } from './cells';
import { exchangeKinds, matchColumns, readFlag, type ExchangeKind } from './exchange';
import { encodingOf, textOf } from './text';

describe('encodings are found, not guessed', () => {
  const word = 'Häuschen; Façade\n12,5';
  const utf8 = new TextEncoder().encode(word);
  const utf16 = (little: boolean, mark: boolean) =>
    new Uint8Array([
      ...(mark ? (little ? [0xff, 0xfe] : [0xfe, 0xff]) : []),
      ...[...word].flatMap((letter) => (little ? [letter.charCodeAt(0), 0] : [0, letter.charCodeAt(0)])),
    ]);
  test.each([
    ['utf-8', utf8],
    ['utf-8-bom', new Uint8Array([0xef, 0xbb, 0xbf, ...utf8])],
    ['utf-16le', utf16(true, true)],
    ['utf-16be', utf16(false, true)],
    ['utf-16le', utf16(true, false)],
    ['windows-1252', new Uint8Array([...word].map((letter) => letter.charCodeAt(0)))],
  ] as const)('%s', (encoding, bytes) => {
    expect(encodingOf(bytes)).toBe(encoding);
    expect(textOf(bytes, encoding)).toBe(word);
  });
  test('an empty file is plain', () => expect(encodingOf(new Uint8Array())).toBe('utf-8'));
});

describe('numbers', () => {
  test('the mark is found from all of them together', () => {
    expect(decimalMarkOf(['1.50', '12', '1,200.00'])).toBe('point');
    expect(decimalMarkOf(['1,50', '1.200,00'])).toBe('comma');
    expect(decimalMarkOf(['1.234'])).toBeNull();
    expect(decimalMarkOf(['12', 'abc'])).toBeNull();
    expect(decimalMarkOf(['1.5', '1,5'])).toBeNull();
    // Days and version numbers are no numbers and do not stand in the way.
    expect(decimalMarkOf(['3,10', '1.234,50', '03.04.2026', '1.2.3'])).toBe('comma');
    expect(decimalMarkOf(['03.04.2026'])).toBeNull();
  });
  test('are read as they are meant', () => {
    expect([readNumber('£1,234.50', 'point'), readNumber('1 234,50 €', 'comma'), readNumber('-3', 'point')]).toEqual(['1234.50', '1234.50', '-3']);
    expect([readNumber('1,2,3', 'point'), readNumber('twelve', 'point'), readNumber('1.5', 'comma'), readNumber('', 'point')]).toEqual([
      null,
      null,
      null,
      null,
    ]);
  });
});

describe('days', () => {
  test('the form is found from all of them together', () => {
    expect(dayFormOf(['24/11/2026', '01/02/2026'])).toBe('dmy');
    expect(dayFormOf(['11/24/2026', '01/02/2026'])).toBe('mdy');
    expect(dayFormOf(['2026-11-24'])).toBe('ymd');
    expect(dayFormOf(['01/02/2026'])).toBeNull();
    expect(dayFormOf(['24/11/2026', '11/24/2026'])).toBeNull();
  });
  test('are read, and those that do not exist are not', () => {
    expect([readDay('3.2.27', 'dmy'), readDay('02/28/2026', 'mdy'), readDay('2026/2/3', 'ymd'), readDay('2026-02-03T00:00:00Z', 'ymd')]).toEqual([
      '2027-02-03',
      '2026-02-28',
      '2026-02-03',
      '2026-02-03',
    ]);
    expect([readDay('31/02/2026', 'dmy'), readDay('soon', 'dmy')]).toEqual([null, null]);
  });
});

describe('formulas', () => {
  test('are made plain on the way out, numbers are not', () => {
    expect(['=1+1', '+44 20', '-x', '@sum', "'quoted", '-5.50', '+3'].map(neutralised)).toEqual([
      "'=1+1",
      "'+44 20",
      "'-x",
      "'@sum",
      "''quoted",
      '-5.50',
      '+3',
    ]);
  });
  test('come back as they were, whatever they are', () => {
    fc.assert(fc.property(fc.string(), (text) => expect(restored(neutralised(text))).toBe(text)));
  });
});

describe('columns', () => {
  const items = exchangeKinds[0] as ExchangeKind;
  test('are matched by name and by other common names, each field once', () => {
    expect(matchColumns(items, ['Item code', 'TITLE', 'Cost price', 'price', 'EAN', 'Colour', 'nonsense', 'SKU'], [{ id: 4, name: 'Colour' }])).toEqual([
      'sku',
      'name',
      'purchasePrice',
      'salesPrice',
      'barcode',
      'attribute 4',
      null,
      null,
    ]);
  });
  test('what is exported is matched when it comes back', () => {
    for (const kind of exchangeKinds)
      expect(
        matchColumns(
          kind,
          kind.fields.map(({ name }) => name),
        ),
      ).toEqual(kind.fields.map(({ key }) => key));
  });
  test('flags', () => expect(['Yes', 'x', '0', '', 'maybe'].map(readFlag)).toEqual([true, true, false, false, null]));
});
