import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum } from '../decimal';
import { choosePicks, mayTake, type Lying, type Wanting } from './picking';

const line = (lineId: number, wanted: number, part: Partial<Wanting> = {}): Wanting => ({
  lineId,
  itemId: 1,
  siteId: 1,
  position: lineId,
  wanted: decimal(wanted),
  may: decimal(wanted),
  ...part,
});
const lies = (bin: string, quantity: number, part: Partial<Lying> = {}): Lying => ({
  itemId: 1,
  siteId: 1,
  binId: bin.charCodeAt(0),
  bin,
  walk: 1,
  unplaced: false,
  lotId: null,
  useBy: null,
  quantity: decimal(quantity),
  ...part,
});
const said = (lines: Wanting[], lying: Lying[]) => {
  const { picks, missing } = choosePicks(lines, lying);
  return [
    picks.map(({ lineId, from, take }) => `${lineId}: ${take.toFixed()} from ${from.bin}`),
    [...missing].map(([id, quantity]) => `${id}: ${quantity.toFixed()}`),
  ];
};

test('what is to be used soonest goes first, and the list is walked in the order of the bins', () => {
  const lying = [
    lies('A', 5, { lotId: 1, useBy: '2027-03-01', walk: 1 }),
    lies('B', 2, { lotId: 2, useBy: '2027-01-01', walk: 9 }),
    lies('C', 4, { lotId: 3, walk: 2 }),
  ];
  expect(said([line(1, 4)], lying)).toEqual([['1: 2 from A', '1: 2 from B'], []]);
});
test('without a day the walk decides, then the code; what has no bin yet comes last', () => {
  const lying = [lies('Z', 9, { unplaced: true, walk: 0 }), lies('C', 1, { walk: 2 }), lies('B', 1, { walk: 2 }), lies('A', 1, { walk: 3 })];
  expect(said([line(1, 4)], lying)[0]).toEqual(['1: 1 from B', '1: 1 from C', '1: 1 from A', '1: 1 from Z']);
});
test('no more than a line may have, and what it wants beyond is missing', () => {
  expect(said([line(1, 6, { may: decimal(4) })], [lies('A', 9)])).toEqual([['1: 4 from A'], ['1: 2']]);
  expect(said([line(1, 6)], [])).toEqual([[], ['1: 6']]);
});
test('two lines of the same goods share what lies there, the first line first', () => {
  expect(said([line(2, 3), line(1, 3)], [lies('A', 4), lies('B', 1)])).toEqual([['1: 3 from A', '2: 1 from A', '2: 1 from B'], ['2: 1']]);
});
test('of other goods nothing is taken, and nothing where a line does not come from', () => {
  expect(said([line(1, 1)], [lies('A', 5, { itemId: 2 })])).toEqual([[], ['1: 1']]);
  const lying = [lies('A', 5, { siteId: 2, walk: 1 }), lies('B', 5, { walk: 2 })];
  expect(said([line(1, 1), line(2, 2, { siteId: 2 })], lying)).toEqual([['1: 1 from B', '2: 2 from A'], []]);
});
test('never more than lies there or is wanted, and nothing is missing while some of it is left', () => {
  const wants = fc.array(fc.record({ itemId: fc.integer({ min: 1, max: 2 }), wanted: fc.integer({ min: 1, max: 9 }) }), { maxLength: 5 });
  const there = fc.array(
    fc.record({ itemId: fc.integer({ min: 1, max: 2 }), quantity: fc.integer({ min: 1, max: 9 }), walk: fc.integer({ min: 0, max: 3 }) }),
    { maxLength: 6 },
  );
  fc.assert(
    fc.property(wants, there, (wanted, given) => {
      const lines = wanted.map((one, index) => line(index + 1, one.wanted, { itemId: one.itemId }));
      const lying = given.map((one, index) => lies(String.fromCharCode(65 + index), one.quantity, { itemId: one.itemId, walk: one.walk }));
      const { picks, missing } = choosePicks(lines, lying);
      for (const bin of lying) expect(sum(picks.filter(({ from }) => from === bin).map(({ take }) => take)).lte(bin.quantity)).toBe(true);
      for (const one of lines) {
        const taken = sum(picks.filter(({ lineId }) => lineId === one.lineId).map(({ take }) => take));
        expect(taken.plus(missing.get(one.lineId) ?? 0).eq(one.wanted)).toBe(true);
        const left = sum(lying.filter(({ itemId }) => itemId === one.itemId).map((bin) => bin.quantity)).minus(
          sum(picks.filter(({ from }) => from.itemId === one.itemId).map(({ take }) => take)),
        );
        if (missing.has(one.lineId)) expect(left.isZero()).toBe(true);
      }
    }),
  );
});

test('a bin in which less was found than it should hold comes last, so that another is offered', () => {
  const lying = [lies('A', 5, { doubtful: true }), lies('B', 3, { walk: 7 })];
  expect(said([line(1, 4)], lying)[0]).toEqual(['1: 1 from A', '1: 3 from B']);
  expect(said([line(1, 3)], lying)[0]).toEqual(['1: 3 from B']);
});

test('several lines never take more than is free between them, each what is reserved for it first', () => {
  const wants = (lineId: number, wanted: number, reserved: number, itemId = 1) => ({
    lineId,
    itemId,
    siteId: 1,
    wanted: decimal(wanted),
    reserved: decimal(reserved),
  });
  const may = mayTake([wants(1, 5, 2), wants(2, 4, 0), wants(3, 3, 3), wants(4, 2, 0, 2)], (itemId) => decimal(itemId === 1 ? 4 : 9));
  expect([...may].map(([lineId, quantity]) => `${lineId}: ${quantity.toFixed()}`)).toEqual(['1: 5', '2: 1', '3: 3', '4: 2']);
});
