import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { pino } from 'pino';
import * as catalog from '@larder/contract/catalog';
import * as post from '@larder/contract/post';
import { drizzleOn, transaction } from '../db/database';
import { freeJobs } from '../db/functions';
import { startMailServer } from '../standins/mailServer';
import { openBusiness, type Business } from '../testing/business';
import { ordered } from '../testing/trade';
import { onOutbox, cause, readOutbox } from './outbox';
import { goOn } from '../areas/goingOn';
import { startJobs } from './start';
import { startWorker } from './worker';

/** What runs by itself, as the role that serves does it: kept until it is done, tried again, and never lost with a server that dies. */
let business: Business;
let mail: Awaited<ReturnType<typeof startMailServer>>;
const heard: { msg: string; task?: string; tries?: number; err?: { message: string } }[] = [];
const log = pino({ level: 'warn' }, { write: (line: string) => void heard.push(JSON.parse(line) as (typeof heard)[number]) });
beforeAll(async () => {
  business = await openBusiness();
  mail = await startMailServer(business.pool, pino({ level: 'silent' }));
});
afterAll(async () => {
  await mail.stop();
  await business.close();
});

/** What open screens were told. */
const told: string[] = [];
const start = (smtpUrl = mail.url) =>
  startJobs(
    {
      databaseUrl: business.servingUrl,
      pool: business.pool,
      smtpUrl,
      publicUrl: 'http://larder.test',
      now: () => business.clock.now,
      tell: (changed) => told.push(...changed),
      goOn: (work) => goOn(business.pool, work),
    },
    log,
  );
const until = async (sought: () => Promise<boolean>) => {
  while (!(await sought())) await new Promise((later) => setTimeout(later, 20));
};
const rowsOf = async (what: string) => (await business.pool.query<Record<string, unknown>>(`SELECT * FROM ${what}`)).rows;
const letters = async () => (await business.owner.get(post.listLetters, { query: {} })).rows;
async function sent(sku: string): Promise<number> {
  const order = await ordered(business, await business.item(sku), '10', '2.50');
  const body = { to: 'orders@hexley.example', subject: 'Order', text: 'Please.' };
  return (await business.owner.get(post.sendOrder, { params: { id: order.id }, body })).id;
}

test('a letter goes out as soon as its order is sent, and nothing is left of its job', async () => {
  const stop = await start();
  await sent('JOB-1');
  await until(async () => (await letters())[0]?.state === 'sent');
  await stop();
  expect(told).toContain('letter');
  expect(await rowsOf('outbox')).toEqual([]);
  expect((await rowsOf('graphile_worker.jobs')).filter(({ task_identifier: task }) => task === 'sendLetter')).toEqual([]);
  expect(heard).toEqual([]);
});

test('what was written while nobody read it goes out at the next start; two asked for about the same go once', async () => {
  const id = await sent('JOB-2');
  await transaction(business.pool, 'write', (tx) => cause({ tx }, 'sendLetter', { letterId: id }, String(id)));
  // Beside the letters the order's items are to be looked at.
  expect((await rowsOf('outbox ORDER BY id')).map(({ task }) => task)).toEqual(['watch', 'sendLetter', 'sendLetter']);
  expect(await readOutbox(business.pool)).toBe(3);
  expect((await rowsOf('graphile_worker.jobs')).filter(({ task_identifier: task }) => task === 'sendLetter')).toHaveLength(1);
  const stop = await start();
  await until(async () => (await letters())[0]?.state === 'sent');
  await stop();
  expect(await rowsOf(`delivered WHERE message_id = (SELECT message_id FROM letter WHERE id = ${id})`)).toHaveLength(1);
});

test('what a change would have caused that was not kept is not done, and nobody is told', async () => {
  let told = 0;
  const stop = onOutbox(() => (told += 1));
  const failing = transaction(business.pool, 'write', async (tx) => {
    await cause({ tx }, 'sendLetter', { letterId: 1 }, '1');
    throw new Error('changed my mind');
  });
  await expect(failing).rejects.toThrow('changed my mind');
  await transaction(business.pool, 'write', (tx) => cause({ tx }, 'sendLetter', { letterId: 1 }, '1'));
  await until(async () => told > 0);
  stop();
  expect(told).toBe(1);
  expect(await rowsOf(`outbox WHERE task = 'sendLetter'`)).toHaveLength(1);
  await readOutbox(business.pool);
});

test('what waits to be looked at is added to, however often something of it changes', async () => {
  const some = [await business.item('JOB-W1'), await business.item('JOB-W2')];
  for (const itemId of some) await ordered(business, itemId, '1');
  await readOutbox(business.pool);
  for (const itemId of some) await ordered(business, itemId, '1');
  await readOutbox(business.pool);
  const waiting = await rowsOf(`graphile_worker._private_jobs WHERE key = 'watch'`);
  expect(waiting).toHaveLength(1);
  expect(waiting[0]?.payload).toEqual(expect.arrayContaining(some));
});

test('a job that fails is told, kept with the reason but no values, and tried again; what it holds up is nothing else', async () => {
  const tries: number[] = [];
  const done: string[] = [];
  const work = async (_: unknown, { attempts }: { attempts: number }) => {
    tries.push(attempts);
    if (attempts < 2) await business.pool.query('SELECT * FROM company WHERE id = $1', ['a secret']);
  };
  const other = async () => void done.push('other');
  const stop = await startWorker(business.servingUrl, log, { failing: work, other }, [
    { task: 'failing', at: '0 0 1 1 *' },
    { task: 'other', at: '0 0 1 1 *' },
  ]);
  await until(async () => tries.length === 1 && done.length === 1);
  await until(async () => (await rowsOf(`graphile_worker.jobs WHERE task_identifier = 'failing' AND last_error IS NOT NULL`)).length === 1);
  const [waiting] = await rowsOf(`graphile_worker.jobs WHERE task_identifier = 'failing'`);
  expect(waiting?.last_error).toContain('invalid input syntax');
  expect(waiting?.last_error).not.toContain('secret');
  expect(heard.at(-1)).toMatchObject({ msg: 'a job failed', task: 'failing', tries: 1 });
  await business.pool.query(`UPDATE graphile_worker._private_jobs SET run_at = now() WHERE key = 'failing'`);
  await until(async () => tries.length === 2);
  await stop();
  expect(tries).toEqual([1, 2]);
});

test('what a server had under way when it died is given back and done', async () => {
  const id = await sent('JOB-3');
  await readOutbox(business.pool);
  await business.pool.query(
    `UPDATE graphile_worker._private_jobs SET locked_by = 'tidy-larder jobs of one that died', locked_at = now() WHERE key = 'sendLetter ${id}'`,
  );
  const stop = await start();
  await until(async () => (await letters())[0]?.state === 'sent');
  await stop();
});

test('the change of day is done at the start', async () => {
  const itemId = await business.item('JOB-4', { tracking: 'lot' });
  await business.pool.query(`INSERT INTO lot (item_id, code, kind, use_by) VALUES (${itemId}, 'OLD', 'lot', '2020-01-01')`);
  const stop = await start();
  await until(async () => (await rowsOf(`lot WHERE code = 'OLD' AND past_use`)).length === 1);
  await stop();
  expect((await business.owner.get(catalog.getItem, { params: { id: itemId } })).sku).toBe('JOB-4');
});

/** While `work` goes on, nothing can be asked of the queue, as when the database is away. */
async function withoutQueue(work: () => Promise<void>): Promise<void> {
  await business.pool.query('ALTER TABLE graphile_worker._private_jobs RENAME TO _private_away');
  await work();
  await business.pool.query('ALTER TABLE graphile_worker._private_away RENAME TO _private_jobs');
}
const said = (msg: string) => heard.some((line) => line.msg.startsWith(msg));

test('what comes again and again is missed while the database is away, said, and comes again afterwards', async () => {
  let done = 0;
  const stop = await startWorker(business.servingUrl, log, { again: async () => void (done += 1) }, [{ task: 'again', at: '* * * * * *' }]);
  await until(async () => done >= 2);
  await withoutQueue(() => until(async () => said('a job could not be asked for')));
  const before = done;
  // One that was under way as the queue went away is given back, as the server does it each minute.
  await until(async () => (await freeJobs(drizzleOn(business.pool)), done > before));
  await stop();
});

test('a worker that cannot say how its job ended is replaced, and what it had is given back and done', async () => {
  const done: string[] = [];
  let isAway = false;
  const work = async ({ name }: { name: string }) => {
    done.push(name);
    if (name === 'first' && !isAway) await business.pool.query('ALTER TABLE graphile_worker._private_jobs RENAME TO _private_away').then(() => (isAway = true));
  };
  const stop = await startWorker(business.servingUrl, log, { named: work });
  const ask = (name: string) => business.pool.query(`SELECT graphile_worker.add_job('named', '{"name":"${name}"}')`);
  await ask('first');
  await until(async () => said('a worker ended'));
  await business.pool.query('ALTER TABLE graphile_worker._private_away RENAME TO _private_jobs');
  await ask('second');
  await until(async () => done.includes('second'));
  await until(async () => (await freeJobs(drizzleOn(business.pool)), done.filter((name) => name === 'first').length === 2));
  await stop();
  expect(done.toSorted()).toEqual(['first', 'first', 'second']);
});
