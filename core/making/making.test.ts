import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum, type Decimal } from '../decimal';
import { circleOf, neededFor, topDown, type Bill, type Bills } from './bill';
import { makeable, type Shelf } from './canMake';
import { costWeights, ownShare, rolledCost, rollUp } from './rollUp';

type Line = [itemId: number, quantity: string | number, waste?: string];
const bill = (itemId: number, lines: readonly Line[], rest: Partial<Bill> = {}): Bill => ({
  itemId,
  makes: decimal(1),
  parts: lines.map(([id, quantity, waste = '0']) => ({ itemId: id, quantity: decimal(quantity), waste: decimal(waste) })),
  costs: [],
  byProducts: [],
  share: null,
  ...rest,
});
const bills = (...all: Bill[]): Bills => new Map(all.map((one) => [one.itemId, one]));
const shelf = (free: Record<number, string | number>, steps: Record<number, string> = {}, unkept: readonly number[] = []): Shelf => ({
  free: (itemId) => decimal(free[itemId] ?? 0),
  step: (itemId) => decimal(steps[itemId] ?? 1),
  stocked: (itemId) => !unkept.includes(itemId),
});
const canMakeOf = (itemId: number, all: Bills, here: Shelf) => makeable(all, here).canMake(itemId);
const costs = (known: Record<number, string>) => (itemId: number) => (known[itemId] === undefined ? null : decimal(known[itemId]));

/** A hive: 1 roof, 2 boxes (each of 4 boards and 16 screws), 20 frames (each of 4 bars), 8 screws. */
const [hive, roof, box, board, screw, frame, bar] = [1, 2, 3, 4, 5, 6, 7] as const;
const hives = bills(
  bill(hive, [
    [roof, 1],
    [box, 2],
    [frame, 20],
    [screw, 8],
  ]),
  bill(box, [
    [board, 4],
    [screw, 16],
  ]),
  bill(frame, [[bar, 4]]),
);

describe('what one takes of a part', () => {
  test('is so many for each lot of what is made, with the waste on top', () => {
    const sheet = bill(1, [[2, '0.3', '5']], { makes: decimal(4) });
    const part = sheet.parts[0] as Bill['parts'][number];
    expect(neededFor(decimal(10), sheet, part).toFixed()).toBe('0.7875');
  });
});

describe('a bill that would contain itself', () => {
  const contents = new Map([
    [hive, [roof, box, frame]],
    [box, [board, screw]],
    [frame, [bar]],
  ]);
  test('is found through all levels, with the way it takes; what is used twice is no circle', () => {
    expect(circleOf(bar, [roof, hive], contents)).toEqual([bar, hive, frame, bar]);
    expect(circleOf(board, [hive], contents)).toEqual([board, hive, box, board]);
    expect(circleOf(hive, [hive], contents)).toEqual([hive, hive]);
    expect(circleOf(hive, [box, screw, frame, screw], contents)).toBeNull();
  });
  test('is never gone round: what is already in a circle is refused', () => {
    expect(() => topDown([1], bills(bill(1, [[2, 1]]), bill(2, [[1, 1]])))).toThrow(RangeError);
  });
});

describe('the cost of what is made', () => {
  test('is that of its parts over all levels, of what is bought what it costs now, and the work of each level', () => {
    const worked = bills(
      bill(hive, [
        [box, 2],
        [roof, 1, '10'],
      ]),
      bill(box, [[board, 4]], { makes: decimal(2), costs: [{ quantity: decimal('0.5'), rate: decimal(18) }] }),
    );
    const of = rollUp(worked, costs({ [board]: '1.25', [roof]: '6.00', [box]: '99' }));
    // A box: 2 boards and a quarter of an hour at 18.00; what boxes on the shelf cost does not matter.
    expect(of(box)).toMatchObject({ parts: decimal('2.5'), work: decimal('4.5') });
    expect(of(hive)).toMatchObject({ parts: decimal('11.6'), work: decimal(9), unknown: [] });
    expect(of(board)).toBeNull();
  });
  test('tells of which parts nothing says what they cost', () => {
    const rolled = rollUp(hives, costs({ [roof]: '5', [board]: '1' }))(hive);
    expect(rolled?.unknown.toSorted()).toEqual([screw, bar]);
    expect(rolled && rolledCost(rolled).toFixed()).toBe('13');
  });
  test('is shared with what else comes of the work: by typed shares, by value, else by quantity', () => {
    const cut = (share: string | null, other: string | null) =>
      bill(1, [[9, 1]], {
        makes: decimal(4),
        share: share === null ? null : decimal(share),
        byProducts: [{ itemId: 2, quantity: decimal(2), share: other === null ? null : decimal(other) }],
      });
    const own = (one: Bill, known: Record<number, string>) => {
      const { part, whole } = ownShare(one, costs(known));
      return part.div(whole).toFixed(4);
    };
    expect(own(cut('70', '30'), {})).toBe('0.7000');
    expect(own(cut(null, null), { 1: '3', 2: '2' })).toBe('0.7500');
    expect(own(cut(null, null), {})).toBe('0.6667');
    // Half typed is not typed; typed nothing at all, neither.
    expect(own(cut('70', null), { 1: '1', 2: '2' })).toBe('0.5000');
    expect(own(cut('0', '0'), { 1: '1', 2: '2' })).toBe('0.5000');
    const rolled = rollUp(bills(cut('70', '30')), costs({ 9: '40' }))(1);
    expect(rolled?.parts.toFixed()).toBe('7');
  });
  test('by-products and the item itself share all of it, whatever the shares', () => {
    const weight = fc.option(fc.integer({ min: 0, max: 100 }), { nil: null });
    fc.assert(
      fc.property(fc.array(fc.record({ share: weight, cost: weight }), { minLength: 1, maxLength: 5 }), (outputs) => {
        const [first, ...others] = outputs.map(({ share }, index) => ({
          itemId: index,
          quantity: decimal(index + 1),
          share: share === null ? null : decimal(share),
        }));
        const known = (itemId: number): Decimal | null => (outputs[itemId]?.cost ? decimal(outputs[itemId].cost) : null);
        const weights = costWeights({ itemId: 0, makes: decimal(1), share: first?.share ?? null, byProducts: others }, known);
        expect(weights).toHaveLength(outputs.length);
        expect(weights.every((one) => one.gte(0)) && sum(weights).gt(0)).toBe(true);
      }),
    );
  });
});

describe('how many can be made', () => {
  test('by what is free through all levels; the parts that limit it are named', () => {
    // 3 boxes are there; a fourth needs 4 boards and 16 screws, beside the 8 of each hive.
    const free = { [roof]: 9, [box]: 3, [board]: 6, [screw]: 39, [frame]: 45, [bar]: 100 };
    expect(canMakeOf(hive, hives, shelf(free))).toEqual({ many: decimal(2), limits: [board, screw] });
    expect(canMakeOf(hive, hives, shelf({ ...free, [board]: 99, [screw]: 999 }))).toEqual({ many: decimal(3), limits: [bar] });
    expect(canMakeOf(hive, hives, shelf({}))).toEqual({
      many: decimal(0),
      limits: [roof, board, bar, screw],
    });
  });
  test('what is missing for so many, level by level, the same part of several branches once', () => {
    const rows = makeable(hives, shelf({ [roof]: 9, [box]: 3, [board]: 6, [screw]: 39, [frame]: 45, [bar]: 100 })).needed(hive, decimal(5));
    const of = (itemId: number) => {
      const row = rows.find((one) => one.itemId === itemId);
      return row && [row.needed, row.free, row.made, row.missing].map(Number);
    };
    expect(of(hive)).toEqual([5, 0, 5, 0]);
    expect(of(box)).toEqual([10, 3, 7, 0]);
    expect(of(board)).toEqual([28, 6, 0, 22]);
    expect(of(screw)).toEqual([5 * 8 + 7 * 16, 39, 0, 113]);
    expect(of(frame)).toEqual([100, 45, 55, 0]);
    expect(of(bar)).toEqual([220, 100, 0, 120]);
  });
  test('what is not kept in stock limits nothing, and neither does a bill of nothing else', () => {
    expect(
      canMakeOf(
        1,
        bills(
          bill(1, [
            [2, 1],
            [3, 2],
          ]),
        ),
        shelf({ 3: 9 }, {}, [2]),
      ),
    ).toEqual({ many: decimal(4), limits: [3] });
    expect(canMakeOf(1, bills(bill(1, [[2, 1]])), shelf({}, {}, [2]))).toEqual({ many: null, limits: [] });
  });
  test('in whole steps of the item and of its parts, and to the last one that division would hide', () => {
    expect(canMakeOf(1, bills(bill(1, [[2, 1]], { makes: decimal(3) })), shelf({ 2: 1 })).many?.toFixed()).toBe('3');
    // 7 % on top of 1 for one: 9 of them take 9.63, which is 10 whole ones.
    expect(canMakeOf(1, bills(bill(1, [[2, 1, '7']])), shelf({ 2: 10 })).many?.toFixed()).toBe('9');
    expect(canMakeOf(1, bills(bill(1, [[2, '0.4']])), shelf({ 2: '1' }, { 1: '0.5', 2: '0.1' })).many?.toFixed()).toBe('2.5');
  });

  /** Bills among up to 8 items, in which parts are always of a higher number. */
  const anyBills = fc.array(
    fc.array(fc.tuple(fc.integer({ min: 1, max: 7 }), fc.integer({ min: 1, max: 6 }), fc.integer({ min: 0, max: 30 })), { maxLength: 4 }),
    { minLength: 3, maxLength: 6 },
  );
  const made = (given: readonly (readonly (readonly [number, number, number])[])[], makes: number, waste: boolean): Bills =>
    bills(
      ...given.flatMap((lines, index) => {
        const parts = new Map(
          lines.filter(([id]) => index + id <= 8).map(([id, many, wasted]): [number, Line] => [index + id, [index + id, many, waste ? String(wasted) : '0']]),
        );
        return parts.size === 0 ? [] : [bill(index, [...parts.values()], { makes: decimal(makes) })];
      }),
    );
  const anyFree = fc.array(fc.integer({ min: 0, max: 400 }), { minLength: 9, maxLength: 9 });

  test('is the most for which nothing is missing, whatever the bills', () => {
    fc.assert(
      fc.property(anyBills, anyFree, fc.integer({ min: 1, max: 3 }), fc.boolean(), (given, free, makes, waste) => {
        const all = made(given, makes, waste);
        if (!all.has(0)) return;
        const here = shelf(Object.fromEntries(free.entries()));
        const { many, limits } = canMakeOf(0, all, here);
        const missing = (wanted: Decimal) =>
          makeable(all, here)
            .needed(0, wanted)
            .filter((row) => row.missing.gt(0));
        expect(many).not.toBeNull();
        expect(missing(many as Decimal)).toEqual([]);
        const short = missing((many as Decimal).plus(1)).map(({ itemId }) => itemId);
        expect(short.length).toBeGreaterThan(0);
        expect(limits).toEqual(short);
      }),
    );
  });
  test('needs of each part exactly what fractions say, rounded up to whole steps once', () => {
    fc.assert(
      fc.property(anyBills, anyFree, fc.integer({ min: 1, max: 7 }), fc.integer({ min: 1, max: 50 }), (given, free, makes, many) => {
        const all = made(given, makes, true);
        const here = shelf(Object.fromEntries(free.entries()));
        const rows = makeable(all, here).needed(0, decimal(many));
        // By hand: what is wanted of each, as fractions of one size, since every bill makes the same number and waste is in hundredths.
        const size = BigInt(makes) * 100n;
        const wanted = new Map<number, bigint>([[0, BigInt(many) * size]]);
        for (let itemId = 0; itemId <= 8; itemId += 1) {
          const exact = wanted.get(itemId) ?? 0n;
          const needed = (exact + size - 1n) / size;
          const there = itemId === 0 ? 0n : BigInt(free[itemId] ?? 0);
          const rest = needed > there ? needed - there : 0n;
          for (const part of all.get(itemId)?.parts ?? [])
            wanted.set(part.itemId, (wanted.get(part.itemId) ?? 0n) + rest * BigInt(part.quantity.toFixed()) * (100n + BigInt(part.waste.toFixed())));
          const row = rows.find((one) => one.itemId === itemId);
          if (row) expect([itemId, row.needed.toFixed(), row.made.plus(row.missing).toFixed()]).toEqual([itemId, String(needed), String(rest)]);
          else expect(exact).toBe(0n);
        }
      }),
    );
  });
  test('is what one finds who really makes them one after the other, out of boxes on a shelf', () => {
    fc.assert(
      fc.property(anyBills, anyFree, (given, free) => {
        const all = made(given, 1, false);
        if (!all.has(0)) return;
        const boxes = free.map((many) => Math.floor(many / 10));
        const take = (itemId: number, many: number): boolean => {
          const there = Math.min(boxes[itemId] ?? 0, many);
          boxes[itemId] = (boxes[itemId] ?? 0) - there;
          return there === many || make(itemId, many - there);
        };
        const make = (itemId: number, many: number): boolean =>
          all.has(itemId) && (all.get(itemId)?.parts ?? []).every((part) => take(part.itemId, many * part.quantity.toNumber()));
        let count = 0;
        while (make(0, 1)) count += 1;
        expect(canMakeOf(0, all, shelf(Object.fromEntries(free.map((many, index) => [index, Math.floor(many / 10)])))).many?.toNumber()).toBe(count);
      }),
    );
  });
});
