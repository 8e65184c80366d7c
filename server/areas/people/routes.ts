import { hash, verify } from '@node-rs/argon2';
import * as contract from '@larder/contract/people';
import type { Me } from '@larder/contract/people';
import { dayOf } from '@larder/core/day';
import { Refusal, refuseField } from '@larder/core/refusal';
import type Router from '@koa/router';
import type { Context } from 'koa';
import type { Logger } from 'pino';
import type { z } from 'zod';
import type { Person } from '../../act';
import { bodyLimit, readBytes, readJson } from '../../http/body';
import { signedIn, type Ground } from '../../http/route';
import { beginSession, endOtherSessions, endSession, knownDevice, personColumns, personOf, sessionsOf } from '../../http/session';
import { shaped } from '../../http/shape';
import { attempts } from './attempts';
import { beginBusiness } from './founding';
import { newPassword } from './password';

/** Signing in and out, and what a person does about their own sign-in; these set cookies, so they stand outside the common route. */
export function peopleRoutes(router: Router, ground: Ground, log: Logger): void {
  const { pool } = ground;
  const attempt = attempts(pool);
  const bodyOf = async <T extends z.ZodType>(ctx: Context, type: T): Promise<z.output<T>> => shaped(type, readJson(await readBytes(ctx, bodyLimit.unknown)));
  const enter = async (ctx: Context, personId: number): Promise<void> => {
    const now = ground.clock();
    await beginSession(ctx, pool, personId, now);
    const { rows } = await pool.query<Person>(`SELECT ${personColumns} FROM person p WHERE p.id = $1`, [personId]);
    ctx.body = await meOf(ground, rows[0] as Person, now);
  };

  router.get(contract.door.path, async (ctx) => {
    const { rows } = await pool.query<{ demo: boolean }>('SELECT demo FROM company');
    ctx.body = { founded: rows.length > 0 && !ground.founding, demo: rows[0]?.demo ?? false };
  });

  router.post(contract.begin.path, async (ctx) => {
    const personId = await beginBusiness(pool, ground.founding ?? null, await bodyOf(ctx, contract.begin.body));
    ground.founding = null;
    log.info({ event: 'founded', personId, address: ctx.ip }, 'security');
    await enter(ctx, personId);
  });

  router.post(contract.signIn.path, async (ctx) => {
    const { email, password } = await bodyOf(ctx, contract.signIn.body);
    const { rows } = await pool.query<{ id: number; hash: string }>('SELECT id, password_hash AS hash FROM person WHERE email = $1 AND active', [email]);
    const giveBack = await attempt(ctx, email, rows[0] ? await knownDevice(ctx, pool, rows[0].id) : null);
    const fits = await verify(rows[0]?.hash || (await decoy), password);
    if (!fits || !rows[0] || rows[0].hash === '') {
      log.warn({ event: 'sign-in refused', personId: rows[0]?.id ?? null, address: ctx.ip }, 'security');
      throw refuseField(422, 'sign-in-refused', 'password', 'Mail address and password do not belong together.');
    }
    await giveBack();
    log.info({ event: 'signed in', personId: rows[0].id, address: ctx.ip }, 'security');
    await enter(ctx, rows[0].id);
  });

  router.post(contract.signOut.path, async (ctx) => {
    await readBytes(ctx, bodyLimit.unknown);
    const by = await personOf(ctx, pool, ground.clock());
    if (by) {
      await endSession(ctx, pool);
      log.info({ event: 'signed out', personId: by.id }, 'security');
    }
    ctx.body = {};
  });

  router.get(contract.me.path, async (ctx) => {
    const now = ground.clock();
    ctx.body = await meOf(ground, await signedIn(ctx, pool, now), now);
  });

  router.post(contract.changePassword.path, async (ctx) => {
    const by = await signedIn(ctx, pool, ground.clock());
    const { current, password } = await bodyOf(ctx, contract.changePassword.body);
    const giveBack = await attempt(ctx, by.email, await knownDevice(ctx, pool, by.id));
    const { rows } = await pool.query<{ hash: string }>('SELECT password_hash AS hash FROM person WHERE id = $1', [by.id]);
    if (!(await verify(rows[0]?.hash || (await decoy), current))) {
      log.warn({ event: 'password change refused', personId: by.id, address: ctx.ip }, 'security');
      throw refuseField(422, 'wrong-password', 'current', 'This is not the password you have now.');
    }
    await giveBack();
    await pool.query('UPDATE person SET password_hash = $2 WHERE id = $1', [by.id, await newPassword(password, [by.name, by.email])]);
    await endOtherSessions(ctx, pool, by.id);
    log.info({ event: 'password changed', personId: by.id, address: ctx.ip }, 'security');
    ctx.body = {};
  });

  router.get(contract.listSessions.path, async (ctx) => {
    const now = ground.clock();
    const by = await signedIn(ctx, pool, now);
    ctx.body = { rows: await sessionsOf(ctx, pool, by.id, now) };
  });

  router.post(contract.endSessionOf.path, async (ctx) => {
    const by = await signedIn(ctx, pool, ground.clock());
    await readBytes(ctx, bodyLimit.unknown);
    const { id } = shaped(contract.endSessionOf.params, ctx.params);
    const { rowCount } = await pool.query('DELETE FROM session WHERE id = $1 AND person_id = $2', [id, by.id]);
    if (rowCount === 0) throw new Refusal(404, 'not-found', 'There is no such session of yours.');
    log.info({ event: 'session ended', personId: by.id, session: id }, 'security');
    ctx.body = {};
  });
}

/** Checked against when there is no such person, so that the answer takes as long. */
const decoy = hash('nobody has this password');

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
