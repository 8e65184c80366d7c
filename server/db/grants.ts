import { sql } from 'drizzle-orm';
import type pg from 'pg';
import { drizzleOn } from './database';
import { oneRow } from './given';

/**
 * Gives the role that serves what the application does, and no more: it reads, and writes rows; what only grows it cannot change or delete.
 * Done by the owner after each migration. Nothing is done where one role does both.
 */
export async function grantServing(owner: pg.Pool, servingUrl: string): Promise<void> {
  const role = decodeURIComponent(new URL(servingUrl).username);
  const db = drizzleOn(owner);
  const [connected] = await db.select({ me: sql<string>`current_user` }).from(oneRow);
  if (role === '' || connected?.me === role) return;
  const name = sql.identifier(role);
  // What a trigger keeps from being changed: it only grows.
  const growing = await db
    .select({ table: sql<string>`relname` })
    .from(sql`pg_class`)
    .where(sql`oid in (select tgrelid from pg_trigger join pg_proc on pg_proc.oid = tgfoid where proname = 'refuse_change' and not tgisinternal)`);
  await db.execute(sql`grant usage on schema public to ${name}`);
  await db.execute(sql`grant select, insert, update, delete on all tables in schema public to ${name}`);
  await db.execute(sql`grant usage on all sequences in schema public to ${name}`);
  await db.execute(sql`grant usage on schema graphile_worker to ${name}`);
  await db.execute(sql`grant select, insert, update, delete on all tables in schema graphile_worker to ${name}`);
  await db.execute(sql`grant usage on all sequences in schema graphile_worker to ${name}`);
  // The queue's tables show their rows to their owner only, unless a policy says to whom else.
  const guarded = await db
    .select({ table: sql<string>`relname` })
    .from(sql`pg_class`)
    .where(sql`relnamespace = 'graphile_worker'::regnamespace and relrowsecurity`);
  for (const { table } of guarded) {
    const of = sql`on graphile_worker.${sql.identifier(table)}`;
    await db.execute(sql`drop policy if exists serving ${of}`);
    await db.execute(sql`create policy serving ${of} to ${name} using (true)`);
  }
  for (const { table } of growing) await db.execute(sql`revoke update, delete on ${sql.identifier(table)} from ${name}`);
}
