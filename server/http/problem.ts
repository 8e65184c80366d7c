import { Refusal } from '@larder/core/refusal';
import type { Problem } from '@larder/contract/values';
import type { Middleware } from 'koa';
import type { Logger } from 'pino';
import { databaseCode, isConnectionLost, isTooBusy } from '../db/database';

/** Turns whatever was thrown into `application/problem+json` with a sentence for the person. */
export const problems =
  (log: Logger): Middleware =>
  async (ctx, next) => {
    try {
      await next();
      if (ctx.status === 404 && ctx.body === undefined && ctx.path.startsWith('/api/'))
        throw new Refusal(404, 'no-such-address', 'There is nothing at this address.');
    } catch (error) {
      const problem = problemOf(error);
      if (problem.type === 'no-right' || problem.type === 'cross-site')
        log.warn(
          {
            event: 'refused',
            why: problem.type,
            method: ctx.method,
            path: ctx.path,
            personId: (ctx.state.personId as number | undefined) ?? null,
            address: ctx.ip,
          },
          'security',
        );
      if (problem.status >= 500) log.error({ err: error, path: ctx.path }, 'failed');
      // What is left of a body that was not read to its end must not stand in the way of the next request on this connection.
      if (!ctx.req.complete) ctx.req.resume();
      if (problem.status === 503) ctx.set('Retry-After', '2');
      ctx.status = problem.status;
      ctx.body = problem;
      ctx.type = 'application/problem+json';
    }
  };

/** What a person is told of whatever was thrown. */
export function problemOf(error: unknown): Problem {
  if (error instanceof Refusal) return { type: error.type, title: error.message, status: error.status, errors: [...error.errors], asks: [...error.asks] };
  if (isTooBusy(error)) return plain(503, 'busy', 'More is being asked at once than can be answered. Nothing was changed; try again in a moment.');
  const { status } = error as { status?: number };
  const { code, constraint } = databaseCode(error);
  if (isConnectionLost(error))
    return plain(
      503,
      'database-lost',
      'The database cannot be reached, so it is not known whether this was done. Do the same again: it will not be done twice.',
    );
  if (status === 413) return plain(413, 'too-large', 'That is more than can be sent at once.');
  if (status !== undefined && status >= 400 && status < 500) return plain(status, 'unreadable', 'The request could not be read.');
  if (code === '23505') return plain(409, 'taken', `Somebody else has just written the same thing (${constraint}). Look again and retry.`);
  if (code === '23503') return plain(422, 'unknown-reference', 'Something this refers to does not exist any more.');
  if (code === '22021' || code === '22P05') return plain(422, 'unreadable-text', 'The text holds characters that cannot be kept.');
  if (code.startsWith('22')) return plain(422, 'out-of-range', 'A number or day in this is outside of what can be kept.');
  return plain(500, 'failed', 'Something went wrong on our side; nothing was changed. Try again, and tell whoever looks after this if it stays.');
}

const plain = (status: number, type: string, title: string): Problem => ({ type, title, status, errors: [], asks: [] });
