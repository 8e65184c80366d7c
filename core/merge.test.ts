import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { merged } from './merge';

interface Line {
  item: string;
  quantity: string;
}
interface Order {
  day: string;
  note: string;
  lines: Line[];
}
const rowKeys = { lines: (line: Line) => line.item };
const base: Order = {
  day: '2026-12-01',
  note: '',
  lines: [
    { item: 'VASE', quantity: '3' },
    { item: 'BOWL', quantity: '1' },
  ],
};
const at = (item: string, quantity: string): Line => ({ item, quantity });

test('what only one of two changed is taken from whoever changed it', () => {
  const { form, clashes } = merged(base, { ...base, note: 'by the ramp' }, { ...base, day: '2026-12-04' }, rowKeys);
  expect(form).toEqual({ ...base, note: 'by the ramp', day: '2026-12-04' });
  expect(clashes).toEqual([]);
});

test('where both changed the same, mine stands and theirs can be taken', () => {
  const { form, clashes } = merged(base, { ...base, day: '2026-12-02' }, { ...base, day: '2026-12-04' }, rowKeys);
  expect(form.day).toBe('2026-12-02');
  expect(clashes).toEqual([{ field: 'day', theirs: '2026-12-04' }]);
});

test('lists are taken together row by row: each changed another row, each added one, one took one away', () => {
  const mine = { ...base, lines: [at('VASE', '5'), at('BOWL', '1'), at('CUP', '2')] };
  const theirs = { ...base, lines: [at('VASE', '3'), at('DISH', '9')] };
  const { form, clashes } = merged(base, mine, theirs, rowKeys);
  expect(form.lines).toEqual([at('VASE', '5'), at('DISH', '9'), at('CUP', '2')]);
  expect(clashes).toEqual([]);
});

test('a row that both changed, or that one changed and the other took away, is mine until theirs is taken', () => {
  const mine = { ...base, lines: [at('VASE', '5')] };
  const theirs = { ...base, lines: [at('VASE', '4'), at('BOWL', '7')] };
  const { form, clashes } = merged(base, mine, theirs, rowKeys);
  expect(form.lines).toEqual([at('VASE', '5')]);
  expect(clashes).toEqual([{ field: 'lines', theirs: [at('VASE', '4'), at('BOWL', '7')] }]);
});

test('two rows of the same item are two rows', () => {
  const twice = { ...base, lines: [at('VASE', '1'), at('VASE', '2')] };
  const { form, clashes } = merged(
    twice,
    { ...twice, lines: [at('VASE', '1'), at('VASE', '8')] },
    { ...twice, lines: [at('VASE', '6'), at('VASE', '2')] },
    rowKeys,
  );
  expect(form.lines).toEqual([at('VASE', '6'), at('VASE', '8')]);
  expect(clashes).toEqual([]);
});

test('rows that are drawn and not in the form yet are theirs, and are no rows of mine', () => {
  const drawn = [undefined, { item: undefined, quantity: undefined }, { quantity: undefined }] as unknown as Line[];
  const theirs = { ...base, lines: [at('VASE', '6'), at('BOWL', '1'), at('JUG', '2')] };
  expect(merged({ ...base, lines: [] }, { ...base, lines: drawn }, theirs, rowKeys)).toEqual({ form: theirs, clashes: [] });
});

test('what nobody types of a row is always as it came, and is nothing that two could have changed differently', () => {
  const apart = { rows: { key: ({ part }: { part: string }) => part, typed: ['used'] as const } };
  const was = {
    rows: [
      { part: 'BOARD', taken: '2', used: '' },
      { part: 'SCREW', taken: '8', used: '' },
    ],
  };
  const mine = {
    rows: [
      { part: 'BOARD', taken: '2', used: '3' },
      { part: 'SCREW', taken: '8', used: '' },
    ],
  };
  const theirs = {
    rows: [
      { part: 'BOARD', taken: '3', used: '' },
      { part: 'SCREW', taken: '9', used: '' },
    ],
  };
  const { form, clashes } = merged(was, mine, theirs, apart);
  expect(form.rows).toEqual([
    { part: 'BOARD', taken: '3', used: '3' },
    { part: 'SCREW', taken: '9', used: '' },
  ]);
  expect(clashes).toEqual([]);
  const differs = merged(was, mine, { rows: [{ part: 'BOARD', taken: '3', used: '1' }] }, apart);
  expect(differs.form.rows).toEqual([{ part: 'BOARD', taken: '3', used: '3' }]);
  expect(differs.clashes).toEqual([{ field: 'rows', theirs: [{ part: 'BOARD', taken: '3', used: '1' }] }]);
  // A bin that is proposed only once bins are known goes beside a quantity that was typed before.
  const later = { rows: { key: ({ part }: { part: string }) => part, typed: ['many', 'bin'] as const } };
  const row = (many: string, bin: number | null) => ({ rows: [{ part: 'BOARD', many, bin }] });
  expect(merged(row('', null), row('3', null), row('', 7), later)).toEqual({ form: row('3', 7), clashes: [] });
});

/** Like what comes from the server: with the usual prototype. */
const plain = { noNullPrototype: true };
const line = fc.record({ item: fc.constantFrom('A', 'B', 'C', 'D'), quantity: fc.constantFrom('1', '2') }, plain);
const lines = fc.uniqueArray(line, { selector: rowKeys.lines });
const order = fc.record({ day: fc.constantFrom('1', '2', '3'), note: fc.constantFrom('', 'a', 'b'), lines }, plain);
const sorted = (lines: readonly Line[]) => [...lines].sort((a, b) => a.item.localeCompare(b.item));

test('for any three: who changed nothing loses nothing, both who changed the same agree, and every difference is either in it or listed', () => {
  fc.assert(
    fc.property(order, order, order, (was, mine, theirs) => {
      expect(merged(was, was, theirs, rowKeys)).toEqual({ form: theirs, clashes: [] });
      const kept = merged(was, mine, was, rowKeys);
      expect({ ...kept.form, lines: sorted(kept.form.lines) }).toEqual({ ...mine, lines: sorted(mine.lines) });
      expect(kept.clashes).toEqual([]);
      expect(merged(was, mine, mine, rowKeys)).toEqual({ form: mine, clashes: [] });
      const both = merged(was, mine, theirs, rowKeys);
      for (const field of ['day', 'note'] as const)
        if (mine[field] !== was[field]) expect(both.form[field]).toBe(mine[field]);
        else expect(both.form[field]).toBe(theirs[field]);
      for (const field of ['day', 'note'] as const)
        expect(both.clashes.some((clash) => clash.field === field)).toBe(new Set([was[field], mine[field], theirs[field]]).size === 3);
    }),
  );
});
