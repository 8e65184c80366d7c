/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import { act, renderHook } from '@testing-library/react';
import { useDelayed, useIsRested, useStanding } from './delayed';

beforeEach(() => void jest.useFakeTimers());
afterEach(() => void jest.useRealTimers());
const pass = (ms: number) => act(() => void jest.advanceTimersByTime(ms));

test('a value follows once it has stayed the same for long enough, and not in between', () => {
  const { result, rerender } = renderHook(({ words }) => useDelayed(words, 100), { initialProps: { words: 'v' } });
  rerender({ words: 'va' });
  pass(60);
  rerender({ words: 'vas' });
  pass(60);
  expect(result.current).toBe('v');
  pass(60);
  expect(result.current).toBe('vas');
});

test('an answer stands until the next one is there', () => {
  const { result, rerender } = renderHook(({ said, isAsking }: { said: string | null; isAsking: boolean }) => useStanding(said, isAsking), {
    initialProps: { said: 'no' as string | null, isAsking: false },
  });
  rerender({ said: null, isAsking: true });
  expect(result.current).toBe('no');
  rerender({ said: null, isAsking: false });
  expect(result.current).toBe(null);
});

test('the same again, made anew, is no other value', () => {
  const { result, rerender } = renderHook(({ body }) => useDelayed(body, 100), { initialProps: { body: { lines: [1] } } });
  const first = result.current;
  rerender({ body: { lines: [1] } });
  pass(60);
  rerender({ body: { lines: [1] } });
  pass(60);
  expect(result.current).toEqual({ lines: [1] });
  expect(first).toEqual(result.current);
});

test('what is asked first has rested; another question rests after a while, and what was asked before at once again', () => {
  const { result, rerender } = renderHook(({ q }) => useIsRested({ q }, 300), { initialProps: { q: '' } });
  expect(result.current).toBe(true);
  rerender({ q: 'jar' });
  expect(result.current).toBe(false);
  pass(200);
  expect(result.current).toBe(false);
  rerender({ q: '' });
  expect(result.current).toBe(true);
  rerender({ q: 'jar' });
  pass(310);
  expect(result.current).toBe(true);
});
