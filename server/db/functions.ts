import { sql } from 'drizzle-orm';
import type { Db, Tx } from './database';

/** Functions of the database that are called for what they do. */

/** Brings what finding looks through up to date for these items. */
export const refreshFindable = ({ db }: Pick<Tx, 'db'>, itemIds: readonly number[]): Promise<unknown> =>
  db.execute(sql`select refresh_findable(${sql.param(itemIds)}::int[])`);

/** Lets those who do what has this name go one after the other, each until the end of its transaction. */
export const oneAfterTheOther = ({ db }: Pick<Tx, 'db'>, name: string): Promise<unknown> => db.execute(sql`select pg_advisory_xact_lock(hashtext(${name}))`);

export interface JobAsked {
  task: string;
  payload: unknown;
  /** Jobs of one queue are done one after the other. */
  queue: string;
  attempts: number;
  /** A job about the same that waits is this one from now on. */
  about: string;
}

/** Puts a job into the queue, where the worker finds it once the transaction is done. */
export const addJob = ({ db }: Pick<Tx, 'db'>, { task, payload, queue, attempts, about }: JobAsked): Promise<unknown> =>
  db.execute(
    sql`select graphile_worker.add_job(${task}, ${JSON.stringify(payload)}::json, queue_name => ${queue}, max_attempts => ${attempts}::int, job_key => ${about})`,
  );

/** Gives back to the queue what was under way at workers that are gone: those that have no connection any more under their name. */
export const freeJobs = (db: Db): Promise<unknown> =>
  db.execute(sql`
    select graphile_worker.force_unlock_workers(array_agg(distinct locked_by)) from graphile_worker.jobs
    where locked_by is not null and not exists (select from pg_stat_activity where application_name = locked_by)`);

/** Keeps what lay where at the end of a month, the day of which is given; who posts meanwhile waits. */
export const closeMonth = ({ db }: Pick<Tx, 'db'>, ended: string): Promise<unknown> => db.execute(sql`select close_month(${ended}::date)`);
