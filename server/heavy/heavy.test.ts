import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as catalog from '@larder/contract/catalog';
import * as exchange from '@larder/contract/exchange';
import * as printing from '@larder/contract/printing';
import { pino } from 'pino';
import { createApp } from '../app';
import { connect } from '../db/database';
import { listen, type Listening } from '../http/listen';
import { Caller, openBusiness, type Business } from '../testing/business';
import { startThreads, type Heavy } from './threads';

/** Heavy work in threads of its own, as the server runs it. */
let business: Business;
let heavy: Heavy;
let listening: Listening;
let pools: ReturnType<typeof connect>[];
let owner: Caller;
const failures: unknown[] = [];

beforeAll(async () => {
  business = await openBusiness();
  heavy = startThreads(business.servingUrl, (error) => failures.push(error));
  pools = [connect(business.servingUrl, { max: 4 }), connect(business.servingUrl, { max: 1 })];
  const [pool, health] = pools as [ReturnType<typeof connect>, ReturnType<typeof connect>];
  listening = await listen(createApp({ pool, health, clock: () => business.clock.now, heavy }, pino({ level: 'silent' })).app, 0, '127.0.0.1');
  owner = new Caller(`http://127.0.0.1:${listening.port}`, business.owner.cookie);
});
afterAll(async () => {
  await listening.stop(2000);
  await heavy.stop(2000);
  await Promise.all(pools.map((pool) => pool.end()));
  await business.close();
  expect(failures).toEqual([]);
});

const file = (rows: number) => ({
  kind: 'items' as const,
  fileName: 'many.csv',
  headings: ['SKU', 'Name'],
  fields: ['sku', 'name'],
  rows: Array.from({ length: rows }, (_, n) => [`M-${n}`, `Many ${n}`]),
});
async function taken(list: string, body: object): Promise<string> {
  const answer = await fetch(`${owner.base}/api/exchange/exports/${list}`, {
    method: 'POST',
    headers: { Cookie: owner.cookie, 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  });
  expect(answer.headers.get('Cache-Control')).toBe('no-store');
  return answer.text();
}

test('a file is checked, written while its progress is told, and taken out again, whole', async () => {
  const job = await owner.get(exchange.checkImport, { body: file(3000) });
  expect(job).toMatchObject({ state: 'checked', counts: { new: 3000, refused: 0 } });
  await owner.get(exchange.runImport, { params: { id: job.id } });
  const ended = async () => (await owner.get(exchange.getImport, { params: { id: job.id } })).import;
  for (let tries = 0; tries < 200 && (await ended()).state === 'running'; tries += 1) await new Promise((later) => setTimeout(later, 50));
  expect(await ended()).toMatchObject({ state: 'done', done: 3000 });
  const lines = (await taken('items', { fields: 'sku,name' })).trim().split('\r\n');
  expect([lines.length, lines[0], lines.includes('M-2999,Many 2999')]).toEqual([3001, 'SKU,Name', true]);
}, 60_000);

test('twenty imports by one person are written one after the other, and others are answered meanwhile', async () => {
  const jobs = await Promise.all(
    Array.from({ length: 20 }, (_, n) =>
      owner.get(exchange.checkImport, { body: { ...file(40), rows: Array.from({ length: 40 }, (_, row) => [`T-${n}-${row}`, `Twenty ${n}`]) } }),
    ),
  );
  await Promise.all(jobs.map(({ id }) => owner.get(exchange.runImport, { params: { id } })));
  const states = () => Promise.all(jobs.map(async ({ id }) => (await owner.get(exchange.getImport, { params: { id } })).import.state));
  for (let tries = 0; tries < 200 && (await states()).includes('running'); tries += 1) {
    expect((await fetch(`${owner.base}/api/health`)).status).toBe(200);
    await new Promise((later) => setTimeout(later, 50));
  }
  expect(new Set(await states())).toEqual(new Set(['done']));
}, 60_000);

test('others are answered while one asks for the heaviest there is', async () => {
  const { rows } = await owner.get(catalog.listItems, { query: { limit: 50 } });
  let printed = false;
  const labels = owner.get(printing.printLabels, { body: { items: rows.map(({ id }) => id), copies: 40, sheet: 'a4-3x7', symbology: 'qr' } as never });
  const print = labels.then(() => (printed = true));
  let answered = 0;
  while (!printed && answered < 20) {
    await owner.get(catalog.listItems, { query: { limit: 5 } });
    answered += 1;
  }
  expect([answered, printed]).toEqual([20, false]);
  await print;
}, 120_000);

test('what a thread refuses is told with its field, and what cannot be read as well', async () => {
  const { status, problem } = await owner.ask(printing.printLabels, { body: { sheet: 'nothing', items: [1] } as never });
  expect([status, problem.errors[0]?.field]).toEqual([422, 'sheet']);
  const garbled = await fetch(`${owner.base}${printing.printLabels.path}`, {
    method: 'POST',
    headers: { Cookie: owner.cookie, 'Content-Type': 'application/json', 'Idempotency-Key': 'garbled-1' },
    body: '{"sheet":',
  });
  expect([garbled.status, garbled.headers.get('Content-Type')]).toEqual([400, 'application/problem+json']);
});

test('so many at once that they cannot wait are told to come again', async () => {
  const body = JSON.stringify({ fields: 'sku,name', format: 'xlsx' });
  const answers = await Promise.all(
    Array.from({ length: 40 }, async () => {
      const headers = { Cookie: owner.cookie, 'Content-Type': 'application/json' };
      const answer = await fetch(`${owner.base}/api/exchange/exports/items`, { method: 'POST', headers, body });
      await answer.arrayBuffer();
      return [answer.status, answer.headers.get('Retry-After')] as const;
    }),
  );
  const statuses = answers.map(([status]) => status);
  expect(statuses.filter((status) => status === 200).length).toBeGreaterThanOrEqual(20);
  expect(answers.find(([status]) => status === 503)).toEqual([503, '2']);
  expect(statuses.every((status) => status === 200 || status === 503)).toBe(true);
}, 60_000);
