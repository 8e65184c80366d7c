import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { asMade, idOf, isShown, movable, moved, ordered, toggled, type ColumnLayout } from './columnLayout';

const columns = ['', 'Item', 'On hand', 'Reserved', 'Free', 'Value'].map((name) => ({ name }));
const stand = (layout: ColumnLayout, of = columns) => ordered(of, layout).map(({ name }) => name);
const inOrder = (...order: string[]): ColumnLayout => ({ ...asMade, order });

describe('columns as somebody laid them out', () => {
  test('stand as they are given until they are moved', () => {
    expect(stand(asMade)).toEqual(['', 'Item', 'On hand', 'Reserved', 'Free', 'Value']);
    expect(movable(columns).map(({ name }) => name)).toEqual(['On hand', 'Reserved', 'Free', 'Value']);
  });
  test('the sign and the one a row is known by stay in front', () => {
    expect(stand(inOrder('Value', 'Free', 'Reserved', 'On hand'))).toEqual(['', 'Item', 'Value', 'Free', 'Reserved', 'On hand']);
    expect(stand(inOrder('Item', 'Value', 'On hand', 'Reserved', 'Free')).slice(0, 3)).toEqual(['', 'Item', 'Value']);
  });
  test('where rows are chosen in front, they are still known by their code: neither goes', () => {
    const items = [{ name: 'Chosen' }, { name: '' }, { name: 'SKU', text: () => '' }, { name: 'Name' }, { name: 'Free' }];
    expect(movable(items).map(({ name }) => name)).toEqual(['Name', 'Free']);
    expect(ordered(items, inOrder('Free', 'SKU', 'Name', 'Chosen')).map(({ name }) => name)).toEqual(['Chosen', '', 'SKU', 'Free', 'Name']);
  });
  test('one that came later stands where it would without; one that went is forgotten', () => {
    const more = [...columns.slice(0, 4), { name: 'In transit' }, ...columns.slice(4)];
    expect(stand(inOrder('Value', 'On hand', 'Reserved', 'Free'), more)).toEqual(['', 'Item', 'Value', 'On hand', 'In transit', 'Reserved', 'Free']);
    expect(stand(inOrder('Gone', 'Free', 'On hand', 'Reserved', 'Value'))).toEqual(['', 'Item', 'Free', 'On hand', 'Reserved', 'Value']);
  });
  test('a column is moved by places, and no further than there are', () => {
    expect(moved(columns, asMade, 'Free', -1).order).toEqual(['On hand', 'Free', 'Reserved', 'Value']);
    expect(moved(columns, asMade, 'Free', -9).order).toEqual(['Free', 'On hand', 'Reserved', 'Value']);
    expect(moved(columns, asMade, 'On hand', 9).order).toEqual(['Reserved', 'Free', 'Value', 'On hand']);
    expect(moved(columns, { ...asMade, hidden: ['Value'] }, 'Free', 1)).toEqual({
      hidden: ['Value'],
      shown: [],
      order: ['On hand', 'Reserved', 'Value', 'Free'],
      widths: {},
    });
  });
  test('one that is left out at first is shown once it is asked for, and others until they are hidden', () => {
    const rare = { name: 'Quarantine', apart: true };
    expect([isShown(rare, asMade), isShown({ name: 'Free' }, asMade)]).toEqual([false, true]);
    const asked = toggled(rare, toggled({ name: 'Free' }, asMade));
    expect(asked).toEqual({ ...asMade, hidden: ['Free'], shown: ['Quarantine'] });
    expect([isShown(rare, asked), isShown({ name: 'Free' }, asked)]).toEqual([true, false]);
    expect(toggled({ name: 'Free' }, toggled(rare, asked))).toEqual(asMade);
  });
  test('however it was moved about: every column is there once, and the front stays the front', () => {
    const steps = fc.array(fc.tuple(fc.constantFrom(...movable(columns).map(({ name }) => name)), fc.integer({ min: -3, max: 3 })), { maxLength: 12 });
    fc.assert(
      fc.property(steps, (moves) => {
        const layout = moves.reduce<ColumnLayout>((now, [name, by]) => moved(columns, now, name, by), asMade);
        const line = ordered(columns, layout);
        expect(line.slice(0, 2)).toEqual(columns.slice(0, 2));
        expect(line.map(idOf).sort()).toEqual(columns.map(idOf).sort());
      }),
    );
  });
});
