import { expect, test } from '@jest/globals';
import { binAfter, countedAfter, picksAfter, putAwayAfter, wantedAfter, type CountStep } from './afterwards';

const row = (lineId: number, binId: number, take: string, lotId: number | null = null) => ({ lineId, binId, lotId, take, inBin: '10' });

test('what was picked is not asked for again; a row that gave less than it should is dropped, others keep what is left', () => {
  const rows = [row(1, 5, '4'), row(1, 6, '2'), row(2, 5, '3', 30), row(2, 5, '1', 31)];
  const first = {
    lines: [
      { lineId: 1, binId: 5, quantity: '1.5' },
      { lineId: 2, binId: 5, lotId: 30, quantity: '3' },
    ],
    short: [],
  };
  expect(picksAfter(rows, [first]).map(({ lineId, binId, lotId, take, inBin }) => [lineId, binId, lotId, take, inBin])).toEqual([
    [1, 5, null, '2.5', '8.5'],
    [1, 6, null, '2', '10'],
    [2, 5, 31, '1', '10'],
  ]);
  const second = { lines: [{ lineId: 1, binId: 5, quantity: '1' }], short: [{ lineId: 1, binId: 5 }] };
  expect(picksAfter(rows, [first, second]).map(({ lineId, binId }) => [lineId, binId])).toEqual([
    [1, 6],
    [2, 5],
  ]);
});

test('what was put away, or moved from there otherwise, lies there no more', () => {
  const there = [
    { itemId: 1, lotId: null, fromBinId: 9, quantity: '5' },
    { itemId: 1, lotId: 3, fromBinId: 9, quantity: '2' },
  ];
  const moves = [
    { itemId: 1, lotId: null, quantity: '2', fromBinId: 9, toBinId: 5 },
    { itemId: 1, lotId: 3, quantity: '2', fromBinId: 9, toBinId: 5 },
    { itemId: 1, lotId: null, quantity: '1', fromBinId: 8, toBinId: 9 },
  ];
  expect(putAwayAfter(there, moves)).toEqual([{ itemId: 1, lotId: null, fromBinId: 9, quantity: '3' }]);
});

test('a line that got all it wants is gone from the desk, and one that gets no more; one that got some wants the rest', () => {
  const lines = [
    { lineId: 1, outstanding: '5' },
    { lineId: 2, outstanding: '5' },
    { lineId: 3, outstanding: '5' },
    { lineId: 4, outstanding: '5' },
  ];
  const received = [
    { lineId: 1, quantity: '5' },
    { lineId: 2, quantity: '2' },
    { lineId: 2, quantity: '1' },
    { lineId: 3, quantity: '1', noMore: true },
  ];
  expect(wantedAfter(lines, received)).toEqual([
    { lineId: 2, outstanding: '2' },
    { lineId: 4, outstanding: '5' },
  ]);
});

test('a bin that was taken is one’s own, its lines have what was counted, what was not expected has one, and finished it is done', () => {
  const me = { id: 7, name: 'Tom Aldous' };
  const bin = { heldById: null, heldBy: null, done: false, doneBy: null, counted: 0, recount: 1 };
  const steps: CountStep[] = [
    { does: 'take' },
    { does: 'enter', entries: [{ itemId: 1, quantity: '4' }] },
    {
      does: 'enter',
      entries: [
        { itemId: 1, quantity: '5' },
        { itemId: 2, lotId: 8, quantity: '1' },
      ],
    },
  ];
  expect(binAfter(bin, steps, me)).toMatchObject({ heldById: 7, heldBy: 'Tom Aldous', done: false, recount: 1 });
  expect(binAfter(bin, [...steps, { does: 'finish' }], me)).toMatchObject({ heldById: null, done: true, doneBy: 'Tom Aldous', recount: 0 });
  expect(binAfter(bin, [{ does: 'take' }, { does: 'leave' }], me)).toEqual(bin);
  const rows = [{ itemId: 1, lotId: null as number | null, counted: null as string | null, recount: 'differs' as string | null }];
  const found = ({ itemId, lotId }: { itemId: number; lotId: number | null }) => (itemId === 3 ? null : { itemId, lotId, counted: null, recount: null });
  expect(countedAfter(rows, [...steps, { does: 'enter', entries: [{ itemId: 3, quantity: '1' }] }], found)).toEqual([
    { itemId: 1, lotId: null, counted: '5', recount: null },
    { itemId: 2, lotId: 8, counted: '1', recount: null },
  ]);
});
