import { sql } from 'drizzle-orm';
import type { Tx } from './database';

/** Functions of the database that are called for what they do. */

/** Brings what finding looks through up to date for these items. */
export const refreshFindable = ({ db }: Pick<Tx, 'db'>, itemIds: readonly number[]): Promise<unknown> =>
  db.execute(sql`select refresh_findable(${sql.param(itemIds)}::int[])`);

/** Lets those who do what has this name go one after the other, each until the end of its transaction. */
export const oneAfterTheOther = ({ db }: Pick<Tx, 'db'>, name: string): Promise<unknown> => db.execute(sql`select pg_advisory_xact_lock(hashtext(${name}))`);
