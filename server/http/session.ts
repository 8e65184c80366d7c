import { createHash, randomBytes } from 'node:crypto';
import type pg from 'pg';
import type { Context } from 'koa';
import type { Person } from '../act';

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

/** A person with the rights of every grant; `p` is the person's row. */
export const personColumns = `p.id, p.name, p.email,
  (SELECT coalesce(json_agg(json_build_object('siteId', g.site_id, 'rights', r.rights)), '[]') FROM role_grant g JOIN role r ON r.id = g.role_id WHERE g.person_id = p.id) AS grants`;

const sessionSql = `SELECT ${personColumns}, s.last_seen_at AS "seenAt" FROM session s JOIN person p ON p.id = s.person_id WHERE s.token_hash = $1 AND s.expires_at > $2 AND p.active`;

/** The person this request comes from, or null. */
export async function personOf(ctx: Context, pool: pg.Pool, now: Date): Promise<Person | null> {
  const token = ctx.cookies.get(cookie);
  if (!token) return null;
  const { rows } = await pool.query<Person & { seenAt: string }>({ name: 'session', text: sessionSql, values: [hashOf(token), now.toISOString()] });
  if (!rows[0]) return null;
  const { seenAt, ...person } = rows[0];
  if (now.getTime() - Date.parse(seenAt) > noted)
    await pool.query(`UPDATE session SET last_seen_at = $2, expires_at = least($3::timestamptz, created_at + $4 * interval '1 day') WHERE token_hash = $1`, [
      hashOf(token),
      now.toISOString(),
      later(now, idleDays).toISOString(),
      mostDays,
    ]);
  ctx.state.personId = person.id;
  return person;
}

/** Begins a session: a fresh token in an http-only, same-site cookie; the database knows its hash only. The browser is known from now on. */
export async function beginSession(ctx: Context, pool: pg.Pool, personId: number, now: Date): Promise<void> {
  const token = randomBytes(32).toString('base64url');
  await pool.query('INSERT INTO session (token_hash, person_id, created_at, last_seen_at, expires_at, device) VALUES ($1, $2, $3, $3, $4, $5)', [
    hashOf(token),
    personId,
    now.toISOString(),
    later(now, idleDays).toISOString(),
    deviceSaid(ctx.get('User-Agent')),
  ]);
  setCookie(ctx, cookie, token, later(now, mostDays));
  const device = ctx.cookies.get(deviceCookie) ?? randomBytes(32).toString('base64url');
  await pool.query(
    'INSERT INTO known_device (token_hash, person_id, last_used_at) VALUES ($1, $2, $3) ON CONFLICT (token_hash, person_id) DO UPDATE SET last_used_at = excluded.last_used_at',
    [hashOf(device), personId, now.toISOString()],
  );
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
export async function knownDevice(ctx: Context, pool: pg.Pool, personId: number): Promise<string | null> {
  const device = ctx.cookies.get(deviceCookie);
  if (!device) return null;
  const { rowCount } = await pool.query('SELECT FROM known_device WHERE token_hash = $1 AND person_id = $2', [hashOf(device), personId]);
  return rowCount === 1 ? hashOf(device) : null;
}

export async function endSession(ctx: Context, pool: pg.Pool): Promise<void> {
  const token = ctx.cookies.get(cookie);
  if (token) await pool.query('DELETE FROM session WHERE token_hash = $1', [hashOf(token)]);
  setCookie(ctx, cookie, null);
}

/** Ends all sessions of a person but the one this request comes from. */
export const endOtherSessions = (ctx: Context, pool: pg.Pool, personId: number): Promise<unknown> =>
  pool.query('DELETE FROM session WHERE person_id = $1 AND token_hash <> $2', [personId, hashOf(ctx.cookies.get(cookie) ?? '')]);

/** The sessions of a person that have not ended. */
export async function sessionsOf(
  ctx: Context,
  pool: pg.Pool,
  personId: number,
  now: Date,
): Promise<{ id: number; startedAt: string; lastSeenAt: string; device: string; current: boolean }[]> {
  const { rows } = await pool.query(
    `SELECT id, created_at AS "startedAt", last_seen_at AS "lastSeenAt", device, token_hash = $2 AS current FROM session WHERE person_id = $1 AND expires_at > $3 ORDER BY last_seen_at DESC, id DESC LIMIT 100`,
    [personId, hashOf(ctx.cookies.get(cookie) ?? ''), now.toISOString()],
  );
  return rows as never;
}
