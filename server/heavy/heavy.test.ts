import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as catalog from '@larder/contract/catalog';
import * as exchange from '@larder/contract/exchange';
import * as printing from '@larder/contract/printing';
import { newRequestKey } from '@larder/contract/requestKey';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import * as work from '@larder/contract/work';
import { monitorEventLoopDelay } from 'node:perf_hooks';
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
  // One after the other, as a page asks: what is held up here is not twenty more questions at once.
  const states = async () => {
    const found: string[] = [];
    for (const { id } of jobs) found.push((await owner.get(exchange.getImport, { params: { id } })).import.state);
    return found;
  };
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

test('who waits is told how far it is, and nobody else', async () => {
  const { rows } = await owner.get(catalog.listItems, { query: { limit: 50 } });
  const key = newRequestKey();
  const body = { items: rows.map(({ id }) => id), copies: 20, sheet: 'a4-3x7', symbology: 'qr' } as never;
  let printed = false;
  const print = owner.ask(printing.printLabels, { body }, { key }).then(() => (printed = true));
  const other = new Caller(owner.base, (await business.as('Onlooker')).cookie);
  const seen: number[] = [];
  while (!printed) {
    const { state, done, total } = await owner.get(work.getProgress, { params: { key } });
    expect(await other.get(work.getProgress, { params: { key } })).toEqual({ state: 'gone', done: 0, total: null });
    if (state === 'working' && total !== null) {
      expect(total).toBe(1000);
      seen.push(done);
    }
  }
  await print;
  expect(seen.length).toBeGreaterThan(1);
  expect(seen).toEqual([...seen].sort((a, b) => a - b));
  expect(await owner.get(work.getProgress, { params: { key } })).toEqual({ state: 'gone', done: 0, total: null });
}, 120_000);

test('labels that are asked for again under the same key are printed once', async () => {
  const { rows } = await owner.get(catalog.listItems, { query: { limit: 1 } });
  const body = { items: rows.map(({ id }) => id), sheet: 'a4-3x7', symbology: 'qr' } as never;
  const key = newRequestKey();
  const both = await Promise.all([owner.ask(printing.printLabels, { body }, { key }), owner.ask(printing.printLabels, { body }, { key })]);
  expect(new Set([...both, await owner.ask(printing.printLabels, { body }, { key })].map(({ data }) => data.id)).size).toBe(1);
});

/** The longest the event loop of this process, which serves here, was held while `work` was done, in milliseconds. */
async function held(work: () => Promise<unknown>): Promise<number> {
  const delays = monitorEventLoopDelay({ resolution: 5 });
  delays.enable();
  await work();
  delays.disable();
  return delays.max / 1e6;
}

test('what is largest of all that may be asked holds nobody for long', async () => {
  const shelf = { siteId: business.siteId, codes: Array.from({ length: 25 }, (_, n) => `HELD-${n}`) };
  const bins = (await owner.get(setup.createBins, { body: shelf as never })).rows.map(({ id }) => id);
  const items = await Promise.all(Array.from({ length: 20 }, (_, n) => business.item(`HELD-${n}`)));
  const serial = await business.item('HELD-S', { tracking: 'serial' });
  let run = 0;
  const lines = () => Array.from({ length: 500 }, (_, n) => ({ itemId: items[n % 20] as number, binId: bins[Math.floor(n / 20)] as number, quantity: '1' }));
  const largest: [string, () => Promise<unknown>][] = [
    ['a correction of 500 lines', () => owner.get(stock.correct, { body: { way: 'plus-or-minus', reasonId: business.reasonId, lines: lines() } })],
    [
      'the stock of 5,000 serials',
      () => {
        const lots = Array.from({ length: 5000 }, (_, n) => ({ code: `H${run}-${n}` }));
        run += 1;
        return owner.get(stock.openStock, { body: { lines: [{ itemId: serial, binId: bins[0] as number, quantity: '5000', unitValue: '1', lots }] } });
      },
    ],
    ['the dry run of 20,000 rows', () => owner.get(exchange.checkImport, { body: file(20_000) })],
    ['all items as a workbook', () => taken('items', { fields: 'sku,name', format: 'xlsx' })],
  ];
  for (const [what, ask] of largest) {
    // A machine that is busy with something else holds it too, but not each time.
    let shortest = Infinity;
    for (let tries = 0; tries < 4 && shortest > 200; tries += 1) shortest = Math.min(shortest, await held(ask));
    expect([what, shortest > 200 ? `${Math.round(shortest)} ms` : 'not held']).toEqual([what, 'not held']);
  }
}, 180_000);

test('more lots than one posting may bring in are refused by their line', async () => {
  const itemId = await business.item('MANY-S', { tracking: 'serial' });
  const lots = (from: number, to: number) => Array.from({ length: to - from }, (_, n) => ({ code: `MANY-${from + n}` }));
  const line = (some: { code: string }[]) => ({ itemId, binId: business.bins[0] as number, quantity: String(some.length), unitValue: '1', lots: some });
  const { status, problem } = await owner.ask(stock.openStock, { body: { lines: [line(lots(0, 3000)), line(lots(3000, 5001))] } });
  expect([status, problem.type, problem.errors[0]?.field]).toEqual([422, 'too-many-lots', 'lines.1.lots']);
});

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
