import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import type { FileAnswer } from '@larder/contract/endpoint';
import type { Problem } from '@larder/contract/values';
import { Refusal } from '@larder/core/refusal';
import { Piscina } from 'piscina';
import type { GoingOn } from '../areas/goingOn';
import type { Progress } from '@larder/contract/work';
import { isBuilt, serverFolder } from '../db/folder';
import type { Call } from '../http/route';
import { readProgress, roomForProgress, type Shared } from './progress';

/** What a thread gives back: JSON as bytes, a file, or what it refused. */
export type Answered = { kind: 'json'; json: Uint8Array } | { kind: 'file'; file: FileAnswer };
export type Given = { kind: 'answer'; endpoint: string; call: Call; progress: Shared } | { kind: 'go on'; work: GoingOn };
export type Returned = Answered | { kind: 'refused'; problem: Problem } | { kind: 'done' };

export interface Heavy {
  /** Answers a request in a thread of its own; throws what it was refused with. What is only large has a thread apart, so that it does not wait for what is heavy. */
  answer(endpoint: string, call: Call, why: 'heavy' | 'large'): Promise<Answered>;
  /** How far the person's request with this Idempotency-Key is. */
  progress(personId: number, key: string): Progress;
  /** Goes on with what a request began, after its answer has gone; a row of its own tells what became of it. Never rejected. */
  goOn(work: GoingOn): Promise<void>;
  /** Lets what is under way finish, for at most so many milliseconds, and ends the threads. */
  stop(patience: number): Promise<void>;
}

/** How many answers are worked out at once, how many more may wait, and how much memory each thread has, in MB. */
const threads = 2;
const mostWaiting = 24;
const memory = 1024;

const refusalOf = ({ status, type, title, errors, asks }: Problem): Refusal => new Refusal(status as Refusal['status'], type, title, errors, asks);
const busy = (): Refusal => new Refusal(503, 'busy', 'More is being asked at once than can be answered. Nothing was changed; try again in a moment.');
const tooMuch = (): Refusal => new Refusal(422, 'too-much', 'This is more than can be worked out at once. Ask for less of it.');

/** Threads for what takes the processor for long: two for answers, one for large postings, one for imports, one for looks at the past, so that none of these waits for the others. */
export function startThreads(url: string, failed: (error: unknown, what: string) => void): Heavy {
  const pool = (minThreads: number, maxThreads: number, maxQueue: number) =>
    new Piscina<Given, Returned>({
      filename: join(serverFolder, isBuilt ? 'dist/thread.js' : 'heavy/thread.ts'),
      execArgv: isBuilt ? [] : ['--import', 'tsx'],
      workerData: { url },
      minThreads,
      maxThreads,
      maxQueue,
      idleTimeout: 30_000,
      // What an area began goes on while no task waits.
      atomics: 'disabled',
      resourceLimits: { maxOldGenerationSizeMb: memory },
    });
  const answers = pool(1, threads, mostWaiting);
  const large = pool(0, 1, mostWaiting);
  // Begun with the first file: it goes on after its answer, and nobody waits for its start.
  const goingOn = { write: pool(0, 1, 1000), look: pool(0, 1, 10) };
  const all = [answers, large, ...Object.values(goingOn)];
  for (const one of all) one.on('error', (error: Error) => failed(error, 'a thread'));
  const underWay = new Map<string, Shared>();
  const nameOf = (personId: number, key: string) => `${personId} ${key}`;
  return {
    answer: async (endpoint, call, why) => {
      const progress = roomForProgress();
      const name = nameOf(call.by.id, call.key ?? randomUUID());
      underWay.set(name, progress);
      const returned = await (why === 'heavy' ? answers : large)
        .run({ kind: 'answer', endpoint, call, progress })
        .catch((error: unknown) => {
          const { code, message } = error as { code?: string; message?: string };
          if (/queue is at limit/i.test(message ?? '')) throw busy();
          if (code === 'ERR_WORKER_OUT_OF_MEMORY') throw tooMuch();
          throw error;
        })
        .finally(() => void (underWay.get(name) === progress && underWay.delete(name)));
      if (returned.kind === 'refused') throw refusalOf(returned.problem);
      return returned as Answered;
    },
    progress: (personId, key) => readProgress(underWay.get(nameOf(personId, key))),
    goOn: async (work) => {
      await goingOn[work.kind]
        .run({ kind: 'go on', work })
        .catch((error: unknown) => failed(error, work.kind === 'write' ? 'an import' : 'a look at the past'));
    },
    stop: async (patience) => {
      const finished = Promise.all(all.map((one) => one.close()));
      await Promise.race([finished, new Promise((later) => setTimeout(later, patience).unref())]);
      await Promise.all(all.map((one) => one.destroy()));
    },
  };
}
