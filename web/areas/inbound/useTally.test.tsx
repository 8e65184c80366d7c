/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { beforeEach, expect, test } from '@jest/globals';
import { changeDesk } from '@larder/contract/receiving';
import { afterChange, emptyTally, type DeskChange, type Tally } from '@larder/core/inbound/tally';
import { act, renderHook, waitFor } from '@testing-library/react';
import { around, refused, standInServer } from '../../testing/server';
import { useTally } from './useTally';

/** The desk's counts on a server that keeps them as the real one does, and refuses what stands on `closed` lines. */
function desk(closed: number[] = []) {
  let kept: { tally: Tally; version: number } = { tally: emptyTally, version: 1 };
  const seen = new Set<string>();
  const server = standInServer();
  /** Answers that are on their way, oldest first: while the line is slow, each waits until it is let through. */
  const onTheirWay: (() => void)[] = [];
  let slow = false;
  const inItsTime = <T,>(answer: T): T | Promise<T> => (slow ? new Promise((come) => onTheirWay.push(() => come(answer))) : answer);
  server.on(changeDesk, ({ changes }: { changes: DeskChange[] }) => {
    const bad = changes.find((change) => change.what === 'scan' && change.parts.some(({ lineId }) => closed.includes(lineId)));
    if (bad) return refused(422, 'unfit', 'This order is closed.', 'changes.0');
    for (const change of changes.filter(({ key }) => !seen.has(key))) {
      kept = { tally: afterChange(kept.tally, change), version: kept.version + 1 };
      seen.add(change.key);
    }
    return inItsTime(kept);
  });
  const { Around } = around();
  const hook = renderHook(({ found }: { found?: typeof kept }) => useTally(5, found, () => undefined), { wrapper: Around, initialProps: {} });
  const scan = (lineId: number) =>
    act(() => void hook.result.current.change({ what: 'scan', said: `1 × line ${lineId}`, parts: [{ lineId, binId: null, quantity: '1', lots: [] }] }));
  const on = (lineId: number) => hook.result.current.tally.lines[lineId]?.quantity;
  return {
    server,
    hook,
    scan,
    on,
    keptOn: (lineId: number) => kept.tally.lines[lineId]?.quantity,
    slowDown: () => void (slow = true),
    onTheirWay,
    letThrough: () => act(async () => onTheirWay.shift()?.()),
    /** The desk is read anew, as it is now. */
    readAnew: () => hook.rerender({ found: kept }),
  };
}
beforeEach(() => localStorage.clear());

test('what is scanned shows at once, and is with the server a moment later', async () => {
  const { hook, scan, on, keptOn } = desk();
  scan(1);
  scan(1);
  expect(on(1)).toBe('2');
  await waitFor(() => expect(keptOn(1)).toBe('2'));
  await waitFor(() => expect(hook.result.current.unsent).toBe(0));
  expect(on(1)).toBe('2');
});

test('what the server refuses is told with its reason, can be dropped, and holds up nothing behind it', async () => {
  const { hook, scan, on, keptOn } = desk([2]);
  scan(1);
  scan(2);
  scan(3);
  scan(2);
  await waitFor(() => expect(hook.result.current.unsent).toBe(0));
  expect([keptOn(1), keptOn(2), keptOn(3)]).toEqual(['1', undefined, '1']);
  expect(on(2)).toBeUndefined();
  const { notTaken } = hook.result.current;
  expect(notTaken.map(({ why }) => why)).toEqual(['This order is closed.', 'This order is closed.']);
  act(() => hook.result.current.drop(notTaken[0]?.change.key as string));
  expect(hook.result.current.notTaken).toHaveLength(1);
});

test('without a connection it is counted and kept on this machine, and sent once when the connection is back', async () => {
  const { server, hook, scan, on, keptOn } = desk();
  server.cut();
  scan(1);
  await act(async () => void expect(await hook.result.current.handIn()).toBe(false));
  expect(on(1)).toBe('1');
  expect(JSON.parse(localStorage.getItem('desk-unsent-5') ?? '[]')).toHaveLength(1);
  server.back();
  await act(async () => void expect(await hook.result.current.handIn()).toBe(true));
  expect(keptOn(1)).toBe('1');
  expect(hook.result.current.unsent).toBe(0);
});

test('what one batch brought is shown once while the next is under way', async () => {
  const { scan, on, keptOn, slowDown, onTheirWay, letThrough } = desk();
  slowDown();
  scan(1);
  await waitFor(() => expect(onTheirWay).toHaveLength(1));
  scan(1);
  expect(on(1)).toBe('2');
  await letThrough();
  await waitFor(() => expect(onTheirWay).toHaveLength(1));
  expect(keptOn(1)).toBe('2');
  expect(on(1)).toBe('2');
  await letThrough();
  expect(on(1)).toBe('2');
});

test('the desk read anew before the answer to a batch shows nothing twice', async () => {
  const { hook, scan, on, slowDown, onTheirWay, letThrough, readAnew } = desk();
  slowDown();
  scan(1);
  scan(1);
  await waitFor(() => expect(onTheirWay).toHaveLength(1));
  readAnew();
  expect(hook.result.current.unsent).toBe(2);
  expect(on(1)).toBe('2');
  await letThrough();
  await waitFor(() => expect(hook.result.current.unsent).toBe(0));
  expect(on(1)).toBe('2');
});
