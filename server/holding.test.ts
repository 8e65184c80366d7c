import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createServer, type AddressInfo } from 'node:net';
import * as receiving from '@larder/contract/receiving';
import * as outbound from '@larder/contract/outbound';
import * as stock from '@larder/contract/stock';
import type { Endpoint } from '@larder/contract/endpoint';
import { openBusiness, signIn, type Business, type Caller } from './testing/business';
import { ordered, stocked } from './testing/trade';

let business: Business;
let items: number[];
beforeAll(async () => {
  business = await openBusiness(new Date());
  items = [];
  for (let n = 0; n < 10; n += 1) items.push(await business.item(`HOT-${n}`));
  for (const itemId of items) await stocked(business, itemId, '200');
});
afterAll(() => business.close());

const freePort = async (): Promise<number> => {
  const probe = createServer().listen(0, '127.0.0.1');
  await once(probe, 'listening');
  const { port } = probe.address() as AddressInfo;
  probe.close();
  return port;
};

/** A server of its own, as npm start runs it, on the business's database. */
async function startServer(port: number): Promise<ChildProcess> {
  const child = spawn(process.execPath, ['--enable-source-maps', 'server/dist/main.js'], {
    stdio: 'ignore',
    env: { ...process.env, NODE_OPTIONS: '', DATABASE_URL: business.servingUrl, DATABASE_OWNER_URL: business.url, PORT: String(port), LOG_LEVEL: 'silent' },
  });
  for (let tries = 0; tries < 300; tries += 1) {
    const well = await fetch(`http://127.0.0.1:${port}/api/health`).then(
      (answer) => answer.ok,
      () => false,
    );
    if (well) return child;
    await new Promise((later) => setTimeout(later, 50));
  }
  throw new Error('the server did not start');
}

interface Attempt {
  endpoint: Endpoint;
  body: unknown;
  key: string;
}

/** As when the database is restarted: every connection of the other server ends, whatever it is doing. */
const cutConnections = () =>
  business.pool.query(`SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND application_name = 'tidy-larder'`);

const any = <T>(list: readonly T[]): T => list[Math.floor(Math.random() * list.length)] as T;
const upTo = (n: number) => String(1 + Math.floor(Math.random() * n));

test('8 workers post at random on the same ten items while the server is killed twice and its connections to the database are cut: nothing is lost, doubled or broken', async () => {
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  let server = await startServer(port);
  const callers = await Promise.all(Array.from({ length: 8 }, () => signIn(base, 'owner@test.example')));
  const orders: { id: number; lines: { id: number; itemId: number }[] }[] = [];
  for (let n = 0; n < 12; n += 1) {
    const quote = await business.owner.get(outbound.createSale, {
      body: {
        customerId: business.customerId,
        siteId: business.siteId,
        shipBy: new Date().toISOString().slice(0, 10),
        lines: items.map((itemId) => ({ itemId, quantity: '15', price: '5.00' })),
      },
    });
    await business.owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
    orders.push(quote);
  }
  const deliveries = await Promise.all(items.map((itemId) => ordered(business, itemId, '5000', '2.10')));
  const random = (): Attempt => {
    const key = randomUUID();
    const order = any(orders);
    const line = any(order.lines);
    const binId = business.bins[0] as number;
    return any<() => Attempt>([
      () => ({
        key,
        endpoint: stock.correct,
        body: {
          way: 'plus-or-minus',
          reasonId: business.reasonId,
          lines: [...new Set([any(items), any(items), any(items)])].map((itemId) => ({ itemId, binId, quantity: any(['-2', '-1', '1', '2']) })),
        },
      }),
      () => ({
        key,
        endpoint: receiving.receive,
        body: { lines: [...new Set([any(deliveries), any(deliveries)])].map(({ lineId }) => ({ lineId, quantity: upTo(6), binId })) },
      }),
      () => ({ key, endpoint: outbound.pick, body: { orderId: order.id, lines: [{ lineId: line.id, binId, quantity: upTo(3) }] } }),
      () => ({ key, endpoint: outbound.dispatch, body: { orderId: order.id, lines: [{ lineId: line.id, quantity: upTo(2) }] } }),
    ])();
  };
  const acknowledged = new Map<number, string>();
  const refusedStatuses: number[] = [];
  let running = true;
  const work = async (caller: Caller) => {
    let attempt = random();
    while (running) {
      const sent = await caller.ask(attempt.endpoint, { body: attempt.body } as never, { key: attempt.key }).catch(() => null);
      if (sent === null || sent.status === 503) {
        await new Promise((later) => setTimeout(later, 60));
        continue; // the answer never came: the same request with the same key, until it does
      }
      const { movementId } = (sent.data ?? {}) as { movementId?: number };
      if (sent.status === 200 && movementId) acknowledged.set(movementId, attempt.key);
      else refusedStatuses.push(sent.status);
      attempt = random();
    }
  };
  const before = Number((await business.pool.query('SELECT count(*) AS n FROM movement')).rows[0]?.n);
  const workers = callers.map(work);
  for (let restart = 0; restart < 2; restart += 1) {
    await new Promise((later) => setTimeout(later, 3000));
    await cutConnections();
    await new Promise((later) => setTimeout(later, 3500));
    server.kill('SIGKILL');
    await once(server, 'exit');
    server = await startServer(port);
  }
  await new Promise((later) => setTimeout(later, 7000));
  running = false;
  await Promise.all(workers);
  server.kill('SIGTERM');
  const [code] = (await once(server, 'exit')) as [number | null];
  expect(code).toBe(0);
  const posted = (await business.pool.query('SELECT id FROM movement ORDER BY id')).rows.slice(before).map(({ id }) => id as number);
  expect(posted.sort((a, b) => a - b)).toEqual([...acknowledged.keys()].sort((a, b) => a - b));
  expect(new Set(acknowledged.values()).size).toBe(acknowledged.size);
  expect(posted.length).toBeGreaterThan(50);
  expect(refusedStatuses.filter((status) => status !== 409)).toEqual([]);
  expect(await business.broken()).toEqual([]);
});
