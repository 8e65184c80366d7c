/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { act, render, renderHook, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useGoing, type Going } from './going';
import { Onward } from './Onward';

let seen: ((entries: { isIntersecting: boolean }[]) => void) | null = null;
const native = globalThis.IntersectionObserver;
beforeEach(() => {
  globalThis.IntersectionObserver = class {
    constructor(tell: (entries: { isIntersecting: boolean }[]) => void) {
      seen = tell;
    }
    observe = () => undefined;
    disconnect = () => undefined;
  } as unknown as typeof IntersectionObserver;
});
afterEach(() => {
  globalThis.IntersectionObserver = native;
  seen = null;
});

const list = (part: Partial<Going<number>>): Going<number> => ({
  rows: [1, 2],
  error: undefined,
  isAsking: false,
  hasMore: true,
  more: () => undefined,
  ...part,
});

test('the rows that follow are asked for when the end comes into sight, or is pressed', async () => {
  let asked = 0;
  render(<Onward list={list({ more: () => (asked += 1) })} />);
  act(() => seen?.([{ isIntersecting: false }]));
  expect(asked).toBe(0);
  act(() => seen?.([{ isIntersecting: true }]));
  expect(asked).toBe(1);
  await userEvent.setup().click(screen.getByRole('button', { name: 'Show more' }));
  expect(asked).toBe(2);
});

test('at the end of the list there is nothing to press, and while rows are on their way it waits', () => {
  const { rerender } = render(<Onward list={list({ isAsking: true })} />);
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Show more' }).disabled).toBe(true);
  rerender(<Onward list={list({ hasMore: false })} />);
  expect(screen.queryByRole('button')).toBeNull();
});

test('pages are one list, which stays the same while nothing of it changed; no page is asked for twice', () => {
  let asked = 0;
  const pages = [{ rows: ['a', 'b'] }, { rows: ['c'] }];
  const answer = (part: Partial<Parameters<typeof useGoing<string>>[0]>) => ({
    data: { pages },
    hasNextPage: true,
    isFetching: false,
    fetchNextPage: () => (asked += 1),
    ...part,
  });
  const { result, rerender } = renderHook((props: Parameters<typeof useGoing<string>>[0]) => useGoing(props), {
    initialProps: answer({}) as Parameters<typeof useGoing<string>>[0],
  });
  expect(result.current).toMatchObject({ rows: ['a', 'b', 'c'], hasMore: true, isAsking: false });
  result.current.more();
  expect(asked).toBe(1);
  rerender(answer({ isFetching: true }));
  result.current.more();
  rerender(answer({ hasNextPage: false }));
  result.current.more();
  expect(asked).toBe(1);
  rerender({ hasNextPage: false, isFetching: true, fetchNextPage: () => undefined });
  expect(result.current.rows).toBeUndefined();
});
