import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { pino } from 'pino';
import { createApp } from '../app';
import { openBusiness, signIn, type Business, type Caller } from '../testing/business';
import { listen, type Listening } from './listen';
import { startLive, type Live, type News } from './live';

/** Two servers on one database, each with its streams: what is written over one is told by both. */
let business: Business;
const servers: { live: Live; listening: Listening; base: string; caller: Caller }[] = [];
beforeAll(async () => {
  business = await openBusiness();
  const log = pino({ level: 'silent' });
  for (let n = 0; n < 2; n += 1) {
    const live = await startLive(business.servingUrl, log);
    const { app } = createApp({ pool: business.pool, health: business.pool, clock: () => business.clock.now, live }, log);
    const listening = await listen(app, 0, '127.0.0.1');
    const base = `http://127.0.0.1:${listening.port}`;
    servers.push({ live, listening, base, caller: await signIn(base, 'owner@test.example') });
  }
});
afterAll(async () => {
  for (const { live, listening } of servers) {
    await live.stop();
    await listening.stop(1000);
  }
  await business.close();
});

/** What a stream tells, until it is closed. */
async function hear({ base, caller }: { base: string; caller: Caller }, ago?: number) {
  const news: News[] = [];
  let [isOpen, ended] = [false, false];
  const closing = new AbortController();
  const answer = await fetch(`${base}/api/live${ago === undefined ? '' : `?ago=${ago}`}`, { headers: { Cookie: caller.cookie }, signal: closing.signal });
  void (async () => {
    const decoder = new TextDecoder();
    let text = '';
    for await (const part of answer.body as unknown as AsyncIterable<Uint8Array>) {
      text += decoder.decode(part, { stream: true });
      const events = text.split('\n\n');
      text = events.pop() ?? '';
      for (const event of events) {
        if (/^event: ?begun$/m.test(event)) isOpen = true;
        if (/^event: ?news$/m.test(event)) news.push(...(JSON.parse(/^data: ?(.*)$/m.exec(event)?.[1] ?? '[]') as News[]));
      }
    }
  })()
    .catch(() => undefined)
    .finally(() => void (ended = true));
  await until(() => isOpen || ended);
  return { news, status: answer.status, type: answer.headers.get('Content-Type'), hasEnded: () => ended, close: () => closing.abort() };
}
async function until(sought: () => boolean): Promise<number> {
  const began = performance.now();
  while (!sought()) await new Promise((later) => setTimeout(later, 5));
  return performance.now() - began;
}
const [one, other] = [() => servers[0] as (typeof servers)[number], () => servers[1] as (typeof servers)[number]];
const opening = async () => ({
  lines: [{ itemId: await business.item(randomUUID().slice(0, 8)), binId: business.bins[0] as number, quantity: '1', unitValue: '1.00' }],
});

test('what is posted over one server is told by the other, with the tab it was done in', async () => {
  const [here, there] = [await hear(one()), await hear(other())];
  const body = await opening();
  const sent = await fetch(`${one().base}${stock.openStock.path}`, {
    method: 'POST',
    headers: { Cookie: one().caller.cookie, 'Content-Type': 'application/json', 'Idempotency-Key': randomUUID(), 'Larder-Tab': 'tab-1' },
    body: JSON.stringify(body),
  });
  expect([sent.status, there.status, there.type]).toEqual([200, 200, 'text/event-stream']);
  await until(() => there.news.length > 0 && here.news.length > 0);
  for (const { news } of [here, there]) {
    expect(news.map(({ from }) => from)).toEqual(['tab-1']);
    expect(news[0]?.nouns).toEqual([...new Set(stock.openStock.changes)]);
  }
  here.close();
  there.close();
});

test('what is only asked, foreseen or refused is not told', async () => {
  const there = await hear(other());
  const { caller } = one();
  const body = await opening();
  await caller.get(stock.stockTable, { query: {} });
  await caller.ask(stock.openStock, { body }, { preview: true });
  expect((await caller.ask(stock.openStock, { body: { lines: [] } })).status).toBe(422);
  await caller.get(setup.createSite, { body: { code: 'LIVE', name: 'Live store' } });
  await until(() => there.news.length > 0);
  expect(there.news.map(({ nouns }) => nouns)).toEqual([[...setup.createSite.changes]]);
  there.close();
});

test('is for those who are signed in; one person’s thirteenth stream ends the first', async () => {
  expect((await fetch(`${one().base}/api/live`)).status).toBe(401);
  const first = await hear(one());
  const more = [];
  for (let n = 0; n < 12; n += 1) more.push(await hear(one()));
  await until(first.hasEnded);
  expect(more.map(({ hasEnded }) => hasEnded())).toEqual(Array.from({ length: 12 }, () => false));
  for (const { close } of more) close();
});

test('whoever begins to listen is told what was news since they read; of longer ago, that anything may have changed', async () => {
  const [there, began] = [await hear(other()), performance.now()];
  await one().caller.get(setup.createSite, { body: { code: 'LIVE-3', name: 'A third' } });
  await until(() => there.news.length > 0);
  const late = await hear(other(), Math.ceil(performance.now() - began));
  await until(() => late.news.length > 0);
  expect(late.news).toEqual(there.news);
  const [veryLate, atOnce] = [await hear(other(), 3_600_000), await hear(other())];
  await until(() => veryLate.news.length > 0);
  expect(veryLate.news).toEqual([{ nouns: null, from: null }]);
  expect(atOnce.news).toEqual([]);
  for (const { close } of [there, late, veryLate, atOnce]) close();
});

test('a connection that is cut is made anew, and everything is read again, since what was missed is not known', async () => {
  const there = await hear(other());
  await business.pool.query("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE application_name = 'tidy-larder live'");
  await until(() => there.news.some(({ nouns }) => nouns === null));
  const before = there.news.length;
  await one().caller.get(setup.createSite, { body: { code: 'LIVE-2', name: 'Another' } });
  await until(() => there.news.length > before);
  there.close();
});

test('stopping ends every stream', async () => {
  const live = await startLive(business.servingUrl, pino({ level: 'silent' }));
  const { app } = createApp({ pool: business.pool, health: business.pool, clock: () => business.clock.now, live }, pino({ level: 'silent' }));
  const listening = await listen(app, 0, '127.0.0.1');
  const stream = await hear({ base: `http://127.0.0.1:${listening.port}`, caller: one().caller });
  await live.stop();
  await until(stream.hasEnded);
  await listening.stop(10_000);
});
