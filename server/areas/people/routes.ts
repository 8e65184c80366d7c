import { hash, verify } from '@node-rs/argon2';
import * as contract from '@larder/contract/people';
import type { Me } from '@larder/contract/people';
import { dayOf } from '@larder/core/day';
import { Refusal, refuseField } from '@larder/core/refusal';
import type Router from '@koa/router';
import type pg from 'pg';
import { RateLimiterPostgres, type RateLimiterRes } from 'rate-limiter-flexible';
import type { Person } from '../../act';
import { bodyLimit, readBytes, readJson } from '../../http/body';
import { signedIn, type Ground } from '../../http/route';
import { shaped } from '../../http/shape';
import { beginSession, endSession, personColumns, personOf } from '../../http/session';

const perAccount = { points: 10, duration: 900 };
const perAddress = { points: 60, duration: 900 };

/** Signing in and out; these set cookies, so they stand outside the common route. */
export function peopleRoutes(router: Router, ground: Ground): void {
  const byAccount = limiter(ground.pool, 'sign_in_account', perAccount);
  const byAddress = limiter(ground.pool, 'sign_in_address', perAddress);

  router.post(contract.signIn.path, async (ctx) => {
    const { email, password } = shaped(contract.signIn.body, readJson(await readBytes(ctx, bodyLimit.unknown)));
    await attempt(byAddress, ctx.ip);
    await attempt(byAccount, email.toLowerCase());
    const { rows } = await ground.pool.query<{ id: number; hash: string }>(
      'SELECT id, password_hash AS hash FROM person WHERE lower(email) = lower($1) AND active',
      [email],
    );
    const fits = await verify(rows[0]?.hash ?? (await decoy), password);
    if (!fits || !rows[0]) throw refuseField(422, 'sign-in-refused', 'password', 'Mail address and password do not belong together.');
    await byAccount.delete(email.toLowerCase());
    const now = ground.clock();
    await beginSession(ctx, ground.pool, rows[0].id, now);
    const { rows: people } = await ground.pool.query<Person>(`SELECT ${personColumns} FROM person p WHERE p.id = $1`, [rows[0].id]);
    ctx.body = await meOf(ground, people[0] as Person, now);
  });

  router.post(contract.signOut.path, async (ctx) => {
    await readBytes(ctx, bodyLimit.unknown);
    if (await personOf(ctx, ground.pool, ground.clock())) await endSession(ctx, ground.pool);
    ctx.body = {};
  });

  router.get(contract.me.path, async (ctx) => {
    const now = ground.clock();
    ctx.body = await meOf(ground, await signedIn(ctx, ground.pool, now), now);
  });
}

/** Checked against when there is no such person, so that the answer takes as long. */
const decoy = hash('nobody has this password');

const limiter = (pool: pg.Pool, keyPrefix: string, limit: { points: number; duration: number }) =>
  new RateLimiterPostgres({ storeClient: pool, tableName: 'sign_in_attempt', tableCreated: true, keyPrefix, ...limit });

async function attempt(limit: RateLimiterPostgres, key: string): Promise<void> {
  try {
    await limit.consume(key);
  } catch (refused) {
    if (refused instanceof Error) throw refused;
    const minutes = Math.ceil((refused as RateLimiterRes).msBeforeNext / 60_000);
    throw new Refusal(429, 'too-many-attempts', `Too many attempts. Try again in ${minutes} minutes.`);
  }
}

async function meOf({ pool }: Ground, by: Person, now: Date): Promise<Me> {
  const { rows } = await pool.query<{ name: string; currency: string; zone: string }>('SELECT name, currency, time_zone AS zone FROM company');
  const { name = '', currency = '', zone = 'UTC' } = rows[0] ?? {};
  return {
    id: by.id,
    name: by.name,
    email: by.email,
    grants: by.grants.map((g) => ({ siteId: g.siteId, rights: [...g.rights] })),
    company: { name, currency, today: dayOf(now, zone) },
  };
}
