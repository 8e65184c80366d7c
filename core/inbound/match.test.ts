import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum } from '../decimal';
import { itemMeant, matchReceipt, type OpenLine } from './match';

const open = (lineId: number, outstanding: number, part: Partial<OpenLine> = {}): OpenLine => ({
  lineId,
  delivery: '1',
  orderNumber: 'PO-1',
  position: lineId,
  itemId: 1,
  expectedOn: '2026-12-01',
  outstanding: decimal(outstanding),
  ...part,
});
const taken = (lines: OpenLine[], quantity: number, chosen: string[] = []) => {
  const { taken: parts, over } = matchReceipt(lines, 1, decimal(quantity), chosen);
  return [parts.map((part) => `${part.lineId}: ${part.quantity.toFixed()}`), over.toFixed()];
};

describe('goods that come in', () => {
  test('go to what is due first; what has no day comes last', () => {
    const lines = [open(1, 5, { expectedOn: null }), open(2, 5, { expectedOn: '2026-12-24' }), open(3, 5)];
    expect(taken(lines, 12)).toEqual([['3: 5', '2: 5', '1: 2'], '0']);
  });
  test('on the same day, the order with the lower number, counted as a number, then the line that stands first', () => {
    const lines = [open(1, 2, { orderNumber: 'PO-10' }), open(2, 2, { orderNumber: 'PO-9', position: 7 }), open(3, 2, { orderNumber: 'PO-9', position: 4 })];
    expect(taken(lines, 5)).toEqual([['3: 2', '2: 2', '1: 1'], '0']);
  });
  test('only of the chosen orders, and what they do not want is over', () => {
    const lines = [open(1, 4), open(2, 4, { delivery: '2' })];
    expect(taken(lines, 6, ['2'])).toEqual([['2: 4'], '2']);
    expect(taken(lines, 6, ['3'])).toEqual([[], '6']);
  });
  test('never of lines that want other goods, or nothing more', () => {
    expect(taken([open(1, 4, { itemId: 2 }), open(2, 0)], 1)).toEqual([[], '1']);
  });
  test('whatever is open: all is taken or over, no line gets more than it wants, and nothing is over while a line wants more', () => {
    const some = fc.array(fc.record({ outstanding: fc.integer({ min: 0, max: 9 }), itemId: fc.constantFrom(1, 2), delivery: fc.constantFrom('1', '2') }), {
      maxLength: 7,
    });
    fc.assert(
      fc.property(some, fc.integer({ min: 1, max: 40 }), fc.constantFrom<string[]>([], ['1'], ['2']), (given, quantity, chosen) => {
        const lines = given.map((one, index) => open(index + 1, one.outstanding, { itemId: one.itemId, delivery: one.delivery }));
        const { taken: parts, over } = matchReceipt(lines, 1, decimal(quantity), chosen);
        expect(
          sum(parts.map((part) => part.quantity))
            .plus(over)
            .eq(quantity),
        ).toBe(true);
        const got = new Map(parts.map((part) => [part.lineId, part.quantity]));
        expect(got.size).toBe(parts.length);
        for (const { lineId, itemId, delivery, outstanding } of lines) {
          const may = itemId === 1 && (chosen.length === 0 || chosen.includes(delivery));
          expect((got.get(lineId) ?? decimal(0)).lte(may ? outstanding : 0)).toBe(true);
          if (over.gt(0) && may) expect((got.get(lineId) ?? decimal(0)).eq(outstanding)).toBe(true);
        }
      }),
    );
  });
});

describe('a code that fits several items', () => {
  const lines = [open(1, 4, { itemId: 1 }), open(2, 4, { itemId: 2, delivery: '2' }), open(3, 0, { itemId: 3 })];
  test('means the only one there is, wanted or not', () => {
    expect(itemMeant([3], lines, [])).toBe(3);
    expect(itemMeant([], lines, [])).toBeNull();
  });
  test('means the only one that is wanted, of the orders chosen', () => {
    expect(itemMeant([1, 3], lines, [])).toBe(1);
    expect(itemMeant([1, 2], lines, ['2'])).toBe(2);
  });
  test('must be said when several are wanted, or none', () => {
    expect(itemMeant([1, 2], lines, [])).toBeNull();
    expect(itemMeant([3, 4], lines, [])).toBeNull();
  });
});
