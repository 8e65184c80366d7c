import { createHash } from 'node:crypto';
import { Refusal, refuseField } from '@larder/core/refusal';
import { isPastKnowing } from '@larder/contract/requestKey';
import { and, eq, sql } from 'drizzle-orm';
import type { Act } from '../act';
import { prepared, preparedWrite } from '../db/prepared';
import { idempotency } from '../db/schema/index';

const keyShape = /^[\w-]{8,80}$/;

/**
 * Does `work` once per person, route and key, in the posting's own transaction. The same key again answers what was answered first;
 * with another request it is refused; of two at once the second waits for the first. What is refused leaves no trace, so the key may be used again.
 */
export async function once<T>(act: Act, route: string, key: string | undefined, request: unknown, work: () => Promise<T>): Promise<T> {
  if (key === undefined || !keyShape.test(key))
    throw refuseField(422, 'key-needed', 'Idempotency-Key', 'This needs an Idempotency-Key of 8 to 80 letters, digits or dashes.');
  if (isPastKnowing(key, act.now))
    throw new Refusal(
      409,
      'too-long-ago',
      'This was begun more than three months ago, and whether it was done is no longer known. Look in the trail, and begin it anew if it is not there.',
    );
  const hash = createHash('sha256').update(JSON.stringify(request)).digest('hex');
  const taken = await take(act.tx, { person: act.by.id, route, key, hash });
  if (taken.length === 0) return earlier<T>(act, route, key, hash);
  const answer = await work();
  act.tx.lastly(keep(act.tx, { person: act.by.id, route, key, answer }));
  return answer;
}

/** Takes a key that is free; answers nothing where it is not. */
const take = prepared(['person', 'route', 'key', 'hash'], (db, { person, route, key, hash }) => {
  const taken = db
    .$with('taken')
    .as(db.insert(idempotency).values({ personId: person, route, key, requestHash: hash }).onConflictDoNothing().returning({ key: idempotency.key }));
  return db.with(taken).select({ key: taken.key }).from(taken);
});

const keep = preparedWrite(['person', 'route', 'key', 'answer'], (db, { person, route, key, answer }) =>
  db
    .update(idempotency)
    .set({ answer: sql`${sql.param(answer, idempotency.answer)}` })
    .where(and(sql`${idempotency.personId} = ${person}`, sql`${idempotency.route} = ${route}`, sql`${idempotency.key} = ${key}`)),
);

async function earlier<T>({ tx, by }: Act, route: string, key: string, hash: string): Promise<T> {
  const [row] = await tx.db
    .select({ hash: idempotency.requestHash, answer: sql<T>`${idempotency.answer}` })
    .from(idempotency)
    .where(and(eq(idempotency.personId, by.id), eq(idempotency.route, route), eq(idempotency.key, key)));
  if (row?.hash !== hash) throw refuseField(409, 'key-used', 'Idempotency-Key', 'This Idempotency-Key was used for another request.');
  return row.answer;
}
