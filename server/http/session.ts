import { createHash, randomBytes } from 'node:crypto';
import type pg from 'pg';
import type { Context } from 'koa';
import { and, desc, eq, gt, ne, sql } from 'drizzle-orm';
import type { Person } from '../act';
import type { Right } from '@larder/contract/rights';
import { askingOn, drizzleOn } from '../db/database';
import { jsonRows } from '../db/json';
import { prepared } from '../db/prepared';
import { knownDevice, person, role, roleGrant, session } from '../db/schema/index';

const cookie = 'larder_session';
const deviceCookie = 'larder_device';
const dayMs = 86_400_000;
/** A session ends when it was not used for so many days, and in any case after so many. */
const idleDays = 14;
const mostDays = 60;
/** Its last use is written down at most this often, in milliseconds. */
const noted = 600_000;
const deviceDays = 365;

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');
const later = (now: Date, days: number): Date => new Date(now.getTime() + days * dayMs);

/** A person with the rights of every grant. */
export const personFields = {
  id: person.id,
  name: person.name,
  email: person.email,
  grants: jsonRows({ siteId: roleGrant.siteId, rights: sql<Right[]>`${role.rights}` }, (select) =>
    select.from(roleGrant).innerJoin(role, eq(role.id, roleGrant.roleId)).where(eq(roleGrant.personId, person.id)),
  ),
};

const readSession = prepared(['hash', 'now'], (db, value) =>
  db
    .select({ ...personFields, seenAt: session.lastSeenAt })
    .from(session)
    .innerJoin(person, eq(person.id, session.personId))
    .where(and(sql`${session.tokenHash} = ${value.hash}`, sql`${session.expiresAt} > ${value.now}`, person.active)),
);

/** The person this request comes from, or null. */
export async function personOf(ctx: Context, pool: pg.Pool, now: Date): Promise<Person | null> {
  const token = ctx.cookies.get(cookie);
  if (!token) return null;
  const db = drizzleOn(pool);
  const [found] = await readSession(askingOn(pool), { hash: hashOf(token), now: now.toISOString() });
  if (!found) return null;
  const { seenAt, ...by } = found;
  if (now.getTime() - Date.parse(seenAt) > noted)
    await db
      .update(session)
      .set({
        lastSeenAt: now.toISOString(),
        expiresAt: sql`least(${later(now, idleDays).toISOString()}::timestamptz, ${session.createdAt} + ${mostDays} * interval '1 day')`,
      })
      .where(eq(session.tokenHash, hashOf(token)));
  ctx.state.personId = by.id;
  return by;
}

/** Begins a session: a fresh token in an http-only, same-site cookie; the database knows its hash only. The browser is known from now on. */
export async function beginSession(ctx: Context, pool: pg.Pool, personId: number, now: Date): Promise<void> {
  const token = randomBytes(32).toString('base64url');
  const db = drizzleOn(pool);
  await db.insert(session).values({
    tokenHash: hashOf(token),
    personId,
    createdAt: now.toISOString(),
    lastSeenAt: now.toISOString(),
    expiresAt: later(now, idleDays).toISOString(),
    device: deviceSaid(ctx.get('User-Agent')),
  });
  setCookie(ctx, cookie, token, later(now, mostDays));
  const device = ctx.cookies.get(deviceCookie) ?? randomBytes(32).toString('base64url');
  const lastUsedAt = now.toISOString();
  await db
    .insert(knownDevice)
    .values({ tokenHash: hashOf(device), personId, lastUsedAt })
    .onConflictDoUpdate({ target: [knownDevice.tokenHash, knownDevice.personId], set: { lastUsedAt } });
  setCookie(ctx, deviceCookie, device, later(now, deviceDays));
}

function setCookie(ctx: Context, name: string, value: string | null, expires?: Date): void {
  ctx.cookies.set(name, value, { httpOnly: true, sameSite: 'strict', secure: ctx.secure, overwrite: true, ...(expires ? { expires } : {}) });
}

/** What the browser is called, in few words. */
function deviceSaid(agent: string): string {
  const browser = ['Edg', 'Firefox', 'Chrome', 'Safari'].find((name) => agent.includes(name)) ?? '';
  const system = ['Android', 'iPhone', 'iPad', 'Windows', 'Mac OS X', 'Linux'].find((name) => agent.includes(name)) ?? '';
  return [browser === 'Edg' ? 'Edge' : browser, system].filter((part) => part !== '').join(', ');
}

/** Whether this browser has signed in as the person before; gives what it is told apart by, or null. */
export async function recognised(ctx: Context, pool: pg.Pool, personId: number): Promise<string | null> {
  const device = ctx.cookies.get(deviceCookie);
  if (!device) return null;
  const known = await drizzleOn(pool).$count(knownDevice, and(eq(knownDevice.tokenHash, hashOf(device)), eq(knownDevice.personId, personId)));
  return known === 1 ? hashOf(device) : null;
}

export async function endSession(ctx: Context, pool: pg.Pool): Promise<void> {
  const token = ctx.cookies.get(cookie);
  if (token)
    await drizzleOn(pool)
      .delete(session)
      .where(eq(session.tokenHash, hashOf(token)));
  setCookie(ctx, cookie, null);
}

/** Ends all sessions of a person but the one this request comes from. */
export const endOtherSessions = (ctx: Context, pool: pg.Pool, personId: number): Promise<unknown> =>
  drizzleOn(pool)
    .delete(session)
    .where(and(eq(session.personId, personId), ne(session.tokenHash, hashOf(ctx.cookies.get(cookie) ?? ''))));

/** The sessions of a person that have not ended. */
export const sessionsOf = async (ctx: Context, pool: pg.Pool, personId: number, now: Date) =>
  drizzleOn(pool)
    .select({
      id: session.id,
      startedAt: session.createdAt,
      lastSeenAt: session.lastSeenAt,
      device: session.device,
      current: sql<boolean>`${session.tokenHash} = ${hashOf(ctx.cookies.get(cookie) ?? '')}`,
    })
    .from(session)
    .where(and(eq(session.personId, personId), gt(session.expiresAt, now.toISOString())))
    .orderBy(desc(session.lastSeenAt), desc(session.id))
    .limit(100);
