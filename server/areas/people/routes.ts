import { hash, verify } from '@node-rs/argon2';
import * as colleagues from '@larder/contract/colleagues';
import * as contract from '@larder/contract/people';
import type { Me } from '@larder/contract/people';
import { dayOf } from '@larder/core/day';
import { Refusal, refuseField } from '@larder/core/refusal';
import type Router from '@koa/router';
import type { Context } from 'koa';
import type { Logger } from 'pino';
import type { z } from 'zod';
import { and, eq } from 'drizzle-orm';
import type { Person } from '../../act';
import { bodyLimit, readBytes, readJson } from '../../http/body';
import { signedIn, type Resources, type Serve } from '../../http/route';
import { beginSession, endOtherSessions, endSession, personFields, personOf, recognised, sessionsOf } from '../../http/session';
import { shaped } from '../../http/shape';
import { attempts } from './attempts';
import { addPerson, editPerson, listPeople, retirePerson } from './colleagues';
import { beginBusiness } from './founding';
import { newPassword } from './password';
import { drizzleOn } from '../../db/database';
import { company, person, session } from '../../db/schema/index';

/** Who works here, for those who may set up the business. */
export function colleagueRoutes(serve: Serve): void {
  serve(colleagues.listPeople, (act) => listPeople(act));
  serve(colleagues.addPerson, (act, { body }) => addPerson(act, body));
  serve(colleagues.editPerson, (act, { params, body }) => editPerson(act, params.id, body));
  serve(colleagues.retirePerson, (act, { params, body }) => retirePerson(act, params.id, body.retired));
}

/** Signing in and out, and what a person does about their own sign-in; these set cookies, so they stand outside the common route. */
export function peopleRoutes(router: Router, ground: Resources, log: Logger): void {
  const { pool } = ground;
  const db = drizzleOn(pool);
  const attempt = attempts(pool);
  const bodyOf = async <T extends z.ZodType>(ctx: Context, type: T): Promise<z.output<T>> => shaped(type, readJson(await readBytes(ctx, bodyLimit.unknown)));
  const enter = async (ctx: Context, personId: number): Promise<void> => {
    const now = ground.clock();
    await beginSession(ctx, pool, personId, now);
    const [by] = await db.select(personFields).from(person).where(eq(person.id, personId));
    if (!by) throw new Error('who signed in is not there');
    ctx.body = await meOf(ground, by, now);
  };

  router.get(contract.door.path, async (ctx) => {
    const [business] = await db.select({ demo: company.demo }).from(company);
    ctx.body = { founded: business !== undefined && !ground.founding, demo: business?.demo ?? false };
  });

  router.post(contract.begin.path, async (ctx) => {
    const personId = await beginBusiness(pool, ground.founding ?? null, await bodyOf(ctx, contract.begin.body));
    ground.founding = null;
    log.info({ event: 'founded', personId, address: ctx.ip }, 'security');
    await enter(ctx, personId);
  });

  router.post(contract.signIn.path, async (ctx) => {
    const { email, password } = await bodyOf(ctx, contract.signIn.body);
    const rows = await db
      .select({ id: person.id, hash: person.passwordHash })
      .from(person)
      .where(and(eq(person.email, email), person.active));
    const giveBack = await attempt(ctx, email, rows[0] ? await recognised(ctx, pool, rows[0].id) : null);
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
    const giveBack = await attempt(ctx, by.email, await recognised(ctx, pool, by.id));
    const rows = await db.select({ hash: person.passwordHash }).from(person).where(eq(person.id, by.id));
    if (!(await verify(rows[0]?.hash || (await decoy), current))) {
      log.warn({ event: 'password change refused', personId: by.id, address: ctx.ip }, 'security');
      throw refuseField(422, 'wrong-password', 'current', 'This is not the password you have now.');
    }
    await giveBack();
    const passwordHash = await newPassword(password, [by.name, by.email]);
    await db.update(person).set({ passwordHash }).where(eq(person.id, by.id));
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
    const ended = await db
      .delete(session)
      .where(and(eq(session.id, id), eq(session.personId, by.id)))
      .returning({ id: session.id });
    if (ended.length === 0) throw new Refusal(404, 'not-found', 'There is no such session of yours.');
    log.info({ event: 'session ended', personId: by.id, session: id }, 'security');
    ctx.body = {};
  });
}

/** Checked against when there is no such person, so that the answer takes as long. */
const decoy = hash('nobody has this password');

async function meOf({ pool }: Resources, by: Person, now: Date): Promise<Me> {
  const [business] = await drizzleOn(pool).select({ name: company.name, currency: company.currency, zone: company.timeZone }).from(company);
  const { name = '', currency = '', zone = 'UTC' } = business ?? {};
  return {
    id: by.id,
    name: by.name,
    email: by.email,
    grants: by.grants.map((g) => ({ siteId: g.siteId, rights: [...g.rights] })),
    company: { name, currency, today: dayOf(now, zone) },
  };
}
