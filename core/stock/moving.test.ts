import { describe, expect, test } from '@jest/globals';
import { moveScan, type Lying, type MoveBin } from './moving';

const bin = (id: number, code: string, siteId = 1): MoveBin => ({ id, code, siteId, siteName: siteId === 1 ? 'Barn store' : 'Harbour shop' });
const [a1, b2, h1] = [bin(1, 'A-1'), bin(2, 'B-2'), bin(3, 'H-1', 2)];
const bins = [a1, b2, h1];
const row = (sku: string, inBin: string, moved = '', more: Partial<Lying> = {}): Lying => ({
  sku,
  lot: null,
  inBin,
  moved,
  codes: [{ code: '4006381333931', factor: '1' }],
  ...more,
});

describe('a scanned bin', () => {
  test('is where they lie at first, another instead while nothing is counted, and where they go after that', () => {
    expect(moveScan(null, [], bins, ' a-1 ')).toEqual({ does: 'from', bin: a1 });
    expect(moveScan(a1, [row('X', '5')], bins, 'B-2')).toEqual({ does: 'from', bin: b2 });
    expect(moveScan(a1, [row('X', '5', '2')], bins, 'B-2')).toEqual({ does: 'to', bin: b2 });
  });
  test('that is the same again, or at another site, is told', () => {
    expect(moveScan(a1, [row('X', '5', '2')], bins, 'A-1')).toMatchObject({ does: 'nothing', said: 'A-1 is where they lie. Scan the bin they go to.' });
    expect(moveScan(a1, [row('X', '5', '2')], bins, 'H-1')).toMatchObject({ said: 'H-1 is at Harbour shop: goods go there by a transfer.' });
    expect(moveScan(null, [], [...bins, bin(9, 'A-1', 2)], 'A-1')).toMatchObject({ said: 'A-1 is at more than one site. Choose the site at the top.' });
    expect(moveScan(b2, [row('X', '5', '2')], [bin(9, 'A-1', 2), a1, b2], 'A-1')).toEqual({ does: 'to', bin: a1 });
  });
});

describe('a scanned thing', () => {
  test('counts one more, or as many as its code stands for, and no more than lie there', () => {
    const x = row('X', '5', '4', {
      codes: [
        { code: '4006381333931', factor: '1' },
        { code: 'CASE', factor: '12' },
      ],
    });
    expect(moveScan(a1, [x], bins, '4006381333931')).toMatchObject({ does: 'count', row: x, quantity: expect.objectContaining({}) });
    expect(moveScan(a1, [{ ...x, moved: '5' }], bins, '4006381333931')).toEqual({ does: 'nothing', said: 'A-1 holds only 5 of X.' });
    expect(moveScan(a1, [x], bins, 'case')).toEqual({ does: 'nothing', said: 'A-1 holds only 5 of X.' });
    expect(moveScan(a1, [x], bins, '999')).toEqual({ does: 'nothing', said: '999 does not lie in A-1.' });
    expect(moveScan(null, [x], bins, '999')).toEqual({ does: 'nothing', said: '999 is no bin. Scan first the bin where the goods lie.' });
  });
  test('of lots is the one that is named, else the first of which more lie there', () => {
    const lots = [row('X', '1', '1', { lot: 'L1' }), row('X', '3', '', { lot: 'L2' }), row('X', '3', '', { lot: 'L3' })];
    expect(moveScan(a1, lots, bins, '4006381333931')).toMatchObject({ row: { lot: 'L2' } });
    expect(moveScan(a1, lots, bins, '(01)04006381333931(10)L3')).toMatchObject({ row: { lot: 'L3' } });
  });
});
