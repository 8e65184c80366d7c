import { randomUUID } from 'node:crypto';
import { Cron } from 'croner';
import { Logger, run, type JobHelpers, type Runner, type TaskList } from 'graphile-worker';
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
 * One that could not even say how its job ended, because the database had gone, does no more; another takes its place. Gives what stops it, once the job under way has ended.
 */
export async function startWorker(
  url: string,
  log: Log,
  tasks: Record<string, Task<never>>,
  recurring: readonly Recurring[] = [],
): Promise<() => Promise<void>> {
  let stopping = false;
  let replaced: Promise<void> = Promise.resolve();
  const next = () => employ(url, log, tasks, () => (replaced = replace()));
  let worker = await next();

  async function replace(): Promise<void> {
    log.warn('a worker ended, as the database was gone; another takes its place');
    await worker.stop();
    while (!stopping) {
      try {
        worker = await next();
        return;
      } catch (error) {
        log.warn({ err: error }, 'no worker could be started; it is tried again');
        await new Promise((later) => setTimeout(later, 1000));
      }
    }
  }

  const ask = ({ task }: Recurring) => worker.runner.addJob(task, {}, { queueName: task, jobKey: task, maxAttempts: 3 });
  for (const each of recurring) await ask(each);
  // The queue has a clock of its own, which ends the process when the database cannot be reached as a minute begins.
  const clocks = recurring.map((each) => {
    const missed = (error: unknown) => log.warn({ err: error, task: each.task }, 'a job could not be asked for; it is asked for again when its time comes');
    return new Cron(each.at, { timezone: 'UTC', catch: missed }, async () => void (await ask(each)));
  });
  return async () => {
    stopping = true;
    for (const clock of clocks) clock.stop();
    await replaced;
    await worker.stop();
  };
}

/** One worker with connections of its own, which have its name, so that what was under way when it died is known to be nobody's. */
async function employ(url: string, log: Log, tasks: Record<string, Task<never>>, ended: () => void): Promise<{ runner: Runner; stop: () => Promise<void> }> {
  const name = `tidy-larder jobs ${randomUUID()}`;
  const pool = connect(url, { max: 3, patient: true, name });
  try {
    const options = {
      pgPool: pool,
      workerId: name,
      concurrency: 1,
      noHandleSignals: true,
      logger: loggerOf(log),
      taskList: taskListOf(tasks, log),
      parsedCronItems: [],
    };
    const runner = await run(options);
    runner.events.once('worker:fatalError', ended);
    const stop = async () => {
      await runner.stop();
      await pool.end();
    };
    return { runner, stop };
  } catch (error) {
    await pool.end();
    throw error;
  }
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
