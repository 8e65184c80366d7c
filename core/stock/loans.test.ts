import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal } from '../decimal';
import { beyondOut, isOverdue, isSetApart, lentBy, loanState, type LoanProgress } from './loans';

const progress = (lent: number, back = 0, lost = 0): LoanProgress => ({ lent: decimal(lent), back: decimal(back), lost: decimal(lost) });

test.each<[string, LoanProgress]>([
  ['on loan', progress(3)],
  ['part back', progress(3, 1)],
  ['part back', progress(3, 0, 1)],
  ['ended', progress(3, 2, 1)],
  ['ended', progress(3, 3)],
  ['undone', progress(0)],
])('it is %s', (state, standing) => expect(loanState(standing)).toBe(state));

test('it is late once its day has passed while something is still out', () => {
  expect(isOverdue(progress(2, 1), '2026-03-09', '2026-03-10')).toBe(true);
  expect(isOverdue(progress(2, 1), '2026-03-10', '2026-03-10')).toBe(false);
  expect(isOverdue(progress(2, 1, 1), '2026-03-09', '2026-03-10')).toBe(false);
  expect(isOverdue(progress(2), null, '2026-03-10')).toBe(false);
});

test('one of each is lent as far as there is one; or all there is', () => {
  expect(['0', '0.4', '3'].map((free) => lentBy('one', decimal(free)).toFixed())).toEqual(['0', '0.4', '1']);
  expect(lentBy('all', decimal('3')).toFixed()).toBe('3');
});

test('what is damaged, or is to be looked at, is set apart', () =>
  expect((['as it was', 'worn', 'damaged', 'to be looked at'] as const).map(isSetApart)).toEqual([false, false, true, true]));

describe('more than is out', () => {
  const said = (left: unknown) => `only ${String(left)}`;

  test('is told at the part that goes beyond, all parts of a line taken together', () => {
    const out = new Map([
      [1, decimal(3)],
      [2, decimal(1)],
    ]);
    const parts = [
      { lineId: 1, quantity: decimal(2) },
      { lineId: 2, quantity: decimal(1) },
      { lineId: 1, quantity: decimal(2) },
    ];
    expect(beyondOut(out, parts, said)).toEqual([{ field: 'lines.2.quantity', sentence: 'only 1' }]);
    expect(beyondOut(out, parts.slice(0, 2), said)).toEqual([]);
    expect(beyondOut(out, [{ lineId: 9, quantity: decimal(1) }], said)).toEqual([{ field: 'lines.0.quantity', sentence: 'only 0' }]);
  });

  test('is found exactly when the parts of some line come to more than it', () => {
    fc.assert(
      fc.property(fc.array(fc.record({ lineId: fc.integer({ min: 1, max: 3 }), quantity: fc.integer({ min: 1, max: 4 }) }), { maxLength: 8 }), (parts) => {
        const out = new Map([1, 2, 3].map((id) => [id, decimal(5)]));
        const beyond = [1, 2, 3].some((id) => parts.filter(({ lineId }) => lineId === id).reduce((sum, { quantity }) => sum + quantity, 0) > 5);
        const found = beyondOut(
          out,
          parts.map(({ lineId, quantity }) => ({ lineId, quantity: decimal(quantity) })),
          said,
        );
        expect(found.length > 0).toBe(beyond);
      }),
    );
  });
});
