import type { Noun } from '@larder/contract/nouns';
import type { MovedHere } from '@larder/core/floor/held';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

/** Something done on this device that the server does not have yet. */
export interface Waiting {
  /** Its request key, which tells when it was made and makes sure that it is done once. */
  key: string;
  personId: number;
  /** The endpoint, as method and path. */
  endpoint: string;
  /** Where it is sent, with what stands in the address. */
  path: string;
  params: Record<string, unknown>;
  body: unknown;
  /** What it does, in a few words. */
  words: string;
  /** Where it is looked at, and put right if it is refused. */
  to: string;
  /** Goods that it moves, as far as it is known which. */
  moves: readonly MovedHere[];
  /** What is to be read again once it is done. */
  changes: readonly Noun[];
  /** Why the server did not take it; null while it waits. */
  refused: string | null;
}

/** The last answer to something that was asked. */
export interface HeldAnswer {
  at: number;
  data: unknown;
}

interface Schema extends DBSchema {
  answers: { key: string; value: HeldAnswer };
  waiting: { key: string; value: Waiting };
  /** Whoever signed in here last. */
  owner: { key: 'owner'; value: number };
}
export type Database = IDBPDatabase<Schema>;

let opened: Promise<Database> | undefined;

/** What this device keeps: answers, so that pages open without a connection, and what waits to be sent. */
export function database(): Promise<Database> {
  opened ??= openDB<Schema>('tidy-larder', 1, {
    upgrade(made) {
      made.createObjectStore('answers');
      made.createObjectStore('waiting', { keyPath: 'key' });
      made.createObjectStore('owner');
    },
    terminated: () => (opened = undefined),
  });
  return opened;
}
