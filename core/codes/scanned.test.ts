import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { ownBarcode } from './gtin';
import { gs1Text, parseGs1 } from './gs1';

const gtin = '06291041500213';

describe('a scanner that sends a code piece by piece', () => {
  test('an element that is cut off is none, wherever the cut is', () => {
    const whole = `]C101${gtin}17270331`;
    for (let end = whole.length - 1; end > 19; end -= 1) expect(parseGs1(whole.slice(0, end))).toBeNull();
    expect(parseGs1(whole)).toEqual({ gtin, useBy: '2027-03-31' });
  });
  test('letters where digits belong are none', () => {
    expect(parseGs1(`(01)0629104150021A`)).toBeNull();
    expect(parseGs1(`(01)${gtin}(17)27O331`)).toBeNull();
    expect(parseGs1(`(01)${gtin}(37)2a`)).toBeNull();
    expect(parseGs1(`(01)${gtin}(3103)01250x`)).toBeNull();
  });
  test('what is longer than it may be, or empty, is none', () => {
    expect(parseGs1(`(01)${gtin}(10)${'L'.repeat(20)}`)?.lot).toHaveLength(20);
    expect(parseGs1(`(01)${gtin}(10)${'L'.repeat(21)}`)).toBeNull();
    expect(parseGs1(`(01)${gtin}(10)`)).toBeNull();
    expect(parseGs1('()')).toBeNull();
    expect(parseGs1(']C1')).toBeNull();
  });
  test('brackets that do not close, and words between them, are none', () => {
    expect(parseGs1(`(01)${gtin}(10`)).toBeNull();
    expect(parseGs1(`(01)${gtin}10)L7`)).toBeNull();
  });
  test('a weight with as many decimals as its identifier says', () => {
    expect(['3100', '3101', '3103', '3105'].map((ai) => parseGs1(`(${ai})012500`)?.netKg)).toEqual(['12500', '1250', '12.5', '0.125']);
  });
  test('years are of this half of the century, or the half before', () => {
    expect(parseGs1(`(01)${gtin}(17)500101`)?.useBy).toBe('2050-01-01');
    expect(parseGs1(`(01)${gtin}(17)510101`)?.useBy).toBe('1951-01-01');
    expect(parseGs1(`(01)${gtin}(17)280200`)?.useBy).toBe('2028-02-29');
  });
});

test('lot and serial, in whatever order they are scanned, say the same with FNC1 between', () => {
  const code = fc.stringMatching(/^[A-Z0-9-]{1,20}$/);
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 10 ** 10 - 1 }), code, code, (n, lot, serial) => {
      const of = ownBarcode(n).padStart(14, '0');
      const said = { gtin: of, lot, serial };
      expect(parseGs1(`]d201${of}10${lot}\u001d21${serial}`)).toEqual(said);
      expect(parseGs1(`]d201${of}21${serial}\u001d10${lot}`)).toEqual(said);
      expect(parseGs1(`]d210${lot}\u001d01${of}21${serial}`)).toEqual(said);
      expect(parseGs1(gs1Text(said))).toEqual(said);
    }),
  );
});
