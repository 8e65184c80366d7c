/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import { nouns, type Noun } from '@larder/contract/nouns';
import { tabId } from './ask';
import { hear } from './live';

/** A stream as a browser keeps it: opened, told something, cut. */
class StandInSource extends EventTarget {
  static readonly CLOSED = 2;
  static opened: StandInSource[] = [];
  readyState = 1;
  constructor(readonly address: string) {
    super();
    StandInSource.opened.push(this);
  }
  close() {
    this.readyState = StandInSource.CLOSED;
  }
  tell(changed: readonly Noun[] | null, from: string | null = 'another') {
    this.dispatchEvent(new MessageEvent('news', { data: JSON.stringify([{ nouns: changed, from }]) }));
  }
}
const source = () => StandInSource.opened.at(-1) as StandInSource;
let read: (readonly Noun[])[];
let end: () => void;
let hidden = false;
const look = (isHidden: boolean) => {
  hidden = isHidden;
  document.dispatchEvent(new Event('visibilitychange'));
};
beforeEach(() => {
  jest.useFakeTimers();
  StandInSource.opened = [];
  [read, hidden] = [[], false];
  Object.defineProperty(document, 'hidden', { configurable: true, get: () => hidden });
  Object.assign(globalThis, {
    EventSource: StandInSource,
    BroadcastChannel: class {
      onmessage = null;
      postMessage() {
        // There is no other tab.
      }
      close() {
        // Nothing is kept.
      }
    },
  });
  end = hear((changed) => void read.push(changed));
});
afterEach(() => {
  end();
  jest.useRealTimers();
});

test('what others change is read again at once, and what follows closely together, a moment later', () => {
  // Nothing is missed between what was read first and the stream.
  expect(source().address).toMatch(/^\/api\/live\?ago=1\d{3}$/);
  source().tell(['stock', 'sale']);
  expect(read).toEqual([['stock', 'sale']]);
  source().tell(['stock']);
  source().tell(['item', 'stock']);
  expect(read).toHaveLength(1);
  jest.advanceTimersByTime(1000);
  expect(read).toEqual([
    ['stock', 'sale'],
    ['stock', 'item'],
  ]);
});

test('what this tab changed itself it has read already', () => {
  source().tell(['stock'], tabId);
  jest.advanceTimersByTime(5000);
  expect(read).toEqual([]);
});

test('while nobody looks nothing is read; once somebody does, all that was told', () => {
  look(true);
  source().tell(['stock']);
  source().tell(['bill']);
  jest.advanceTimersByTime(5000);
  expect(read).toEqual([]);
  look(false);
  expect(read).toEqual([['stock', 'bill']]);
});

test('after a stream was cut everything is read again; refused, it is tried again later', () => {
  source().dispatchEvent(new Event('open'));
  expect(read).toEqual([]);
  source().dispatchEvent(new Event('error'));
  source().dispatchEvent(new Event('open'));
  expect(read).toEqual([nouns]);
  source().close();
  source().dispatchEvent(new Event('error'));
  expect(StandInSource.opened).toHaveLength(1);
  jest.advanceTimersByTime(31_000);
  expect(StandInSource.opened).toHaveLength(2);
});

test('ended, it hears nothing more', () => {
  end();
  expect(source().readyState).toBe(StandInSource.CLOSED);
  source().tell(['stock']);
  expect(read).toEqual([]);
});
