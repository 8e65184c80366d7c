import { signal } from './signal';
import { createContext, use, useLayoutEffect, useMemo, useRef, type ReactNode } from 'react';

/** What a page makes of a code: it is not meant for it, it is taken, or it is meant for it and means nothing there. */
export type Heard = boolean | 'refused';
/** Takes a scanned or typed code; who has to ask first what it means tells later. */
export type TakeScan = (code: string) => Heard | Promise<Heard>;

interface Scans {
  /** The page in front says what a scan means there. */
  listen: (take: TakeScan) => () => void;
  /** Gives a code to the page in front; false when nobody there wants it. */
  offer: (code: string) => boolean;
  /** Who opens what no page wants. */
  open: { current: ((code: string) => void) | null };
}

const ScanContext = createContext<Scans>({ listen: () => () => undefined, offer: () => false, open: { current: null } });
export const useScans = () => use(ScanContext);

/** Scanners type faster than anybody: keys at most this many milliseconds apart. */
const burstGap = 50;
const shortestCode = 4;

/** Tells a scanner's burst of keys ending in Enter from typing, wherever the focus is, and takes it out of the field it ran into. */
export function ScanProvider({ children }: { children: ReactNode }) {
  const listeners = useRef<TakeScan[]>([]);
  const open = useRef<((code: string) => void) | null>(null);
  const scans = useMemo<Scans>(
    () => ({
      listen: (take) => {
        listeners.current = [take, ...listeners.current];
        return () => {
          listeners.current = listeners.current.filter((one) => one !== take);
        };
      },
      offer: (code) => listeners.current.some((take) => isMeant(take(code))),
      open,
    }),
    [],
  );
  useBurst((code) => {
    if (!scans.offer(code)) open.current?.(code);
  });
  return <ScanContext value={scans}>{children}</ScanContext>;
}

/** Whether a code was meant for the page; what became of it is heard and felt on the floor, where nobody looks. */
function isMeant(heard: Heard | Promise<Heard>): boolean {
  if (heard === false) return false;
  void Promise.resolve(heard).then((outcome) => signal(outcome === true));
  return true;
}

function useBurst(scanned: (code: string) => void): void {
  const latest = useRef(scanned);
  useLayoutEffect(() => {
    latest.current = scanned;
  });
  useLayoutEffect(() => {
    let keys = '';
    let last = 0;
    let before: { field: Typed; value: string } | null = null;
    const press = (event: KeyboardEvent) => {
      const field = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement ? event.target : null;
      if (event.ctrlKey || event.altKey || event.metaKey) return;
      // A field of lines takes scans one after the other, as they come.
      if (field?.dataset.lines) return;
      const gap = event.timeStamp - last;
      last = event.timeStamp;
      if (event.key === 'Enter') {
        const isScan = keys.length >= shortestCode && gap <= burstGap && !field?.dataset.scanbar;
        const code = keys;
        keys = '';
        if (!isScan) return;
        event.preventDefault();
        event.stopPropagation();
        if (before) restore(before.field, before.value);
        latest.current(code);
        return;
      }
      if (event.key.length !== 1) return;
      // Right after an Enter another begins, however soon.
      if (gap > burstGap || keys === '') {
        keys = '';
        before = field ? { field, value: field.value } : null;
      }
      keys += event.key;
    };
    window.addEventListener('keydown', press, true);
    return () => window.removeEventListener('keydown', press, true);
  }, []);
}

type Typed = HTMLInputElement | HTMLTextAreaElement;

/** Puts a controlled field back to what it held before a scan ran into it. */
function restore(field: Typed, value: string): void {
  Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field), 'value')?.set?.call(field, value);
  field.dispatchEvent(new Event('input', { bubbles: true }));
}

/** Says what a scan means on this page. */
export function useScan(take: TakeScan): void {
  const { listen } = useScans();
  const latest = useRef(take);
  useLayoutEffect(() => {
    latest.current = take;
  });
  useLayoutEffect(() => listen((code) => latest.current(code)), [listen]);
}
