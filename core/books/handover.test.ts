import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { compareBooks, mappedLines, merged } from './handover';

const entry = (reference: string, amount: string) => ({
  reference,
  lines: [
    { code: '0400', amount },
    { code: '0810', amount: `-${amount}` },
  ],
});

describe('handing over to the accounting service', () => {
  test('an entry is written by their accounts, and waits while one of ours has none', () => {
    const lines = [
      { accountId: 1, amount: '10.00' },
      { accountId: 2, amount: '5.00' },
      { accountId: 3, amount: '-15.00' },
    ];
    const codes = new Map<number, string | null>([
      [1, '0400'],
      [2, '0400'],
      [3, '0810'],
    ]);
    expect(mappedLines(lines, codes)).toEqual([
      { code: '0400', amount: '15.00' },
      { code: '0810', amount: '-15.00' },
    ]);
    expect(mappedLines(lines, new Map([...codes, [3, null]]))).toBeNull();
  });
  test('both sides are compared by account and by document', () => {
    const compared = compareBooks(
      [entry('1.1', '10.00'), entry('2.1', '20.00'), entry('3.1', '7.00')],
      [entry('2.1', '20.00'), entry('3.1', '8.00'), entry('9.1', '1.00')],
    );
    expect([compared.missing, compared.unknown, compared.different]).toEqual([['1.1'], ['9.1'], ['3.1']]);
    expect(compared.accounts.map(({ code, ours, theirs }) => [code, ours.toFixed(2), theirs.toFixed(2)])).toEqual([
      ['0400', '37.00', '29.00'],
      ['0810', '-37.00', '-29.00'],
    ]);
  });
  test('their accounts come in their order, and an entry without lines is nothing', () => {
    const lines = [
      { accountId: 3, amount: '-15.005' },
      { accountId: 1, amount: '15.005' },
    ];
    const codes = new Map<number, string | null>([
      [1, '0400'],
      [3, '0810'],
    ]);
    expect(mappedLines(lines, codes)?.map(({ code }) => code)).toEqual(['0400', '0810']);
    expect(mappedLines(lines, new Map([[1, '0400']]))).toBeNull();
    expect(mappedLines([], codes)).toEqual([]);
    expect(compareBooks([entry('1.1', '1.00')], [{ reference: '2.1', lines: [{ code: '0300', amount: '1.00' }] }]).accounts.map(({ code }) => code)).toEqual([
      '0300',
      '0400',
      '0810',
    ]);
  });
  test('a document is the same whatever the order of its lines, how they are written, and with lines of nothing', () => {
    const ours = entry('1.1', '10.00');
    const theirs = {
      reference: '1.1',
      lines: [
        { code: '0810', amount: '-10' },
        { code: '0999', amount: '0.00' },
        { code: '0400', amount: '10.0' },
      ],
    };
    expect(compareBooks([ours], [theirs]).different).toEqual([]);
    expect(compareBooks([ours], [{ ...theirs, lines: theirs.lines.slice(0, 2) }]).different).toEqual(['1.1']);
    expect(compareBooks([ours], [{ ...theirs, lines: [...theirs.lines, { code: '04', amount: '00.10' }] }]).different).toEqual(['1.1']);
  });
  test('amounts of ours that stand on one account of theirs become one line', () => {
    const merging = merged({
      reference: '4.1',
      lines: [
        { code: '0400', amount: '10.10' },
        { code: '0810', amount: '-12.00' },
        { code: '0400', amount: '1.90' },
      ],
    });
    expect(merging).toEqual({
      reference: '4.1',
      lines: [
        { code: '0400', amount: '12.00' },
        { code: '0810', amount: '-12.00' },
      ],
    });
  });
  test('what went over whole stands the same on both sides, whatever it is', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 1_000_000 }), { maxLength: 30 }), (cents) => {
        const documents = cents.map((cent, index) => entry(`${index}.1`, (cent / 100).toFixed(2)));
        const { accounts, missing, unknown, different } = compareBooks(documents, [...documents].reverse());
        expect([missing, unknown, different]).toEqual([[], [], []]);
        expect(accounts.every(({ ours, theirs }) => ours.eq(theirs))).toBe(true);
      }),
    );
  });
});
