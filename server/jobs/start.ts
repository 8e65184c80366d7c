import type pg from 'pg';
import type { Logger } from 'pino';
import { askCarriers, carrierTeller } from '../areas/carriers/teller';
import { poster } from '../areas/post/poster';
import { drizzleOn } from '../db/database';
import { freeJobs } from '../db/functions';
import { clearLeftFiles } from '../http/file';
import { closeMonths } from '../ledger/months';
import { changeDay } from '../ledger/pastUse';
import { clearOld } from './clearOld';
import type { Caused } from './jobs';
import { onOutbox, readOutbox } from './outbox';
import { carrierDesk } from '../standins/carrier';
import { startWorker, type Recurring, type Task } from './worker';

interface Starting {
  databaseUrl: string;
  pool: pg.Pool;
  smtpUrl: string;
  now: () => Date;
}

const recurring: Recurring[] = [
  { task: 'readOutbox', at: '* * * * *' },
  { task: 'changeDay', at: '* * * * *' },
  { task: 'closeMonths', at: '7 * * * *' },
  { task: 'askCarriers', at: '*/5 * * * *' },
  { task: 'clearOld', at: '17 * * * *' },
];

/** Starts all that runs in the background. Letters and carriers have workers of their own, so that one that is slow to answer keeps nothing else waiting. Gives what stops it. */
export async function startJobs({ databaseUrl, pool, smtpUrl, now }: Starting, log: Logger): Promise<() => Promise<void>> {
  const read = oneAtATime(() =>
    readOutbox(pool).catch((error: Error) => log.warn({ err: error }, 'the outbox could not be read; it is read again within a minute')),
  );
  const letters: { sendLetter: Task<Caused['sendLetter']> } = { sendLetter: poster(pool, smtpUrl, now) };
  const desk = carrierDesk(pool, now);
  const carriers: { tellCarrier: Task<Caused['tellCarrier']> } = { tellCarrier: carrierTeller(pool, desk, now) };
  const house = {
    // What is written is read at once (below); this finds what a server left that died in between.
    readOutbox: async () => {
      await freeJobs(drizzleOn(pool));
      await readOutbox(pool);
    },
    changeDay: () => changeDay(pool, now()),
    closeMonths: () => closeMonths(pool, now()),
    askCarriers: () => askCarriers(pool, desk, now),
    clearOld: async () => {
      await clearOld(pool, now());
      await clearLeftFiles(now());
    },
  };
  const stopListening = onOutbox(read);
  const workers = await Promise.all([
    startWorker(databaseUrl, log, letters),
    startWorker(databaseUrl, log, carriers),
    startWorker(databaseUrl, log, house, recurring),
  ]);
  return async () => {
    stopListening();
    await Promise.all(workers.map((stop) => stop()));
  };
}

/** Does `work` when called; called while it is under way, does it once more after that. */
function oneAtATime(work: () => Promise<unknown>): () => void {
  let [underWay, again] = [false, false];
  return function start() {
    if (underWay) return void (again = true);
    underWay = true;
    void work().finally(() => {
      underWay = false;
      if (again) {
        again = false;
        start();
      }
    });
  };
}
