import { describe, expect, test } from '@jest/globals';
import { readScannerFile } from './scannerFile';

const bins = ['A-01-1', 'A-01-2', 'FLOOR'];
const read = (text: string) => {
  const { columns, lines, faults } = readScannerFile(text, bins);
  return {
    columns,
    lines: lines.map(({ bin, code, quantity }) => `${bin} ${code} ${quantity.toFixed()}`),
    faults: faults.map(({ line, said }) => `${line}: ${said}`),
  };
};

describe('columns in whatever order', () => {
  test('are known by what stands in them', () => {
    const lines = ['A-01-1 4006381333931 12', 'A-01-2 HT-J 3'];
    expect(read('A-01-1,4006381333931,12\nA-01-2,HT-J,3\n')).toEqual({ columns: ['bin', 'code', 'quantity'], lines, faults: [] });
    expect(read('12;a-01-1;4006381333931\r\n3;A-01-2;HT-J')).toMatchObject({ columns: ['quantity', 'bin', 'code'], lines });
    expect(read('4006381333931\t12\tA-01-1\nHT-J\t3\tA-01-2')).toMatchObject({ columns: ['code', 'quantity', 'bin'], lines });
    expect(read('"A-01-1"|"2026-11-30"|"HT-J"|"3"')).toMatchObject({ columns: ['bin', null, 'code', 'quantity'], lines: ['A-01-1 HT-J 3'] });
    expect(read('10023;5;FLOOR\n10024;12;FLOOR')).toMatchObject({ lines: ['FLOOR 10023 5', 'FLOOR 10024 12'] });
  });
  test('or by their headings, which may say that a column means nothing', () => {
    expect(read('Time,Quantity,SKU,Bin\n10:15,7,HT-J,FLOOR')).toEqual({ columns: [null, 'quantity', 'code', 'bin'], lines: ['FLOOR HT-J 7'], faults: [] });
    expect(read('\uFEFFLocation;Barcode\nFLOOR;HT-J\nFLOOR;HT-J')).toEqual({ columns: ['bin', 'code'], lines: ['FLOOR HT-J 2'], faults: [] });
  });
  test('the same code in the same bin adds up, and nothing of a bin is a count too', () => {
    expect(read('A-01-1,HT-J,3\nA-01-2,HT-J,0\nA-01-1,ht-j,0.5').lines).toEqual(['A-01-1 HT-J 3.5', 'A-01-2 HT-J 0']);
  });
});

test('one code on each line is a bin and then what lies in it', () => {
  expect(read('A-01-1\n111\n222\n111\nfloor\n111')).toEqual({ columns: null, lines: ['A-01-1 111 2', 'A-01-1 222 1', 'FLOOR 111 1'], faults: [] });
  expect(read('111\nA-01-1\n222').faults).toEqual(['1: No bin stands before it.']);
});

test('what cannot be taken is told by its line, and the rest is taken', () => {
  expect(read('A-01-1,HT-J,3\nB-99,HT-J,1\nA-01-1,,2\n\nA-01-1,HT-K\nA-01-1,HT-K,many\n,HT-K,1').faults).toEqual([
    '2: There is no bin B-99 here.',
    '3: It names no item.',
    '5: It says no quantity.',
    '6: “many” is no quantity.',
    '7: It names no bin.',
  ]);
  expect(read('')).toEqual({ columns: null, lines: [], faults: [] });
});

test('a hundred thousand lines are read, each counted', () => {
  const text = Array.from({ length: 100_000 }, (_, at) => `A-01-${1 + (at % 2)},C-${at % 300},1`).join('\n');
  const { lines, faults } = readScannerFile(text, bins);
  expect([lines.length, faults.length, lines.reduce((sum, { quantity }) => sum + quantity.toNumber(), 0)]).toEqual([300, 0, 100_000]);
});
