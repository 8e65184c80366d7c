import { useCallback, useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { receive, type ReceiptForm } from '@larder/contract/receiving';
import { newRequestKey } from '@larder/contract/requestKey';
import { afterChange, afterReceipt, emptyTally, type DeskChange, type Tally } from '@larder/core/inbound/tally';
import { problemOf } from '../../kit/problem';
import { useChangeDeskMutation } from './api';
import { sendUnsent, unsentOn, type RefusedChange } from '../../shared/floor/unsent';
import { waiting as kept, waitingOf } from '../../shared/floor/waiting';

/** A change before it has its key. */
type Done = DeskChange extends infer C ? (C extends { key: string } ? Omit<C, 'key'> : never) : never;

interface Kept {
  tally: Tally;
  version: number;
}

const nothingKept: Kept = { tally: emptyTally, version: 0 };
/** Receipts that are kept on this device and not sent yet. */
const receiptsOf = (personId: number | undefined) => waitingOf(personId ?? null).filter(({ endpoint }) => endpoint === `${receive.method} ${receive.path}`);

/** A tally after what this device has done since, in the order it was done: changes, and receipts that wait. */
function tallyAfter(tally: Tally, changes: readonly DeskChange[], receipts: ReturnType<typeof receiptsOf>): Tally {
  const steps = [
    ...changes.map((change) => ({ key: change.key, do: (now: Tally) => afterChange(now, change) })),
    ...receipts.map(({ key, body }) => ({
      key,
      do: (now: Tally) =>
        afterReceipt(
          now,
          (body as ReceiptForm).lines.map(({ lineId }) => lineId),
        ),
    })),
  ];
  // Keys are in the order of time; changes of before stand in the order they were done.
  return (receipts.length === 0 ? steps : steps.sort((a, b) => (a.key < b.key ? -1 : a.key > b.key ? 1 : 0))).reduce((now, step) => step.do(now), tally);
}

/**
 * What the person has counted: shown at once, kept on the server a moment later, and on this machine until the server has it.
 * A lost connection loses nothing; the same change sent twice counts once. What the server refuses is set apart with the reason, and holds up nothing behind it.
 */
export function useTally(personId: number | undefined, came: Kept | undefined, refresh: () => unknown) {
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
    if (came) adopt(came);
  }, [came, adopt]);
  useSyncExternalStore(kept.subscribe, kept.rows);
  const receipts = receiptsOf(personId);
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
    // What was counted after a receipt that waits is sent after it.
    const firstReceipt = receiptsOf(personId)[0]?.key ?? null;
    const sendChanges = async (changes: DeskChange[]) => {
      const { data, error } = await send({ body: { changes } });
      if (data) {
        // What the server has now waits no more, in the same turn: or it would be shown twice until the next answer.
        there.sent(changes);
        adopt(data);
        look();
      }
      return error ? problemOf(error) : null;
    };
    const done = (await sendUnsent(there, sendChanges, firstReceipt)) && there.waiting().length === 0;
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
    tally: tallyAfter(base.tally, waiting, receipts),
    /** What is counted this very moment, ahead of what is drawn. */
    now: () => tallyAfter(newest.current.tally, unsent.waiting(), receiptsOf(personId)),
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
