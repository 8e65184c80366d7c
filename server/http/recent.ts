import { createHash } from 'node:crypto';
import { refuseField } from '@larder/core/refusal';
import { LRUCache } from 'lru-cache';
import type { Call } from './route';

/** How long an answer is remembered, and how many, at most. */
const remembered = 10 * 60_000;
const most = 1000;

/**
 * What was answered to writes that post nothing: a draft that is sent again because its answer was lost on the way is not made twice.
 * Only this run of the server remembers, and only for some minutes; nothing of it is kept.
 */
export function recentAnswers(): <T>(route: string, call: Call, work: () => Promise<T>) => Promise<T> {
  const answers = new LRUCache<string, { hash: string; answer: Promise<unknown> }>({ max: most, ttl: remembered });
  return async <T>(route: string, { by, params, query, body, key }: Call, work: () => Promise<T>): Promise<T> => {
    const name = JSON.stringify([by.id, route, key]);
    const hash = createHash('sha256')
      .update(JSON.stringify([params, query]))
      .update(body ?? '')
      .digest('hex');
    const earlier = answers.get(name);
    if (earlier) {
      if (earlier.hash !== hash) throw refuseField(409, 'key-used', 'Idempotency-Key', 'This Idempotency-Key was used for another request.');
      return earlier.answer as Promise<T>;
    }
    const answer = work();
    answers.set(name, { hash, answer });
    // What is refused leaves no trace, so the key may be used again.
    answer.catch(() => answers.delete(name));
    return answer;
  };
}
