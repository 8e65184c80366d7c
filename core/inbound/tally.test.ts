import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { afterChange, changeWords, counted, emptyTally, type DeskChange, type Tally } from './tally';

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
  test('what is taken beyond what was ordered is agreed to for that line and that many; taken back or started over, the consent goes with it', () => {
    const extra = { key: 'scan-0002', what: 'scan' as const, said: '2 more', parts: [{ lineId: 1, binId: 7, quantity: '2', lots: [], extra: '2' }] };
    const tally = after(scanOf('scan-0001', '5'), extra);
    expect(tally.lines[1]).toMatchObject({ quantity: '7', extra: '2' });
    expect(afterChange(tally, { key: 'back-0001', what: 'take-back', scan: 'scan-0002' }).lines[1]).toMatchObject({ quantity: '5', extra: '0' });
    expect(afterChange(tally, { key: 'over-0001', what: 'start-over' }).lines).toEqual({});
  });
  test('what is typed stands: scans before it are not taken back', () => {
    const tally = after(scanOf('scan-0001'), { key: 'put-00001', what: 'put', lines: [{ lineId: 1, put: { quantity: '40' } }] });
    expect([tally.lines[1]?.quantity, tally.scans.length]).toEqual(['40', 0]);
  });
  test('a scan, or goods put aside, that it has already change nothing', () => {
    const aside: DeskChange = { key: 'aside-001', what: 'set-aside', itemId: 3, sku: 'HT-J', quantity: '2' };
    const tally = after(scanOf('scan-0001', '12'), aside);
    expect(afterChange(afterChange(tally, scanOf('scan-0001', '12')), aside)).toEqual(tally);
    expect(afterChange(tally, scanOf('scan-0002', '12')).lines[1]?.quantity).toBe('24');
  });
  test('what was set aside outlives starting over, until it is settled', () => {
    const tally = after({ key: 'aside-001', what: 'set-aside', itemId: 3, sku: 'HT-J', quantity: '2' }, { key: 'over-0001', what: 'start-over' });
    expect(tally.aside).toHaveLength(1);
    expect(afterChange(tally, { key: 'done-0001', what: 'settle-aside', aside: 'aside-001' }).aside).toEqual([]);
  });
  test('of several set aside, settling one leaves the others', () => {
    const tally = after(
      { key: 'aside-001', what: 'set-aside', itemId: 3, sku: 'HT-J', quantity: '2' },
      { key: 'aside-002', what: 'set-aside', itemId: 4, sku: 'SMK-M', quantity: '5' },
    );
    expect(tally.aside).toEqual([
      { key: 'aside-001', itemId: 3, sku: 'HT-J', quantity: '2' },
      { key: 'aside-002', itemId: 4, sku: 'SMK-M', quantity: '5' },
    ]);
    expect(afterChange(tally, { key: 'done-0001', what: 'settle-aside', aside: 'aside-001' }).aside.map(({ key }) => key)).toEqual(['aside-002']);
  });
  test('the note and the day are kept beside what was counted, and starting over forgets both', () => {
    const tally = after(scanOf('scan-0001'), { key: 'head-0001', what: 'head', packingNote: 'PN-77', cameOn: '2026-03-12' });
    expect([tally.packingNote, tally.cameOn, tally.scans.length]).toEqual(['PN-77', '2026-03-12', 1]);
    expect(afterChange(tally, { key: 'over-0001', what: 'start-over' })).toEqual(emptyTally);
  });
  test('one scan may count on several lines, and what is put on one line leaves the others and the rest of it', () => {
    const parts = [
      { lineId: 1, binId: 7, quantity: '6', lots: [] },
      { lineId: 2, binId: null, quantity: '2', lots: [] },
    ];
    const tally = after({ key: 'scan-0001', what: 'scan', said: 'a case', parts }, scanOf('scan-0002', '3'));
    expect(tally.lines).toEqual({ 1: { quantity: '9', binId: 7 }, 2: { quantity: '2', binId: null } });
    const back = afterChange(tally, { key: 'back-0001', what: 'take-back', scan: 'scan-0001' });
    expect(back.lines).toEqual({ 1: { quantity: '3', binId: 7 }, 2: { quantity: '', binId: null } });
    expect(back.scans.map(({ key }) => key)).toEqual(['scan-0002']);
    const lines = [
      { lineId: 1, put: { damaged: '1' } },
      { lineId: 3, put: { quantity: '4', noMore: true } },
    ];
    expect(afterChange(back, { key: 'put-00001', what: 'put', lines }).lines).toEqual({
      1: { quantity: '3', binId: 7, damaged: '1' },
      2: { quantity: '', binId: null },
      3: { quantity: '4', binId: null, noMore: true },
    });
  });
  test('the bin of the first scan stands; a lot of which nothing is left goes, the others stay as they were', () => {
    const lot = (code: string, quantity: string) => ({ code, useBy: null, quantity });
    const second: DeskChange = {
      key: 'scan-0002',
      what: 'scan',
      said: 'two lots',
      parts: [{ lineId: 1, binId: 9, quantity: '5', lots: [lot('L1', '2'), lot('L2', '3')] }],
    };
    const tally = after(scanOf('scan-0001', '4', [lot('L1', '4')]), second);
    expect(tally.lines[1]).toEqual({ quantity: '9', binId: 7, lots: [lot('L1', '6'), lot('L2', '3')] });
    const back = afterChange(tally, { key: 'back-0001', what: 'take-back', scan: 'scan-0001' });
    expect(back.lines[1]?.lots).toEqual([lot('L1', '2'), lot('L2', '3')]);
    expect(afterChange(back, { key: 'back-0002', what: 'take-back', scan: 'scan-0002' }).lines[1]).toEqual({ quantity: '', binId: 7, lots: [] });
  });
  test('no more scans are kept than can be taken back, the last ones', () => {
    const tally = after(...Array.from({ length: 203 }, (_, index) => scanOf(`scan-${1000 + index}`)));
    expect([tally.scans.length, tally.scans[0]?.key, tally.scans.at(-1)?.key, tally.lines[1]?.quantity]).toEqual([200, 'scan-1202', 'scan-1003', '203']);
  });
  test('what is typed counts once it is a number', () => {
    expect(['2', ' 1.5 ', '', 'x', '-3', '1e3'].map((quantity) => counted({ quantity, binId: null }).toFixed())).toEqual(['2', '1.5', '0', '0', '0', '0']);
    expect(['1234567890', '1.23456', '123456789.1234', '2 3', 'a2', '2a', '1.'].map((quantity) => counted({ quantity, binId: null }).toFixed())).toEqual([
      '0',
      '0',
      '123456789.1234',
      '0',
      '0',
      '0',
      '0',
    ]);
    expect(counted(undefined).toFixed()).toBe('0');
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

test('each thing done at the desk is told in a few words', () => {
  const put = { what: 'put' as const, key: 'put-00001' };
  expect([
    changeWords(scanOf('scan-0001', '12')),
    changeWords({ key: 'back-0001', what: 'take-back', scan: 'scan-0001' }),
    changeWords({ ...put, lines: [{ lineId: 1, put: { quantity: '4' } }] }),
    changeWords({ ...put, lines: [1, 2, 3].map((lineId) => ({ lineId, put: {} })) }),
    changeWords({ key: 'aside-001', what: 'set-aside', itemId: 3, sku: 'HT-J', quantity: '2' }),
    changeWords({ key: 'done-0001', what: 'settle-aside', aside: 'aside-001' }),
    changeWords({ key: 'head-0001', what: 'head', packingNote: 'PN-7', cameOn: null }),
    changeWords({ key: 'over-0001', what: 'start-over' }),
  ]).toEqual([
    '12 of it',
    'A scan taken back',
    'What was typed on a line',
    'What was typed on 3 lines',
    '2 × HT-J put aside',
    'What was done with goods put aside',
    'The packing note, or the day it came',
    'Starting over',
  ]);
});
