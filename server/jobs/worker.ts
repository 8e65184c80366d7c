import { randomUUID } from 'node:crypto';
import { Logger, parseCronItems, run, type JobHelpers, type TaskList } from 'graphile-worker';
import type { Logger as Log } from 'pino';
import { connect } from '../db/database';
import { saidOf } from '../log';

/** What is done again and again: at the start, and whenever this pattern of minutes, hours, days, months and weekdays (cron) fits. */
export interface Recurring {
  task: string;
  at: string;
}

/** Which time it is that a job is tried, and how often at most. */
export type Try = Pick<JobHelpers['job'], 'attempts' | 'max_attempts'>;
/** Does a job; throws when it is to be tried again. */
export type Task<P = unknown> = (payload: P, how: Try) => Promise<unknown>;

/**
 * Does the jobs of these tasks, one after the other, as the database has them: there they are kept until they are done, and tried again when they fail.
 * Its name is that of its connections, so that what was under way when it died is known to be nobody's. Gives what stops it, once the job under way has ended.
 */
export async function startWorker(
  url: string,
  log: Log,
  tasks: Record<string, Task<never>>,
  recurring: readonly Recurring[] = [],
): Promise<() => Promise<void>> {
  const name = `tidy-larder jobs ${randomUUID()}`;
  const pool = connect(url, { max: 3, patient: true, name });
  const once = ({ task }: Recurring) => ({ queueName: task, jobKey: task, maxAttempts: 3 });
  const cron = recurring.map((each) => ({ task: each.task, match: each.at, identifier: each.task, options: { backfillPeriod: 0, ...once(each) } }));
  const options = {
    pgPool: pool,
    workerId: name,
    concurrency: 1,
    noHandleSignals: true,
    logger: loggerOf(log),
    taskList: taskListOf(tasks, log),
    parsedCronItems: parseCronItems(cron),
  };
  const runner = await run(options);
  for (const each of recurring) await runner.addJob(each.task, {}, once(each));
  return async () => {
    await runner.stop();
    await pool.end();
  };
}

/** The tasks as the queue calls them. What fails is logged here and kept with the job, without the values of statements. */
const taskListOf = (tasks: Record<string, Task<never>>, log: Log): TaskList =>
  Object.fromEntries(
    Object.entries(tasks).map(([name, work]) => [
      name,
      async (payload: unknown, { job }: JobHelpers) => {
        await work(payload as never, job).catch((error: unknown) => {
          log.warn({ err: error, task: name, tries: job.attempts }, 'a job failed');
          throw new Error(saidOf(error).message);
        });
      },
    ]),
  );

/** What the queue itself has to say; of jobs that failed the task has said it already. */
const loggerOf = (log: Log): Logger =>
  new Logger(() => (level, message, meta) => {
    if ((level as string) === 'error' && !meta?.failure) log.warn(message);
    else log.debug(message);
  });
