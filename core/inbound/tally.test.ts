import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { afterChange, counted, emptyTally, type DeskChange, type Tally } from './tally';

const scanOf = (key: string, quantity = '1', lots: { code: string; useBy: string | null; quantity: string }[] = []): DeskChange => ({
  key,
  what: 'scan',
  said: `${quantity} of it`,
  parts: [{ lineId: 1, binId: 7, quantity, lots }],
});
const after = (...changes: DeskChange[]): Tally => changes.reduce(afterChange, emptyTally);

describe('what was counted at the desk', () => {
  test('scans add up, the last one first; the same lot adds to itself', () => {
    const lot = (quantity: string) => [{ code: 'L7', useBy: '2027-03-31', quantity }];
    const tally = after(scanOf('scan-0001', '12', lot('12')), scanOf('scan-0002', '24', lot('24')));
    expect(tally.lines[1]).toEqual({ quantity: '36', binId: 7, lots: [{ code: 'L7', useBy: '2027-03-31', quantity: '36' }] });
    expect(tally.scans.map(({ key }) => key)).toEqual(['scan-0002', 'scan-0001']);
    const back = afterChange(tally, { key: 'back-0001', what: 'take-back', scan: 'scan-0002' });
    expect(back.lines[1]?.lots?.[0]?.quantity).toBe('12');
    expect(afterChange(back, { key: 'back-0002', what: 'take-back', scan: 'scan-0002' })).toEqual(back);
  });
  test('what is typed stands: scans before it are not taken back', () => {
    const tally = after(scanOf('scan-0001'), { key: 'put-00001', what: 'put', lines: [{ lineId: 1, put: { quantity: '40' } }] });
    expect([tally.lines[1]?.quantity, tally.scans.length]).toEqual(['40', 0]);
  });
  test('what was set aside outlives starting over, until it is settled', () => {
    const tally = after({ key: 'aside-001', what: 'set-aside', itemId: 3, sku: 'HT-J', quantity: '2' }, { key: 'over-0001', what: 'start-over' });
    expect(tally.aside).toHaveLength(1);
    expect(afterChange(tally, { key: 'done-0001', what: 'settle-aside', aside: 'aside-001' }).aside).toEqual([]);
  });
  test('what is typed counts once it is a number', () => {
    expect(['2', ' 1.5 ', '', 'x', '-3', '1e3'].map((quantity) => counted({ quantity, binId: null }).toFixed())).toEqual(['2', '1.5', '0', '0', '0', '0']);
  });
  test('any scans and as many taken back leave what there was', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 99 }), { maxLength: 20 }), fc.integer({ min: 0, max: 20 }), (quantities, back) => {
        const scans = quantities.map((quantity, index) => scanOf(`scan-${1000 + index}`, String(quantity)));
        const kept = quantities.slice(0, Math.max(0, quantities.length - back));
        let tally = after(...scans);
        for (let n = 0; n < back; n += 1) tally = afterChange(tally, { key: `back-${n}`, what: 'take-back', scan: tally.scans[0]?.key ?? '' });
        expect(counted(tally.lines[1]).toNumber()).toBe(kept.reduce((total, quantity) => total + quantity, 0));
      }),
    );
  });
});
