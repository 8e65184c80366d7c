import { describe, expect, test } from '@jest/globals';
import { exchangeKinds, matchColumns, readFlag, type ExchangeKind } from './exchange';

const kindOf = (key: string) => exchangeKinds.find((kind) => kind.key === key) as ExchangeKind;

describe.each(exchangeKinds.map((kind) => [kind.name, kind] as const))('files of %s', (_, kind) => {
  test('are told apart by columns they have, each with a name of its own', () => {
    const keys = kind.fields.map(({ key }) => key);
    expect(new Set(keys).size).toBe(keys.length);
    expect(new Set(kind.fields.map(({ name }) => name.toLowerCase())).size).toBe(keys.length);
    expect(kind.by.every((key) => keys.includes(key))).toBe(true);
    expect(kind.fields.some(({ needed }) => needed)).toBe(true);
  });
  test('are matched by the names they go out with, in any order', () => {
    const names = kind.fields.map(({ name }) => name);
    expect(matchColumns(kind, names)).toEqual(kind.fields.map(({ key }) => key));
    expect(matchColumns(kind, [...names].reverse())).toEqual(kind.fields.map(({ key }) => key).reverse());
    expect(
      matchColumns(
        kind,
        names.map((name) => ` ${name.toUpperCase()} `),
      ),
    ).toEqual(kind.fields.map(({ key }) => key));
  });
});

describe('headings that somebody else’s file has', () => {
  test('are known by common names, each field once; what is left over is left out', () => {
    expect(matchColumns(kindOf('items'), ['Article', 'Title', 'EAN', 'Retail price', 'Colour', 'Title'])).toEqual([
      'sku',
      'name',
      'barcode',
      'salesPrice',
      null,
      null,
    ]);
    expect(matchColumns(kindOf('lots'), ['Item', 'Serial number', 'Asset tag', 'Guarantee until'])).toEqual(['sku', 'code', 'tag', 'warrantyUntil']);
  });
  test('own attributes are columns of what they are of, by their name', () => {
    const own = [
      { id: 4, name: 'Next inspection' },
      { id: 9, name: 'Serial' },
    ];
    expect(matchColumns(kindOf('lots'), ['SKU', 'Serial', 'next  inspection'], own)).toEqual(['sku', 'code', 'attribute 4']);
    expect(exchangeKinds.filter((kind) => kind.own !== undefined).map(({ key, own: subject }) => [key, subject])).toEqual([
      ['items', 'item'],
      ['lots', 'unit'],
    ]);
  });
});

test.each([
  ['yes', true],
  [' X ', true],
  ['1', true],
  ['No', false],
  ['', false],
  ['perhaps', null],
])('the flag %p is %p', (text, flag) => expect(readFlag(text)).toBe(flag));
