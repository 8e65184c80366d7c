import { BroadcastChannel } from 'node:worker_threads';
import { inArray } from 'drizzle-orm';
import type pg from 'pg';
import { transaction, type Tx } from '../db/database';
import { addJob } from '../db/functions';
import { outbox } from '../db/schema/index';
import { jobs, type Caused } from './jobs';

const channel = 'tidy-larder outbox';
/** Says in this process, whichever thread it is in, that the outbox has something. */
const bell = new BroadcastChannel(channel);
bell.unref();

/** Says that something was written, once it is kept. */
export const ring = (): void => bell.postMessage(null);

/** Writes down what a change causes, in the transaction of the change; it is done once that is kept. `about` says what it concerns: what waits about the same is not done twice. */
export async function cause<T extends keyof Caused>({ tx }: { tx: Tx }, task: T, payload: Caused[T], about: string): Promise<void> {
  await tx.db.insert(outbox).values({ task, payload, about: `${task} ${about}` });
  tx.after(ring);
}

/** Calls `heard` when something was written into the outbox by this process. Gives what ends that. */
export function onOutbox(heard: () => void): () => void {
  const listening = new BroadcastChannel(channel);
  listening.onmessage = heard;
  listening.unref();
  return () => listening.close();
}

const most = 200;

type Row = typeof outbox.$inferSelect;

/** Rows about the same whose payloads are lists become one, with what is in any of them, each once. */
function together(rows: readonly Row[]): Row[] {
  const lists = new Map<string, Row & { payload: Set<unknown> }>();
  const others = rows.filter((row) => {
    if (!Array.isArray(row.payload)) return true;
    const there = lists.get(row.about) ?? { ...row, payload: new Set<unknown>() };
    for (const one of row.payload) there.payload.add(one);
    lists.set(row.about, there);
    return false;
  });
  return [...others, ...[...lists.values()].map((row) => ({ ...row, payload: [...row.payload] }))];
}

/** Makes jobs of what waits in the outbox, each once, oldest first; gives how many. */
export async function readOutbox(pool: pg.Pool): Promise<number> {
  let read = 0;
  for (;;) {
    const now = await transaction(pool, 'write', async (tx) => {
      const oldest = tx.db.select({ id: outbox.id }).from(outbox).orderBy(outbox.id).limit(most).for('update', { skipLocked: true });
      const rows = await tx.db.delete(outbox).where(inArray(outbox.id, oldest)).returning();
      for (const { task, payload, about } of together(rows.sort((a, b) => a.id - b.id)))
        await addJob(tx, { task, payload, about, ...jobs[task as keyof Caused] });
      return rows.length;
    });
    read += now;
    if (now < most) return read;
  }
}
