import { createHash, randomBytes } from 'node:crypto';
import type pg from 'pg';
import type { Context } from 'koa';
import type { Person } from '../act';

const cookie = 'larder_session';
const days = 14;
const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** A person with the rights of every grant; `p` is the person's row. */
export const personColumns = `p.id, p.name, p.email,
  (SELECT coalesce(json_agg(json_build_object('siteId', g.site_id, 'rights', r.rights)), '[]') FROM role_grant g JOIN role r ON r.id = g.role_id WHERE g.person_id = p.id) AS grants`;

const sessionSql = `SELECT ${personColumns} FROM session s JOIN person p ON p.id = s.person_id WHERE s.token_hash = $1 AND s.expires_at > $2 AND p.active`;

/** The person this request comes from, or null. */
export async function personOf(ctx: Context, pool: pg.Pool, now: Date): Promise<Person | null> {
  const token = ctx.cookies.get(cookie);
  if (!token) return null;
  const { rows } = await pool.query<Person>({ name: 'session', text: sessionSql, values: [hashOf(token), now.toISOString()] });
  return rows[0] ?? null;
}

/** Begins a session: a fresh token in an http-only, same-site cookie; the database knows its hash only. */
export async function beginSession(ctx: Context, pool: pg.Pool, personId: number, now: Date): Promise<void> {
  const token = randomBytes(32).toString('base64url');
  const expires = new Date(now.getTime() + days * 86_400_000);
  await pool.query('DELETE FROM session WHERE expires_at < $1', [now.toISOString()]);
  await pool.query('INSERT INTO session (token_hash, person_id, created_at, expires_at) VALUES ($1, $2, $3, $4)', [
    hashOf(token),
    personId,
    now.toISOString(),
    expires.toISOString(),
  ]);
  ctx.cookies.set(cookie, token, { httpOnly: true, sameSite: 'strict', secure: ctx.secure, expires, overwrite: true });
}

export async function endSession(ctx: Context, pool: pg.Pool): Promise<void> {
  const token = ctx.cookies.get(cookie);
  if (token) await pool.query('DELETE FROM session WHERE token_hash = $1', [hashOf(token)]);
  ctx.cookies.set(cookie, null, { httpOnly: true, sameSite: 'strict', overwrite: true });
}
