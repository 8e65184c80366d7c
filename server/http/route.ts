import type { BodyOf, Endpoint, FileAnswer, ParamsOf, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { dayOf } from '@larder/core/day';
import type {} from 'koa-body';
import { Refusal } from '@larder/core/refusal';
import type Router from '@koa/router';
import type { Context } from 'koa';
import type pg from 'pg';
import type { z } from 'zod';
import { may, type Act, type Person } from '../act';
import { transaction } from '../db/database';
import { once } from './idempotency';
import { refuseShape } from './problem';
import { personOf } from './session';

/** What routes are made of: the database and the clock. */
export interface Ground {
  pool: pg.Pool;
  clock: () => Date;
}

export interface Asked<E extends Endpoint> {
  params: ParamsOf<E>;
  query: QueryOf<E>;
  body: BodyOf<E>;
}

export type Service<E extends Endpoint> = (act: Act, asked: Asked<E>) => Promise<ResponseOf<E>>;
/** Puts an endpoint of the contract on the router, with what does it. */
export type Serve = <E extends Endpoint>(endpoint: E, service: Service<E>) => void;

/**
 * Every route goes through here: who, with which right, what is asked, in which transaction.
 * Reads and previews see one snapshot; writes with an Idempotency-Key are done once.
 */
export const serveOn =
  (router: Router, ground: Ground): Serve =>
  (endpoint, service) => {
    router.register(endpoint.path, [endpoint.method.toLowerCase()], async (ctx: Context & { params: unknown }) => {
      const now = ground.clock();
      const by = await signedIn(ctx, ground.pool, now);
      if (endpoint.right !== null && !may(by, endpoint.right)) throw new Refusal(403, 'no-right', 'You do not have the right to do this.');
      const asked = {
        params: shaped(endpoint.params, ctx.params),
        query: shaped(endpoint.query, ctx.query),
        body: endpoint.method === 'GET' ? {} : shaped(endpoint.body, ctx.request.body ?? {}),
      };
      const preview = endpoint.posts && ctx.query.preview === 'true';
      const key = ctx.get('Idempotency-Key') || undefined;
      const answer = await transaction(ground.pool, endpoint.method === 'GET' || preview ? 'snapshot' : 'write', async (tx) => {
        const act: Act = { tx, by, now, today: dayOf(now, await timeZone(ground.pool)) };
        const work = () => service(act, asked as Asked<typeof endpoint>);
        if (tx.readOnly || (!endpoint.posts && key === undefined)) return work();
        return once(act, `${endpoint.method} ${ctx.path}`, key, asked, work);
      });
      if (endpoint.file === null) ctx.body = answer;
      else sendFile(ctx, answer as z.output<typeof FileAnswer>);
    });
  };

/** A file is never run by the browser that gets it, and is kept by nobody between. */
function sendFile(ctx: Context, { type, name, bytes }: z.output<typeof FileAnswer>): void {
  ctx.type = type;
  ctx.set(
    'Content-Disposition',
    `${type.startsWith('image/') || type === 'application/pdf' ? 'inline' : 'attachment'}; filename="${name.replace(/[^\w.-]+/g, '-')}"`,
  );
  ctx.set('Cache-Control', type.startsWith('image/') ? 'private, max-age=31536000, immutable' : 'no-store');
  ctx.body = Buffer.from(bytes);
}

export async function signedIn(ctx: Context, pool: pg.Pool, now: Date): Promise<Person> {
  const by = await personOf(ctx, pool, now);
  if (!by) throw new Refusal(401, 'sign-in', 'Please sign in.');
  return by;
}

export function shaped<T extends z.ZodType>(type: T, value: unknown): z.output<T> {
  const parsed = type.safeParse(value);
  if (!parsed.success) throw refuseShape(parsed.error);
  return parsed.data;
}

const zones = new WeakMap<pg.Pool, string>();

/** The company's time zone: it is set once when the business is founded. */
async function timeZone(pool: pg.Pool): Promise<string> {
  const known = zones.get(pool);
  if (known) return known;
  const { rows } = await pool.query<{ zone: string }>('SELECT time_zone AS zone FROM company');
  if (rows[0]) zones.set(pool, rows[0].zone);
  return rows[0]?.zone ?? 'UTC';
}
