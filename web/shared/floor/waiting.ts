import { newRequestKey } from '@larder/contract/requestKey';
import { database, type Waiting } from './database';

/**
 * What was done on this device and waits to be sent, in the order it was done, shared by all its windows. It is kept in the browser's database; what is
 * shown of it is read from here at once.
 */
let rows: readonly Waiting[] = [];
const listeners = new Set<() => void>();
const others = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('tidy-larder waiting');
if (others) others.onmessage = () => void readAll();

function show(next: readonly Waiting[]): void {
  rows = next;
  for (const listener of listeners) listener();
}

async function readAll(): Promise<void> {
  // Keys are in the order of time.
  show(await (await database()).getAll('waiting'));
}

async function changed(): Promise<void> {
  await readAll();
  others?.postMessage(null);
}

export const waiting = {
  rows: (): readonly Waiting[] => rows,
  subscribe: (listener: () => void): (() => void) => {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  },
  read: readAll,
  /** Keeps something; done once it is kept. */
  add: async (one: Waiting): Promise<void> => {
    await (await database()).put('waiting', one);
    await changed();
  },
  /** Sets aside what could not be done without a connection, to be looked at when there is one. */
  note: async (personId: number, words: string, to: string, why: string): Promise<void> => {
    await waiting.add({ key: newRequestKey(), personId, endpoint: '', path: '', params: {}, body: null, words, to, moves: [], changes: [], refused: why });
  },
  /** Sets something apart that the server would not take. */
  refuse: async (key: string, why: string): Promise<void> => {
    const kept = await database();
    const one = await kept.get('waiting', key);
    if (one) await kept.put('waiting', { ...one, refused: why });
    await changed();
  },
  remove: async (key: string): Promise<void> => {
    await (await database()).delete('waiting', key);
    await changed();
  },
};

/** What waits of somebody, oldest first; what was refused waits for a person and not for a connection. */
export const waitingOf = (personId: number | null): Waiting[] => rows.filter((one) => one.personId === personId && one.refused === null);
