import { expect, test } from '@jest/globals';
import { pickScan, type PickRow } from './pickScan';

const row = (part: Partial<PickRow>): PickRow => ({
  lineId: 1,
  itemId: 1,
  sku: 'JAR',
  name: 'Jar',
  unit: 'each',
  step: '1',
  wanted: '30',
  siteId: 1,
  site: 'Barn store',
  binId: 1,
  bin: 'A-1',
  doubtful: false,
  inBin: '30',
  take: '18',
  lotId: null,
  lot: null,
  useBy: null,
  codes: [
    { code: 'JAR', factor: '1' },
    { code: '6291041500213', factor: '12' },
  ],
  ...part,
});
const rows = [row({}), row({ binId: 2, bin: 'B-1', take: '12' })];
const scan = (code: string, ...picked: string[]) => {
  const { row: found, said } = pickScan(rows, (one) => picked[rows.indexOf(one)] ?? '0', code);
  return [found?.bin ?? 'none', said];
};

test('a piece counts one, a case its twelve, from a bin that still asks for them all', () => {
  expect(scan('jar')).toEqual(['A-1', '1 × JAR from A-1']);
  expect(scan('6291041500213')).toEqual(['A-1', '12 × JAR from A-1']);
  expect(scan('6291041500213', '12')).toEqual(['B-1', '12 × JAR from B-1']);
});

test('nothing is picked beyond what is asked, and an unknown code is told', () => {
  expect(scan('6291041500213', '12', '6')).toEqual(['none', '12 of JAR are more than is still asked for.']);
  expect(scan('JAR', '18', '12')).toEqual(['none', 'JAR is all picked.']);
  expect(scan('404')).toEqual(['none', '404 is not on this pick list.']);
});

test('a code that names its lot picks from that lot', () => {
  const lots = [row({ lotId: 1, lot: 'L1' }), row({ lotId: 2, lot: 'L2', bin: 'C-1' })];
  expect(pickScan(lots, () => '0', '(01)06291041500213(10)L2').row?.bin).toBe('C-1');
});
