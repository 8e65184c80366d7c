import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal } from '../decimal';
import { choosesItems, classesOf, countStages, countState, dueBefore, recountOf, type CountedLine, type CountPlan, type RecountLimits } from './counting';

describe('classes by the value of what is used', () => {
  const classes = (used: number[]) => [...classesOf(used.map((value, id) => ({ id, used: decimal(value) }))).values()].join('');

  test('the highest first: A until 80 %, B until 95 %, C the rest; what takes it over the line is still of the better class', () => {
    // Shares 50, 30, 15, 5: before them come 0, 50, 80 and 95 %.
    expect(classes([50, 30, 15, 5])).toBe('AABC');
    expect(Object.fromEntries(classesOf([79, 2, 13, 6].map((value, id) => ({ id, used: decimal(value) }))))).toEqual({ 0: 'A', 2: 'A', 3: 'B', 1: 'C' });
  });

  test('what is not used is C, also where nothing is', () => {
    expect(classes([0, 0])).toBe('CC');
    expect(classes([10, 0])).toBe('AC');
    expect(classes([])).toBe('');
  });

  test('nothing of a better class was used less than something of a worse', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 1000 }), { maxLength: 30 }), (used) => {
        const found = classesOf(used.map((value, id) => ({ id, used: decimal(value) })));
        expect(found.size).toBe(used.length);
        for (const [one, better] of found)
          for (const [other, worse] of found) if (better < worse) expect(used[one]).toBeGreaterThanOrEqual(used[other] as number);
      }),
    );
  });
});

describe('counted again', () => {
  const line = (
    part: Partial<Record<'counted' | 'expected' | 'unitCost', number>> & Partial<Pick<CountedLine, 'rounds' | 'moved' | 'late'>> = {},
  ): CountedLine => ({
    rounds: part.rounds ?? 1,
    moved: part.moved ?? false,
    late: part.late ?? false,
    counted: decimal(part.counted ?? 100),
    expected: decimal(part.expected ?? 100),
    unitCost: decimal(part.unitCost ?? 1),
  });
  const limits = (share: number | null, value: number | null): RecountLimits => ({
    share: share === null ? null : decimal(share),
    value: value === null ? null : decimal(value),
  });

  test.each<[string, CountedLine, RecountLimits, string | null]>([
    ['what agrees', line(), limits(0, 0), null],
    ['a difference of just the share', line({ counted: 95 }), limits(5, null), null],
    ['one above it', line({ counted: 94 }), limits(5, null), 'differs'],
    ['more than there should be, too', line({ counted: 106 }), limits(5, null), 'differs'],
    ['anything where nothing should be', line({ counted: 1, expected: 0 }), limits(5, null), 'differs'],
    ['just the value', line({ counted: 94, unitCost: 10 }), limits(null, 60), null],
    ['above the value', line({ counted: 93, unitCost: 10 }), limits(null, 60), 'differs'],
    ['any, where no limit is set', line({ counted: 1 }), limits(null, null), null],
    ['counted twice it is believed', line({ counted: 1, rounds: 2 }), limits(5, 1), null],
    ['what moved while it was scanned, however often', line({ moved: true, rounds: 3 }), limits(null, null), 'moved'],
    ['what was sent late', line({ late: true }), limits(null, null), 'late'],
  ])('%s', (_, counted, given, why) => expect(recountOf(counted, given)).toBe(why));
});

test.each<[string, Parameters<typeof countState>[0]]>([
  ['planned', { bins: 2, begun: 0, done: 0, settled: 0, closed: false }],
  ['counting', { bins: 2, begun: 1, done: 0, settled: 0, closed: false }],
  ['counting', { bins: 2, begun: 2, done: 1, settled: 1, closed: false }],
  ['review', { bins: 2, begun: 2, done: 2, settled: 1, closed: false }],
  ['posted', { bins: 2, begun: 2, done: 1, settled: 1, closed: true }],
  ['discarded', { bins: 2, begun: 2, done: 2, settled: 0, closed: true }],
])('it is %s', (state, progress) => expect(countState(progress)).toBe(state));

test('its stages are bins counted and lines settled', () =>
  expect(countStages({ bins: 3, done: 2, lines: 7, settled: 4 })).toEqual([
    { name: 'Counted', done: '2', of: '3' },
    { name: 'Settled', done: '4', of: '7' },
  ]));

test('due is what was last counted before so many days ago; where nobody said how many, nothing is', () => {
  expect(dueBefore('2026-03-10', 30)).toBe('2026-02-08');
  expect(dueBefore('2026-03-10', null)).toBeNull();
});

test('a plan that names no items counts all that lies in its bins', () => {
  const bare: CountPlan = {
    zone: 'Cold',
    binIds: [1],
    categoryId: null,
    itemIds: [],
    classes: [],
    notSince: null,
    differedSince: null,
    doubted: false,
    due: false,
  };
  expect(choosesItems(bare)).toBe(false);
  for (const part of [{ categoryId: 1 }, { itemIds: [1] }, { classes: ['A' as const] }, { notSince: '2026-01-01' }, { doubted: true }, { due: true }])
    expect(choosesItems({ ...bare, ...part })).toBe(true);
});
