import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { gs1Text, parseGs1 } from './gs1';
import { readScan, scannedQuantity } from './meaning';
import { gtinCheckDigit, gtinFault, looksLikeGtin, ownBarcode, sameGtin } from './gtin';

describe('GTIN', () => {
  test('check digits of all four lengths', () => {
    expect(['629104150021', '9638507', '03600029145', '1061414100041'].map(gtinCheckDigit)).toEqual(['3', '4', '2', '5']);
    expect(() => gtinCheckDigit('12a')).toThrow(RangeError);
  });
  test('a mistyped digit is told with the right one; other codes are left alone', () => {
    expect(gtinFault('6291041500213')).toBeNull();
    expect(gtinFault('6291041500223')).toContain('should be 0');
    expect(gtinFault('SM-STD')).toBeNull();
    expect(gtinFault('12345')).toBeNull();
  });
  test('any single wrong digit is noticed', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10 ** 10 - 1 }), fc.integer({ min: 0, max: 12 }), fc.integer({ min: 1, max: 9 }), (n, at, by) => {
        const good = ownBarcode(n);
        const bad = good.slice(0, at) + String((Number(good[at]) + by) % 10) + good.slice(at + 1);
        expect(gtinFault(good)).toBeNull();
        expect(gtinFault(bad)).not.toBeNull();
      }),
    );
  });
  test('a GTIN-14 of a GTIN-13 is the same goods', () => {
    expect(sameGtin('06291041500213')).toBe(sameGtin('6291041500213'));
    expect(looksLikeGtin('29000000000')).toBe(false);
  });
});

describe('GS1 element strings', () => {
  const gtin = '06291041500213';
  const parsed = { gtin, useBy: '2027-03-31', lot: 'L7-22' };
  test('in brackets, with FNC1 and without', () => {
    expect(parseGs1(`(01)${gtin}(17)270331(10)L7-22`)).toEqual(parsed);
    expect(parseGs1(`]C101${gtin}1727033110L7-22`)).toEqual(parsed);
    expect(parseGs1(`01${gtin}1727033110L7-22`)).toEqual(parsed);
    expect(parseGs1(`]d201${gtin}10L7-22\u001d17270331`)).toEqual(parsed);
    expect(parseGs1(`\u001d01${gtin}10L7-22\u001d17270331`)).toEqual(parsed);
  });
  test('count, weight, serial, best before and what a parcel holds', () => {
    expect(parseGs1(`(02)${gtin}(37)24(15)270200`)).toEqual({ gtin, contained: true, count: '24', bestBefore: '2027-02-28' });
    expect(parseGs1(`(01)${gtin}(3103)012500(11)260105`)).toEqual({ gtin, netKg: '12.5', madeOn: '2026-01-05' });
    expect(parseGs1(`(01)${gtin}(21)SN 004(30)8`)).toBeNull(); // a serial holds no blank
    expect(parseGs1(`(01)${gtin}(21)SN004(30)8`)).toEqual({ gtin, serial: 'SN004', count: '8' });
  });
  test('what is none', () => {
    expect(parseGs1('SM-STD')).toBeNull();
    expect(parseGs1('6291041500213')).toBeNull();
    expect(parseGs1('(01)06291041500214')).toBeNull();
    expect(parseGs1(`(01)${gtin}(17)271331`)).toBeNull();
    expect(parseGs1(`(99)abc`)).toBeNull();
    expect(parseGs1(`01${gtin}99`)).toBeNull();
  });
  test('what is printed is read back', () => {
    const code = fc.stringMatching(/^[A-Z0-9-]{1,20}$/);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10 ** 9 }), code, code, (n, lot, serial) => {
        const of = { gtin: ownBarcode(n).padStart(14, '0'), useBy: '2027-11-23', lot, serial };
        expect(parseGs1(gs1Text(of))).toEqual(of);
      }),
    );
  });
});

test('a scan stands for a piece, a case, or as many as the code says', () => {
  const codes = [
    { code: 'FON', factor: '1' },
    { code: '6291041500213', factor: '12' },
  ];
  const many = (code: string) => scannedQuantity(codes, readScan(code))?.toFixed() ?? 'not this';
  expect(['fon', '6291041500213', '06291041500213', '(01)06291041500213(30)2'].map(many)).toEqual(['1', '12', '12', '24']);
  expect(many('6291041500214')).toBe('not this');
});

test('a number with a wrong check digit is a code of its own, not another form of a shorter one', () => {
  expect(sameGtin('00000018')).toBe('00000018');
});
