import type { SQL } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import type { Act } from '../act';

/** The id of the one that is meant; it is there. */
export async function idOf({ tx }: Pick<Act, 'tx'>, table: PgTable & { id: PgColumn }, where: SQL): Promise<number> {
  const [row] = await tx.db.select({ id: table.id }).from(table).where(where);
  if (typeof row?.id !== 'number') throw new Error('the demo has no such thing');
  return row.id;
}
