import type { BodyOf, Endpoint, FileAnswer, ParamsOf, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { grantedSomewhere, rightScope, type Right } from '@larder/contract/rights';
import { dayOf } from '@larder/core/day';
import { Refusal } from '@larder/core/refusal';
import type Router from '@koa/router';
import type { Context } from 'koa';
import type pg from 'pg';
import { actOf, type Act, type Person } from '../act';
import { transaction, type Tx } from '../db/database';
import type { Founding } from '../db/found';
import { withoutCosts } from './costs';
import type { Answered, Heavy } from '../heavy/threads';
import { bodyLimit, readBytes, readJson, type Packed } from './body';
import { sendFile } from './file';
import { once } from './idempotency';
import type { Live } from './live';
import { recentAnswers } from './recent';
import { personOf } from './session';
import { shaped } from './shape';
import { company } from '../db/schema/index';

/** What routes are made of: the database, the clock, and where work goes that would make others wait. */
export interface Resources {
  pool: pg.Pool;
  /** One connection that tells whether the database answers, also when all others are taken. */
  health: pg.Pool;
  clock: () => Date;
  /** While the business is still to be founded by a link; null or absent once it is. */
  founding?: Founding | null;
  /** Threads for what is heavy; without them it is done in place. */
  heavy?: Heavy;
  /** Tells open screens what was changed; without it each screen hears only of its own. */
  live?: Live;
  /** Where people open it; in calendars, links are without it where it is not said. */
  publicUrl?: string;
}

export interface Asked<E extends Endpoint> {
  params: ParamsOf<E>;
  query: QueryOf<E>;
  body: BodyOf<E>;
}

export type Service<E extends Endpoint> = (act: Act, asked: Asked<E>) => Promise<ResponseOf<E>>;
/** Puts an endpoint of the contract on the router, with what does it. */
export type Serve = <E extends Endpoint>(endpoint: E, service: Service<E>) => void;

/** One request as it is done, here or in a thread: by whom, when, and what was sent, not looked at yet. */
export interface Call {
  by: Person;
  now: Date;
  params: unknown;
  query: Record<string, unknown>;
  body: Packed;
  /** The Idempotency-Key, when there is one. */
  key: string | undefined;
}

export const nameOf = ({ method, path }: Endpoint): string => `${method} ${path}`;

/** Every route goes through here: who, with which right, and only then what is asked. */
export const serveOn = (router: Router, ground: Resources): Serve => {
  const recent = recentAnswers();
  return (endpoint, service) => {
    router.register(endpoint.path, [endpoint.method.toLowerCase()], async (ctx: Context & { params: unknown }) => {
      const now = ground.clock();
      const by = await signedIn(ctx, ground.pool, now);
      if (endpoint.right !== null && !grantedSomewhere(by.grants, endpoint.right)) throw new Refusal(403, 'no-right', 'You do not have the right to do this.');
      const body = endpoint.method === 'GET' ? null : await readBytes(ctx, endpoint.heavy ? bodyLimit.large : bodyLimit.usual);
      const call: Call = { by, now, params: ctx.params, query: { ...ctx.query }, body, key: ctx.get('Idempotency-Key') || undefined };
      const work = () => answered(ground, endpoint, service as unknown as Service<Endpoint>, call);
      const isRemembered = endpoint.method !== 'GET' && !endpoint.once && !endpoint.reads && endpoint.file === null && call.key !== undefined;
      const answer = isRemembered ? await recent(nameOf(endpoint), call, work) : await work();
      if (endpoint.changes.length > 0 && !isForeseen(endpoint, call)) ground.live?.tell(endpoint.changes, ctx.get('Larder-Tab') || null);
      if (answer.kind === 'file') sendFile(ctx, answer.file);
      else if (answer.kind === 'json') [ctx.body, ctx.type] = [Buffer.from(answer.json), 'application/json'];
      else ctx.body = answer.value;
    });
  };
};

/** Whether it is only asked what it would change. */
const isForeseen = ({ posts }: Endpoint, { query }: Call): boolean => posts && query.preview === 'true';

/** From so many bytes on, whatever is asked takes long enough to be noticed by others. */
const largeFrom = 50_000;

type Ready = Answered | { kind: 'value'; value: unknown };

/** What an endpoint answers: worked out here, or in a thread when it is heavy or much is asked at once. */
async function answered(ground: Resources, endpoint: Endpoint, service: Service<Endpoint>, call: Call): Promise<Ready> {
  const isLarge = (call.body?.length ?? 0) > largeFrom;
  if (ground.heavy && (endpoint.heavy || isLarge)) return ground.heavy.answer(nameOf(endpoint), call, endpoint.heavy ? 'heavy' : 'large');
  const value = await answerTo(ground, endpoint, service, call);
  return endpoint.file === null ? { kind: 'value', value } : { kind: 'file', file: value as FileAnswer };
}

/**
 * Does what an endpoint is for, in one transaction. Reads and previews see one snapshot; what posts, or may wait on a phone, is done once for its Idempotency-Key,
 * whatever way its address was spelled. Nothing else keeps its answer.
 */
export async function answerTo(
  ground: Pick<Resources, 'pool'>,
  endpoint: Endpoint,
  service: Service<Endpoint>,
  call: Call,
  tell?: Act['tell'],
): Promise<unknown> {
  const { by, now, key } = call;
  const asked = {
    params: shaped(endpoint.params, call.params),
    query: shaped(endpoint.query, call.query),
    body: endpoint.method === 'GET' ? {} : shaped(endpoint.body, readJson(call.body)),
  };
  const preview = isForeseen(endpoint, call);
  return transaction(ground.pool, endpoint.method === 'GET' || endpoint.reads || preview ? 'snapshot' : 'write', async (tx) => {
    const act = actOf({ tx, by, now, today: dayOf(now, await timeZone(ground.pool, tx)), tell });
    const work = async () => {
      if (isShown(endpoint) && endpoint.seenBy === 'company') act.allow(endpoint.right as Right, null);
      const answer = await service(act, asked as Asked<Endpoint>);
      if ((isShown(endpoint) ? endpoint.seenBy === 'sites' : mustAsk(endpoint)) && !act.asked.has(endpoint.right as Right))
        throw new Error(`${nameOf(endpoint)} needs ${endpoint.right ?? ''} at a site, and never asked at which`);
      return answer;
    };
    const answer = tx.readOnly || !endpoint.once ? await work() : await once(act, nameOf(endpoint), key, asked, work);
    return act.seesCosts || endpoint.file !== null ? answer : withoutCosts(endpoint, answer);
  });
}

/** What shows something, with a right that is held at sites; whoever may only look, writes nothing but what is their own. */
const isShown = ({ method, reads, right }: Endpoint): boolean =>
  right !== null && rightScope[right] === 'site' && (method === 'GET' || reads || right === 'look');

/** Writes with a right that is held at sites say at which they use it. */
const mustAsk = ({ right }: Endpoint): boolean => right !== null && rightScope[right] === 'site';

export async function signedIn(ctx: Context, pool: pg.Pool, now: Date): Promise<Person> {
  const by = await personOf(ctx, pool, now);
  if (!by) throw new Refusal(401, 'sign-in', 'Please sign in.');
  return by;
}

const zones = new WeakMap<pg.Pool, string>();

/** The company's time zone: it is set once when the business is founded. Asked on the transaction's own connection: inside one, no other is waited for. */
async function timeZone(pool: pg.Pool, tx: Tx): Promise<string> {
  const known = zones.get(pool);
  if (known) return known;
  const [row] = await tx.db.select({ zone: company.timeZone }).from(company);
  if (row) zones.set(pool, row.zone);
  return row?.zone ?? 'UTC';
}
