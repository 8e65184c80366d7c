import { useCallback, useEffect, useRef, useState } from 'react';
import { newRequestKey } from '@larder/contract/requestKey';
import { afterChange, emptyTally, type DeskChange, type Tally } from '@larder/core/inbound/tally';
import { useChangeDeskMutation } from './api';

/** A change before it has its key. */
type Done = DeskChange extends infer C ? (C extends { key: string } ? Omit<C, 'key'> : never) : never;

interface Kept {
  tally: Tally;
  version: number;
}

const nothingKept: Kept = { tally: emptyTally, version: 0 };
const stored = (place: string): DeskChange[] => JSON.parse(localStorage.getItem(place) ?? '[]') as DeskChange[];

/**
 * What the person has counted: shown at once, kept on the server a moment later, and on this machine until the server has it.
 * A lost connection loses nothing; the same change sent twice counts once.
 */
export function useTally(personId: number | undefined, kept: Kept | undefined, refresh: () => unknown) {
  const place = `desk-unsent-${personId ?? 0}`;
  const [base, setBase] = useState<Kept>(nothingKept);
  const [unsent, setUnsent] = useState<DeskChange[]>([]);
  /** Like `base`, at once: scans may come faster than the screen is drawn. */
  const newest = useRef(nothingKept);
  const adopt = useCallback((found: Kept) => {
    if (found.version <= newest.current.version) return;
    newest.current = found;
    setBase(found);
  }, []);
  const [send] = useChangeDeskMutation();
  const sending = useRef(false);
  useEffect(() => {
    if (personId !== undefined) setUnsent(stored(place));
  }, [personId, place]);
  useEffect(() => {
    if (kept) adopt(kept);
  }, [kept, adopt]);
  const flush = useCallback(async (): Promise<boolean> => {
    const waiting = stored(place);
    if (waiting.length === 0) {
      // Another window of this browser has sent them.
      setUnsent([]);
      refresh();
      return true;
    }
    if (sending.current) return false;
    sending.current = true;
    const { data } = await send({ body: { changes: waiting.slice(0, 500) } });
    sending.current = false;
    if (!data) return false;
    const sent = new Set(waiting.slice(0, 500).map(({ key }) => key));
    const left = stored(place).filter(({ key }) => !sent.has(key));
    localStorage.setItem(place, JSON.stringify(left));
    adopt(data);
    setUnsent(left);
    return left.length === 0;
  }, [place, send, adopt, refresh]);
  useEffect(() => {
    if (unsent.length === 0) return;
    const soon = setTimeout(() => void flush(), 200);
    const again = setInterval(() => void flush(), 3000);
    return () => {
      clearTimeout(soon);
      clearInterval(again);
    };
  }, [unsent, flush]);
  const change = (done: Done): string => {
    const key = newRequestKey();
    const next = [...stored(place), { ...done, key } as DeskChange];
    localStorage.setItem(place, JSON.stringify(next));
    setUnsent(next);
    return key;
  };
  /** Waits until the server has everything; false when it cannot be reached. */
  const settle = async (): Promise<boolean> => {
    for (let tries = 0; tries < 20; tries += 1) {
      if (stored(place).length === 0 || (await flush())) return true;
      if (!sending.current) return false;
      await new Promise((later) => setTimeout(later, 100));
    }
    return false;
  };
  return {
    tally: unsent.reduce(afterChange, base.tally),
    /** What is counted this very moment, ahead of what is drawn. */
    now: () => stored(place).reduce(afterChange, newest.current.tally),
    unsent: unsent.length,
    change,
    settle,
  };
}
