import { useCallback, useEffect, useRef, useState } from 'react';
import { newRequestKey } from '@larder/contract/requestKey';
import { afterChange, emptyTally, type DeskChange, type Tally } from '@larder/core/inbound/tally';
import { problemOf } from '../../kit/problem';
import { useChangeDeskMutation } from './api';
import { unsentOn, type RefusedChange } from './unsent';

/** A change before it has its key. */
type Done = DeskChange extends infer C ? (C extends { key: string } ? Omit<C, 'key'> : never) : never;

interface Kept {
  tally: Tally;
  version: number;
}

const nothingKept: Kept = { tally: emptyTally, version: 0 };
/** Changes sent at once. */
const most = 500;

/**
 * What the person has counted: shown at once, kept on the server a moment later, and on this machine until the server has it.
 * A lost connection loses nothing; the same change sent twice counts once. What the server refuses is set apart with the reason, and holds up nothing behind it.
 */
export function useTally(personId: number | undefined, kept: Kept | undefined, refresh: () => unknown) {
  const unsent = unsentOn(personId ?? 0);
  const [base, setBase] = useState<Kept>(nothingKept);
  const [waiting, setWaiting] = useState<DeskChange[]>([]);
  const [notTaken, setNotTaken] = useState<RefusedChange[]>([]);
  /** Like `base`, at once: scans may come faster than the screen is drawn. */
  const newest = useRef(nothingKept);
  const adopt = useCallback((found: Kept) => {
    if (found.version <= newest.current.version) return;
    newest.current = found;
    setBase(found);
  }, []);
  const [send] = useChangeDeskMutation();
  const sending = useRef(false);
  const look = useCallback(() => {
    if (personId === undefined) return;
    setWaiting(unsentOn(personId).waiting());
    setNotTaken(unsentOn(personId).refused());
  }, [personId]);
  useEffect(look, [look]);
  useEffect(() => {
    if (kept) adopt(kept);
  }, [kept, adopt]);
  const flush = useCallback(async (): Promise<boolean> => {
    const there = unsentOn(personId ?? 0);
    if (there.waiting().length === 0) {
      // Another window of this browser has sent them.
      look();
      refresh();
      return true;
    }
    if (sending.current) return false;
    sending.current = true;
    const done = await sendAll(there, async (changes) => {
      const { data, error } = await send({ body: { changes } });
      if (data) {
        // What the server has now waits no more, in the same turn: or it would be shown twice until the next answer.
        there.sent(changes);
        adopt(data);
        look();
      }
      return error ? problemOf(error) : null;
    });
    sending.current = false;
    look();
    return done;
  }, [personId, send, adopt, refresh, look]);
  useEffect(() => {
    if (waiting.length === 0) return;
    const soon = setTimeout(() => void flush(), 200);
    const again = setInterval(() => void flush(), 3000);
    return () => {
      clearTimeout(soon);
      clearInterval(again);
    };
  }, [waiting, flush]);
  const change = (done: Done): string => {
    const key = newRequestKey();
    unsent.add({ ...done, key } as DeskChange);
    look();
    return key;
  };
  /** Waits until the server has everything; false when it cannot be reached. */
  const handIn = async (): Promise<boolean> => {
    for (let tries = 0; tries < 20; tries += 1) {
      if (unsent.waiting().length === 0 || (await flush())) return true;
      if (!sending.current) return false;
      await new Promise((later) => setTimeout(later, 100));
    }
    return false;
  };
  return {
    tally: waiting.reduce(afterChange, base.tally),
    /** What is counted this very moment, ahead of what is drawn. */
    now: () => unsent.waiting().reduce(afterChange, newest.current.tally),
    unsent: waiting.length,
    /** What the server refused. */
    notTaken,
    /** Forgets it. */
    drop: (key: string) => {
      unsent.drop(key);
      look();
    },
    change,
    handIn,
  };
}

/** Sends what waits, oldest first, as long as answers come; of changes sent together of which one is refused, one by one. Answers whether nothing waits any more. */
async function sendAll(unsent: ReturnType<typeof unsentOn>, send: (changes: DeskChange[]) => Promise<ReturnType<typeof problemOf>>): Promise<boolean> {
  let many = most;
  for (let changes = unsent.waiting().slice(0, many); changes.length > 0; changes = unsent.waiting().slice(0, many)) {
    const problem = await send(changes);
    if (problem === null) unsent.sent(changes);
    else if (problem.status < 400 || [401, 408, 429].includes(problem.status) || problem.status >= 500) return false;
    else if (changes.length > 1) many = 1;
    else {
      unsent.refuse(changes[0] as DeskChange, problem.errors[0]?.sentence ?? problem.title);
      many = most;
    }
  }
  return true;
}
