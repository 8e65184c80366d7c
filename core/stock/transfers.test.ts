import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum } from '../decimal';
import { beyondLots, changeFaults, lacksOfLevel, lineBecomes, transferStages, transferState, type TransferProgress } from './transfers';

const progress = (quantity: number, gone: number, arrived = 0, lost = 0, picked = gone): TransferProgress => ({
  quantity: decimal(quantity),
  picked: decimal(picked),
  gone: decimal(gone),
  arrived: decimal(arrived),
  lost: decimal(lost),
});

test.each<[string, TransferProgress]>([
  ['to send', progress(6, 0)],
  ['to send', progress(6, 0, 0, 0, 4)],
  ['part sent', progress(6, 4)],
  ['in transit', progress(6, 6)],
  ['part arrived', progress(6, 6, 2)],
  ['part arrived', progress(6, 5, 0, 1)],
  ['arrived', progress(6, 6, 5, 1)],
  ['cancelled', progress(0, 0)],
])('it is %s', (state, standing) => expect(transferState(standing)).toBe(state));

test('what was lost on the way has ended as well', () => {
  expect(transferStages(progress(6, 5, 3, 1)).map(({ name, done, of }) => `${name} ${done} of ${of}`)).toEqual([
    'Picked 5 of 6',
    'Sent 5 of 6',
    'Arrived 4 of 6',
  ]);
});

test('a site lacks what its level is above what is free and comes, and what it owes', () => {
  const at = (orderUpTo: number | null, free: number, coming: number, short: number) =>
    lacksOfLevel({ orderUpTo: orderUpTo === null ? null : decimal(orderUpTo), free: decimal(free), coming: decimal(coming), short: decimal(short) }).toNumber();
  expect([at(24, 7, 0, 0), at(24, 7, 6, 0), at(24, 0, 0, 3), at(24, 30, 0, 0), at(null, 0, 0, 9)]).toEqual([17, 11, 27, 0, 0]);
});

describe('a line becomes another quantity', () => {
  const line = (base: number, cancelled: number, picked = 0) => ({
    id: 1,
    sku: 'JAR',
    base: decimal(base),
    cancelled: decimal(cancelled),
    picked: decimal(picked),
  });
  test.each([
    [10, 0, 6, 10, 4],
    [10, 4, 8, 10, 2],
    [10, 4, 10, 10, 0],
    [10, 4, 13, 13, 0],
    [10, 4, 6, 10, 4],
  ])('of %d with %d cancelled it becomes %d', (base, cancelled, quantity, then, off) => {
    const is = lineBecomes(line(base, cancelled), decimal(quantity));
    expect([is.base.toNumber(), is.cancelled.toNumber()]).toEqual([then, off]);
  });
  test('however often it is changed, what is to go is what was said last, and what was asked for never falls', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 30 }), { minLength: 1, maxLength: 8 }), (said) => {
        let now = line(5, 0);
        for (const quantity of said) {
          const is = lineBecomes(now, decimal(quantity));
          expect(is.base.gte(now.base)).toBe(true);
          now = { ...now, ...is };
        }
        expect(now.base.minus(now.cancelled).toNumber()).toBe(said.at(-1));
      }),
    );
  });
  test('no fewer than are picked', () => {
    expect(changeFaults([line(10, 0, 4)], [{ id: 1, quantity: '4' }], decimal)).toEqual([]);
    expect(
      changeFaults(
        [line(10, 0, 4)],
        [
          { id: null, quantity: '1' },
          { id: 1, quantity: '3' },
        ],
        decimal,
      ),
    ).toEqual([{ field: 'lines.1.quantity', sentence: '4 of JAR are picked already; it can be no fewer.' }]);
  });
});

test('more than lies there is found where it is asked, those asked before counted, lot by lot', () => {
  const lots = (lineId: number, lotId: number | null, quantity: number) => ({ lineId, lotId, quantity: decimal(quantity) });
  const lying = [lots(1, null, 5), lots(2, 7, 2), lots(2, 8, 1)];
  const beyond = (asked: ReturnType<typeof lots>[]) => {
    const found = beyondLots(lying, asked);
    return found && [found.index, found.left.toNumber()];
  };
  expect(beyond([lots(1, null, 3), lots(1, null, 2)])).toBeNull();
  expect(beyond([lots(1, null, 3), lots(1, null, 3)])).toEqual([1, 2]);
  expect(beyond([lots(2, 7, 2), lots(2, 8, 2)])).toEqual([1, 1]);
  expect(beyond([lots(2, 9, 1)])).toEqual([0, 0]);
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 1, max: 4 }), { maxLength: 6 }), (asked) => {
      const all = sum(asked.map((many) => decimal(many)));
      expect(beyond(asked.map((many) => lots(1, null, many))) === null).toBe(all.lte(5));
    }),
  );
});
