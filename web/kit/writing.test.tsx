/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { act, renderHook } from '@testing-library/react';
import { useWriting } from './writing';

interface Form {
  day: string;
  note: string;
  lines: { item: string; quantity: string }[];
}
const first: Form = { day: '2026-12-01', note: '', lines: [{ item: 'VASE', quantity: '3' }] };
const began = () =>
  renderHook(({ came, version }: { came: Form; version: number }) => useWriting(came, version, { lines: ({ item }) => item }), {
    initialProps: { came: first, version: 1 },
  });

test('what is typed stays when another version comes in, and what only others changed is taken over', () => {
  const { result, rerender } = began();
  act(() => result.current.put({ note: 'by the ramp' }));
  rerender({ came: { ...first, day: '2026-12-04', lines: [...first.lines, { item: 'BOWL', quantity: '1' }] }, version: 2 });
  expect(result.current.form).toEqual({
    day: '2026-12-04',
    note: 'by the ramp',
    lines: [
      { item: 'VASE', quantity: '3' },
      { item: 'BOWL', quantity: '1' },
    ],
  });
  expect(result.current.clashes).toEqual([]);
  expect(result.current.isTyped).toBe(true);
});

test('the same version coming in again changes nothing', () => {
  const { result, rerender } = began();
  act(() => result.current.put({ note: 'mine' }));
  rerender({ came: { ...first, note: 'something else' }, version: 1 });
  expect(result.current.form.note).toBe('mine');
});

test('where both changed the same, mine stands until theirs is taken; a clash left alone outlives the next version', () => {
  const { result, rerender } = began();
  act(() => result.current.put({ day: '2026-12-02', note: 'mine' }));
  rerender({ came: { ...first, day: '2026-12-04', note: 'theirs' }, version: 2 });
  expect(result.current.form).toMatchObject({ day: '2026-12-02', note: 'mine' });
  expect(result.current.clashes).toHaveLength(2);
  rerender({ came: { ...first, day: '2026-12-04', note: 'theirs', lines: [] }, version: 3 });
  expect(result.current.clashes.map(({ field }) => field)).toEqual(['day', 'note']);
  act(() => result.current.decide(result.current.clashes[0] as never, true));
  expect(result.current.form).toMatchObject({ day: '2026-12-04', note: 'mine' });
  act(() => result.current.decide(result.current.clashes[0] as never, false));
  expect(result.current.form.note).toBe('mine');
  expect(result.current.clashes).toEqual([]);
});

test('typing on in a field that clashed is keeping mine', () => {
  const { result, rerender } = began();
  act(() => result.current.put({ day: '2026-12-02' }));
  rerender({ came: { ...first, day: '2026-12-04' }, version: 2 });
  act(() => result.current.put({ day: '2026-12-03' }));
  expect(result.current.clashes).toEqual([]);
});

test('what was saved comes back as the server writes it, and what was typed meanwhile stays', () => {
  const { result, rerender } = began();
  act(() => result.current.put({ lines: [{ item: 'VASE', quantity: '05' }], day: '2026-12-02' }));
  const sent = result.current.form;
  act(() => result.current.put({ note: 'typed while it was sent' }));
  act(() => result.current.kept(sent, 2));
  rerender({ came: { day: '2026-12-02', note: '', lines: [{ item: 'VASE', quantity: '5' }] }, version: 2 });
  expect(result.current.form).toEqual({ day: '2026-12-02', note: 'typed while it was sent', lines: [{ item: 'VASE', quantity: '5' }] });
  expect(result.current.clashes).toEqual([]);
  expect(result.current.isSaved).toBe(false);
});

test('it says that it is saved as long as nothing is typed after it', () => {
  const { result, rerender } = began();
  act(() => result.current.put({ note: 'mine' }));
  act(() => result.current.kept(result.current.form, 2));
  rerender({ came: { ...first, note: 'mine' }, version: 2 });
  expect(result.current.isSaved).toBe(true);
  act(() => result.current.put({ note: 'more' }));
  expect(result.current.isSaved).toBe(false);
});
