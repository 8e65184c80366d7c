import type pg from 'pg';

/**
 * Gives the role that serves what the application does, and no more: it reads, and writes rows; what only grows it cannot change or delete.
 * Done by the owner after each migration. Nothing is done where one role does both.
 */
export async function grantServing(owner: pg.Pool, servingUrl: string): Promise<void> {
  const role = decodeURIComponent(new URL(servingUrl).username);
  const { rows: owners } = await owner.query<{ me: string }>('SELECT current_user AS me');
  if (role === '' || owners[0]?.me === role) return;
  const name = `"${role.replaceAll('"', '""')}"`;
  const { rows: growing } = await owner.query<{ table: string }>(
    `SELECT DISTINCT t.tgrelid::regclass::text AS table FROM pg_trigger t JOIN pg_proc p ON p.oid = t.tgfoid WHERE p.proname = 'refuse_change' AND NOT t.tgisinternal`,
  );
  await owner.query(`GRANT USAGE ON SCHEMA public TO ${name}`);
  await owner.query(`GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO ${name}`);
  await owner.query(`GRANT USAGE ON ALL SEQUENCES IN SCHEMA public TO ${name}`);
  for (const { table } of growing) await owner.query(`REVOKE UPDATE, DELETE ON ${table} FROM ${name}`);
}
