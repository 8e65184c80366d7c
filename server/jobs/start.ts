import { moved, type Noun } from '@larder/contract/nouns';
import type pg from 'pg';
import type { Logger } from 'pino';
import { sendRoundUps, watchAll, watchSome } from '../areas/alerts/watch';
import { askCarriers, carrierTeller } from '../areas/carriers/teller';
import { classifyItems } from '../areas/counts/calendar';
import { changedBy, type GoingOn } from '../areas/goingOn';
import { dueLook } from '../areas/planning/looks';
import { poster } from '../areas/post/poster';
import { sendReminders } from '../areas/reminders/sending';
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
  /** Where people open it. */
  publicUrl: string;
  now: () => Date;
  /** Tells open screens what a job changed. */
  tell: (changed: readonly Noun[]) => void;
  /** Does what takes the processor for long, in a thread. */
  goOn: (work: GoingOn) => Promise<void>;
}

const recurring: Recurring[] = [
  { task: 'readOutbox', at: '* * * * *' },
  { task: 'changeDay', at: '* * * * *' },
  { task: 'closeMonths', at: '7 * * * *' },
  { task: 'classifyItems', at: '11 * * * *' },
  { task: 'lookAtPast', at: '41 * * * *' },
  { task: 'remind', at: '*/10 * * * *' },
  { task: 'watchAll', at: '*/2 * * * *' },
  { task: 'roundUps', at: '* * * * *' },
  { task: 'askCarriers', at: '*/5 * * * *' },
  { task: 'clearOld', at: '17 * * * *' },
];

/** Starts all that runs in the background. Letters, carriers and alerts have workers of their own, so that one that is slow to answer keeps nothing else waiting. Gives what stops it. */
export async function startJobs({ databaseUrl, pool, smtpUrl, publicUrl, now, tell, goOn }: Starting, log: Logger): Promise<() => Promise<void>> {
  const read = oneAtATime(() =>
    readOutbox(pool).catch((error: Error) => log.warn({ err: error }, 'the outbox could not be read; it is read again within a minute')),
  );
  const letters: { sendLetter: Task<Caused['sendLetter']> } = { sendLetter: andTell(poster(pool, smtpUrl, now), () => tell(['letter'])) };
  const desk = carrierDesk(pool, now);
  const carriers: { tellCarrier: Task<Caused['tellCarrier']> } = { tellCarrier: andTell(carrierTeller(pool, desk, now), () => tell(['parcel', 'carrier'])) };
  const watching = () => ({ pool, now: now(), address: publicUrl });
  // One that is quick has nobody wait for what takes long.
  const watcher: { watch: Task<number[]> } = {
    watch: async (itemIds) => {
      if ((await watchSome(watching(), itemIds)) > 0) tell(['alert', 'letter']);
      await rest();
    },
  };
  const house = {
    // What is written is read at once (below); this finds what a server left that died in between.
    readOutbox: async () => {
      await freeJobs(drizzleOn(pool));
      await readOutbox(pool);
    },
    changeDay: async () => {
      if ((await changeDay(pool, now())) > 0) tell(moved);
    },
    closeMonths: () => closeMonths(pool, now()),
    classifyItems: async () => {
      if ((await classifyItems(pool, now())) > 0) tell(['count']);
    },
    lookAtPast: async () => {
      const runId = await dueLook(pool, now());
      if (runId === null) return;
      const work: GoingOn = { kind: 'look', looking: { runId, now: now() } };
      // It goes on in its thread; other jobs do not wait for it.
      void goOn(work).then(() => tell(changedBy(work)));
    },
    remind: async () => {
      if ((await sendReminders(pool, now(), publicUrl)) > 0) tell(['letter', 'reminder']);
    },
    watchAll: async () => {
      if ((await watchAll(watching())) > 0) tell(['alert', 'letter']);
    },
    roundUps: async () => {
      if ((await sendRoundUps(watching())) > 0) tell(['alert', 'letter']);
    },
    askCarriers: async () => {
      await askCarriers(pool, desk, now);
      tell(['parcel', 'carrier']);
    },
    clearOld: async () => {
      await clearOld(pool, now());
      await clearLeftFiles(now());
    },
  };
  const stopListening = onOutbox(read);
  const workers = await Promise.all([
    startWorker(databaseUrl, log, letters),
    startWorker(databaseUrl, log, carriers),
    startWorker(databaseUrl, log, watcher),
    startWorker(databaseUrl, log, house, recurring),
  ]);
  return async () => {
    stopListening();
    await Promise.all(workers.map((stop) => stop()));
  };
}

/** What changes within a moment is looked at together. */
const rest = (): Promise<void> => new Promise((later) => setTimeout(later, 150));

/** The same task, which then says that it is done. */
const andTell =
  <T>(task: Task<T>, tell: () => void): Task<T> =>
  async (...given) => {
    await task(...given);
    tell();
  };

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
