import { createHash } from 'node:crypto';
import { Refusal, refuseField } from '@larder/core/refusal';
import { isPastKnowing } from '@larder/contract/requestKey';
import type { Act } from '../act';

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
  const taken = await act.tx.rows(
    'INSERT INTO idempotency (person_id, route, key, request_hash) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING RETURNING key',
    [act.by.id, route, key, hash],
  );
  if (taken.length === 0) return earlier<T>(act, route, key, hash);
  const answer = await work();
  await act.tx.rows('UPDATE idempotency SET answer = $4 WHERE person_id = $1 AND route = $2 AND key = $3', [act.by.id, route, key, JSON.stringify(answer)]);
  return answer;
}

async function earlier<T>({ tx, by }: Act, route: string, key: string, hash: string): Promise<T> {
  const [row] = await tx.rows<{ request_hash: string; answer: T }>(
    'SELECT request_hash, answer FROM idempotency WHERE person_id = $1 AND route = $2 AND key = $3',
    [by.id, route, key],
  );
  if (row?.request_hash !== hash) throw refuseField(409, 'key-used', 'Idempotency-Key', 'This Idempotency-Key was used for another request.');
  return row.answer;
}
