import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, greatest, least, sum, zero } from '../decimal';
import { planToOrder, toComeOf, type GoingWork, type OrderedLine } from './toOrder';

const line = (lineId: number | null, wanted: string, more: Partial<OrderedLine> = {}): OrderedLine => ({
  ...{ lineId, itemId: 1, siteId: 1, wanted: decimal(wanted), reserved: zero, brought: zero },
  ...more,
});
const work = (id: number, lineId: number | null, toCome: string, more: Partial<GoingWork> = {}): GoingWork => ({
  ...{ id, lineId, siteId: 1, toCome: decimal(toCome), follows: true },
  ...more,
});
const planned = (lines: OrderedLine[], free: string, going: GoingWork[] = []) => {
  const { off, make } = planToOrder(lines, () => decimal(free), going);
  return { off, make: make.map((one) => [one.line, one.quantity.toFixed()]) };
};

describe('what is put together for an order', () => {
  test('is what is neither reserved nor free nor brought; what is free serves one line after the other', () => {
    expect(planned([line(1, '5', { reserved: decimal(1), brought: decimal(1) }), line(2, '3'), line(3, '2', { siteId: 2 })], '4')).toEqual({
      off: [],
      make: [[1, '2']],
    });
  });
  test('is what is missing beyond what is under way', () => {
    expect(planned([line(1, '8')], '0', [work(7, 1, '5')])).toEqual({ off: [], make: [[0, '3']] });
    expect(planned([line(1, '5')], '0', [work(7, 1, '5')])).toEqual({ off: [], make: [] });
  });
  test('is called off, the last first, when less is wanted, and made anew where that was too much', () => {
    expect(planned([line(1, '5')], '0', [work(7, 1, '5'), work(8, 1, '3')])).toEqual({ off: [8], make: [] });
    expect(planned([line(1, '4')], '0', [work(7, 1, '5')])).toEqual({ off: [7], make: [[0, '4']] });
    expect(planned([line(1, '0')], '0', [work(7, 1, '5'), work(8, 1, '3')])).toEqual({ off: [8, 7], make: [] });
  });
  test('goes on when somebody began or changed it', () => {
    expect(planned([line(1, '2')], '0', [work(7, 1, '5', { follows: false })])).toEqual({ off: [], make: [] });
    expect(planned([], '0', [work(7, 1, '5', { follows: false }), work(8, 1, '1')])).toEqual({ off: [8], make: [] });
  });
  test('follows its line to another site, and ends with a line that is taken off', () => {
    expect(planned([line(1, '2', { siteId: 2 })], '0', [work(7, 1, '2')])).toEqual({ off: [7], make: [[0, '2']] });
    expect(planned([line(null, '2')], '0', [work(7, null, '2')])).toEqual({ off: [7], make: [[0, '2']] });
  });
  test('then covers each line just as far as its stock does not, unless what was begun covers more', () => {
    const many = fc.integer({ min: 0, max: 9 }).map((number) => decimal(number));
    const someLine = fc.record({
      lineId: fc.integer({ min: 1, max: 4 }),
      itemId: fc.constant(1),
      siteId: fc.integer({ min: 1, max: 2 }),
      wanted: many,
      reserved: many,
      brought: many,
    });
    const someWork = fc.record({
      lineId: fc.option(fc.integer({ min: 1, max: 5 })),
      siteId: fc.integer({ min: 1, max: 2 }),
      toCome: many,
      follows: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.uniqueArray(someLine, { selector: ({ lineId }) => lineId }), fc.array(someWork, { maxLength: 6 }), many, (lines, works, free) => {
        const going = works.map((one, index) => ({ ...one, id: index + 1 }));
        const { off, make } = planToOrder(lines, () => free, going);
        expect(going.filter(({ id, follows }) => off.includes(id) && !follows)).toEqual([]);
        let all = [free, free];
        for (const [index, one] of lines.entries()) {
          const open = greatest(one.wanted.minus(one.reserved).minus(one.brought), zero);
          const given = least(open, all[one.siteId - 1] as typeof free);
          all = all.map((left, at) => (at === one.siteId - 1 ? left.minus(given) : left));
          const kept = going.filter(({ id, lineId, siteId }) => lineId === one.lineId && siteId === one.siteId && !off.includes(id));
          const under = sum(kept.map(({ toCome }) => toCome)).plus(make.find((made) => made.line === index)?.quantity ?? zero);
          const fixed = sum(kept.filter(({ follows }) => !follows).map(({ toCome }) => toCome));
          expect(under.toFixed()).toBe(greatest(open.minus(given), fixed).toFixed());
        }
      }),
    );
  });
});

test('a work order is still to make what is neither made nor scrapped, and never less than nothing', () => {
  expect(toComeOf({ quantity: '5', made: '2', scrapped: '1' }).toFixed()).toBe('2');
  expect(toComeOf({ quantity: '5', made: '6', scrapped: '0' }).toFixed()).toBe('0');
});
