import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, shareOf, sum, zero, type Decimal } from '../decimal';
import { notTaken, outputParts, plannedParts, proposedUse, workStages, workState, type WorkProgress } from './work';

const progress = (part: Partial<Record<keyof WorkProgress, number | boolean>>): WorkProgress => {
  const figures = { quantity: 5, made: 0, scrapped: 0, needed: 20, drawn: 0, used: 0, released: false, ended: false, ...part };
  const many = (name: 'quantity' | 'made' | 'scrapped' | 'needed' | 'drawn' | 'used') => decimal(Number(figures[name]));
  return {
    released: Boolean(figures.released),
    ended: Boolean(figures.ended),
    quantity: many('quantity'),
    made: many('made'),
    scrapped: many('scrapped'),
    needed: many('needed'),
    drawn: many('drawn'),
    used: many('used'),
  };
};

test('a work order stands as its counters say', () => {
  const stands = (part: Parameters<typeof progress>[0]) => workState(progress(part));
  expect(stands({})).toBe('planned');
  expect(stands({ released: true })).toBe('released');
  expect(stands({ released: true, drawn: 19 })).toBe('released');
  expect(stands({ released: true, drawn: 20 })).toBe('picked');
  expect(stands({ released: true, drawn: 20, used: 4 })).toBe('in work');
  expect(stands({ released: true, drawn: 20, used: 12, made: 3 })).toBe('part made');
  expect(stands({ released: true, drawn: 20, used: 20, made: 4, scrapped: 1 })).toBe('made');
  expect(stands({ released: true, made: 3, ended: true })).toBe('made');
  expect(stands({ ended: true })).toBe('cancelled');
  expect(
    workStages(progress({ released: true, drawn: 22, used: 8, made: 2 })).map(({ name, done, of }) => `${name} ${done.toFixed()}/${of.toFixed()}`),
  ).toEqual(['Planned 1/1', 'Released 1/1', 'Picked 20/20', 'In work 8/20', 'Made 2/5']);
});

describe('what making so many takes', () => {
  test('is in whole steps of each part', () => {
    const bill = {
      makes: decimal(10),
      parts: [
        { itemId: 1, quantity: decimal(1), waste: zero },
        { itemId: 2, quantity: decimal('0.3'), waste: decimal(5) },
      ],
    };
    const step = (itemId: number) => decimal(itemId === 1 ? 1 : '0.01');
    expect(plannedParts(bill, decimal(25), step).map(({ quantity }) => quantity.toFixed())).toEqual(['3', '0.79']);
    expect(plannedParts(bill, decimal(30), step).map(({ quantity }) => quantity.toFixed())).toEqual(['3', '0.95']);
  });
  test('is proposed as used by what is made so far; with the last of them, all of it', () => {
    const of = (needed: string, used: string) => ({ needed: decimal(needed), step: decimal(1), drawn: decimal(needed), used: decimal(used) });
    const use = (needed: string, used: string, madeBefore: number, many: number) =>
      proposedUse(of(needed, used), { quantity: decimal(5), madeBefore: decimal(madeBefore) }, decimal(many)).toFixed();
    expect([use('10', '0', 0, 2), use('10', '4', 2, 1), use('10', '6', 3, 2), use('10', '12', 3, 2)]).toEqual(['4', '2', '4', '0']);
    // Seven for five: 2.8 of them are three whole ones, and no more than all in the end.
    expect([use('7', '0', 0, 2), use('7', '3', 2, 1), use('7', '5', 3, 9)]).toEqual(['3', '2', '2']);
  });
  test('proposed part by part comes to what the order says, whatever the parts', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), fc.array(fc.integer({ min: 1, max: 20 }), { minLength: 1, maxLength: 12 }), (needed, parts) => {
        const quantity = decimal(parts.reduce((all, one) => all + one, 0));
        let [used, madeBefore]: [Decimal, Decimal] = [zero, zero];
        for (const many of parts) {
          const now = { needed: decimal(needed), step: decimal(1), drawn: decimal(needed), used };
          used = used.plus(proposedUse(now, { quantity, madeBefore }, decimal(many)));
          madeBefore = madeBefore.plus(many);
          expect(used.isInteger() && used.lte(needed)).toBe(true);
        }
        expect(used.toNumber()).toBe(needed);
      }),
    );
  });
  test('blocks the work as far as it was never taken from a shelf', () => {
    const now = { drawn: decimal(8), used: decimal(5) };
    expect([notTaken(now, decimal(3)).toFixed(), notTaken(now, decimal(4)).toFixed()]).toEqual(['0', '1']);
  });
});

describe('what an output takes of what is in progress', () => {
  const parts = (outputs: [made: number, weight: number][], made: number, still: number, ends = false) =>
    outputParts(
      outputs.map(([many, weight]) => ({ made: decimal(many), weight: decimal(weight) })),
      { made: decimal(made), still: decimal(still) },
      ends,
    ).map(({ part, whole }) => shareOf(decimal('100.00'), part, whole).toFixed(2));
  test('is its part of all that is made and still to be made; the last takes the rest', () => {
    expect(parts([[2, 1]], 2, 3)).toEqual(['40.00']);
    expect(parts([[2, 1]], 2, 3, true)).toEqual(['100.00']);
    expect(parts([[2, 1]], 2, 0)).toEqual(['100.00']);
    // More was made than ordered.
    expect(parts([[7, 1]], 7, -2)).toEqual(['100.00']);
  });
  test('of several is spread by their weights; of what came out bad nothing goes to it', () => {
    const sheet: [number, number][] = [
      [2, 60],
      [3, 40],
    ];
    expect(parts(sheet, 2, 2)).toEqual(['30.00', '20.00']);
    expect(
      parts(
        [
          [2, 60],
          [0, 40],
        ],
        2,
        2,
      ),
    ).toEqual(['50.00', '0.00']);
    expect(parts([[0, 1]], 0, 5)).toEqual(['0.00']);
    // Without any weight by quantity.
    expect(
      parts(
        [
          [1, 0],
          [3, 0],
        ],
        1,
        0,
      ),
    ).toEqual(['25.00', '75.00']);
  });
  test('made in any number of records takes all of it in the end', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 9 }), fc.integer({ min: 0, max: 100_000 }), (records, cents) => {
        let left = decimal(cents).div(100);
        let still = records.reduce((all, one) => all + one, 0);
        for (const [index, made] of records.entries()) {
          still -= made;
          const [one] = outputParts(
            [{ made: decimal(made), weight: decimal(1) }],
            { made: decimal(made), still: decimal(still) },
            index === records.length - 1,
          );
          left = left.minus(sum(one ? [shareOf(left, one.part, one.whole)] : []));
          expect(left.gte(0)).toBe(true);
        }
        expect(left.toFixed(2)).toBe('0.00');
      }),
    );
  });
});
