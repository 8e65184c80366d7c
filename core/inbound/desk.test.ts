import { describe, expect, test } from '@jest/globals';
import { afterChange, emptyTally, type ScanPart, type Tally } from './tally';
import { extraParts, receiptLines, scan, type DeskLine } from './desk';

const line = (lineId: number, part: Partial<DeskLine> = {}): DeskLine => ({
  lineId,
  delivery: String(lineId * 10),
  orderNumber: `PO-${1000 + lineId}`,
  siteId: 1,
  expectedOn: `2026-11-2${lineId}`,
  position: 1,
  itemId: 1,
  sku: 'SM-STD',
  name: 'Smoker',
  outstanding: '2',
  tracking: 'none',
  stocked: true,
  binId: 7,
  codes: [
    { code: 'SM-STD', factor: '1' },
    { code: '2000000000398', factor: '1' },
  ],
  waiting: [],
  others: [],
  ...part,
});
const open = [
  line(1),
  line(2),
  line(3, {
    itemId: 2,
    sku: 'HT-J',
    codes: [
      { code: 'HT-J', factor: '1' },
      { code: 'CB-5', factor: '1' },
    ],
  }),
];
const taking = (tally: Tally, parts: ScanPart[]): Tally => afterChange(tally, { key: `scan ${tally.scans.length}`, what: 'scan', said: '', parts });
const holding = (lines: Tally['lines']): Tally => ({ ...emptyTally, lines });
const run = (codes: string[], chosen: string[] = []): { tally: Tally; counted: Tally['lines']; said: string[] } => {
  let tally = emptyTally;
  const said = codes.map((code) => {
    const result = scan(open, tally, chosen, code);
    if (result.outcome === 'counted') tally = taking(tally, result.parts);
    return result.outcome;
  });
  return { tally, counted: tally.lines, said };
};

describe('scanning at the desk', () => {
  test('each scan counts one on the earliest due line that still wants it, by any of its codes', () => {
    const { counted, said } = run(['SM-STD', 'sm-std', '2000000000398']);
    expect(said).toEqual(['counted', 'counted', 'counted']);
    expect(counted).toEqual({ 1: { quantity: '2', binId: 7 }, 2: { quantity: '1', binId: 7 } });
  });
  test('more than all lines want asks, and can be taken as extra on the last line', () => {
    const { tally, said } = run(['SM-STD', 'SM-STD', 'SM-STD', 'SM-STD', 'SM-STD']);
    expect(said.at(-1)).toBe('over');
    expect(taking(tally, extraParts(open, [], 1, '1')).lines[2]).toEqual({ quantity: '3', binId: 7, extra: '1' });
  });
  test('held to one delivery nothing outside it is touched', () => {
    const { counted, said } = run(['SM-STD', 'HT-J'], ['20']);
    expect(said).toEqual(['counted', 'over']);
    expect(Object.keys(counted)).toEqual(['2']);
  });
  test('an unknown code is said, and one of two wanted items is asked about', () => {
    expect(scan(open, emptyTally, [], '404').outcome).toBe('unknown');
    const shared = [line(1, { codes: [{ code: 'X-1', factor: '1' }] }), line(2, { itemId: 2, sku: 'HT-J', codes: [{ code: 'X-1', factor: '1' }] })];
    expect(scan(shared, emptyTally, [], 'X-1').outcome).toBe('several');
    expect(scan(shared, emptyTally, ['20'], 'X-1').outcome).toBe('counted');
  });
  test('a typed quantity is spread over the lines that want it', () => {
    const result = scan(open, emptyTally, [], 'SM-STD', '3');
    expect(result.outcome === 'counted' && taking(emptyTally, result.parts).lines).toEqual({ 1: { quantity: '2', binId: 7 }, 2: { quantity: '1', binId: 7 } });
  });
});

describe('what a code says', () => {
  const gtin = '06291041500213';
  const fondant = line(5, { itemId: 9, sku: 'FON', tracking: 'lot', outstanding: '100', codes: [{ code: '6291041500213', factor: '12' }] });
  const counted = (codes: string[]) =>
    codes.reduce<Tally>((sofar, code) => {
      const result = scan([fondant], sofar, [], code);
      return result.outcome === 'counted' ? taking(sofar, result.parts) : sofar;
    }, emptyTally).lines;
  test('a case counts its pieces', () => {
    expect(counted(['6291041500213', gtin])[5]?.quantity).toBe('24');
  });
  test('a case too many is taken whole when it is right', () => {
    const full = holding({ 5: { quantity: '96', binId: 7 } });
    expect(scan([fondant], full, [], '6291041500213')).toMatchObject({ outcome: 'over', itemId: 9, quantity: '12' });
    expect(taking(full, extraParts([fondant], [], 9, '12')).lines[5]?.quantity).toBe('108');
  });
  test('a GS1 code brings its lot, use-by and how many; the same lot adds up', () => {
    const code = `(01)${gtin}(17)270331(10)L7(30)2`;
    expect(counted([code, `01${gtin}1727033110L7`])[5]).toEqual({ binId: 7, quantity: '36', lots: [{ code: 'L7', useBy: '2027-03-31', quantity: '36' }] });
  });
});

describe('what is received', () => {
  const quarantine = () => 99;
  test('damaged goods are a line of their own, into quarantine; all damaged leaves no other line', () => {
    const lines = receiptLines(open, holding({ 1: { quantity: '2', binId: 7, damaged: '1', toBench: true } }), quarantine);
    expect(lines.map(({ quantity, binId, toBench }) => [quantity, binId, toBench])).toEqual([
      ['1', 7, true],
      ['1', 99, false],
    ]);
    expect(receiptLines(open, holding({ 1: { quantity: '2', binId: 7, damaged: '5' } }), quarantine).map(({ quantity, binId }) => [quantity, binId])).toEqual([
      ['2', 99],
    ]);
  });
  test('of lots and serials, the last ones given are the damaged ones', () => {
    const lots = [
      { code: 'L1', useBy: '2027-01-01', quantity: '5' },
      { code: 'L2', useBy: null, quantity: '3' },
    ];
    const got = receiptLines(open, holding({ 1: { quantity: '8', binId: 7, damaged: '4', lots } }), quarantine);
    expect(got.map((one) => [one.quantity, one.binId, one.lots])).toEqual([
      ['4', 7, [{ code: 'L1', useBy: '2027-01-01', quantity: '4' }]],
      ['4', 99, [{ code: 'L1', useBy: '2027-01-01', quantity: '1' }, lots[1]]],
    ]);
  });
  test('what somebody else has counted is not counted again', () => {
    const shared = [line(1, { others: [{ quantity: '1' }] })];
    expect(scan(shared, emptyTally, [], 'SM-STD', '1').outcome).toBe('counted');
    expect(scan(shared, emptyTally, [], 'SM-STD', '2').outcome).toBe('over');
  });
});
