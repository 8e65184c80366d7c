import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createServer, type AddressInfo } from 'node:net';
import * as receiving from '@larder/contract/receiving';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as stock from '@larder/contract/stock';
import type { Endpoint } from '@larder/contract/endpoint';
import * as colleagues from '@larder/contract/colleagues';
import * as setup from '@larder/contract/setup';
import { openBusiness, signIn, type Business, type Caller } from './testing/business';
import { ordered, stocked } from './testing/trade';

let business: Business;
/** The same business, as it is at each of its two sites. */
let sites: Business[];
let items: number[];
beforeAll(async () => {
  business = await openBusiness(new Date());
  const { rows } = await business.owner.get(setup.createBins, { body: { siteId: business.otherSiteId, codes: ['H-1'] } });
  sites = [business, { ...business, siteId: business.otherSiteId, bins: rows.map(({ id }) => id) }];
  items = [];
  for (let n = 0; n < 10; n += 1) items.push(await business.item(`HOT-${n}`));
  for (const site of sites) for (const itemId of items) await stocked(site, itemId, '200');
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
  /** It is at the site of the others, where whoever tries it may do nothing. */
  strays: boolean;
}

const password = 'seven kettles sing at dawn';
/** Four people of the floor at each site, who may do nothing at the other. */
async function letIn(): Promise<{ email: string; site: Business }[]> {
  const { roles } = await business.owner.get(colleagues.listPeople, {});
  const roleId = roles.find(({ name }) => name === 'Floor')?.id as number;
  const people = sites.flatMap((site, nth) => Array.from({ length: 4 }, (_, n) => ({ email: `floor-${nth}-${n}@test.example`, site })));
  for (const { email, site } of people)
    await business.owner.get(colleagues.addPerson, { body: { name: email, email, password, roles: [{ roleId, siteId: site.siteId }] } });
  return people;
}

/** Six customer orders and a delivery of each item, at a site. */
async function workAt(site: Business) {
  const orders: { id: number; lines: { id: number; itemId: number }[] }[] = [];
  for (let n = 0; n < 6; n += 1) {
    const quote = await site.owner.get(outbound.createSale, {
      body: {
        customerId: site.customerId,
        siteId: site.siteId,
        shipBy: new Date().toISOString().slice(0, 10),
        lines: items.map((itemId) => ({ itemId, quantity: '15', price: '5.00' })),
      },
    });
    await site.owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
    orders.push(quote);
  }
  const deliveries = await Promise.all(items.map((itemId) => ordered(site, itemId, '5000', '2.10')));
  return { binId: site.bins[0] as number, orders, deliveries };
}

/** As when the database is restarted: every connection of the other server ends, whatever it is doing. */
const cutConnections = () =>
  business.pool.query(`SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND application_name = 'tidy-larder'`);

const any = <T>(list: readonly T[]): T => list[Math.floor(Math.random() * list.length)] as T;
const upTo = (n: number) => String(1 + Math.floor(Math.random() * n));

test('8 workers, 4 of each of two sites, post at random on the same ten items while the server is killed twice and its connections to the database are cut: nothing is lost, doubled or broken', async () => {
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  let server = await startServer(port);
  const people = await letIn();
  const callers = await Promise.all(people.map(async ({ email, site }) => ({ caller: await signIn(base, email, password), site })));
  const work = new Map<Business, Awaited<ReturnType<typeof workAt>>>();
  for (const site of sites) work.set(site, await workAt(site));
  const random = (home: Business): Attempt => {
    const key = randomUUID();
    const strays = Math.random() < 0.1;
    const site = sites.find((one) => (one === home) !== strays) as Business;
    const { binId, orders, deliveries } = work.get(site) as Awaited<ReturnType<typeof workAt>>;
    const order = any(orders);
    const line = any(order.lines);
    return any<() => Attempt>([
      () => ({
        key,
        strays,
        endpoint: stock.correct,
        body: {
          way: 'plus-or-minus',
          reasonId: business.reasonId,
          lines: [...new Set([any(items), any(items), any(items)])].map((itemId) => ({ itemId, binId, quantity: any(['-2', '-1', '1', '2']) })),
        },
      }),
      () => ({
        key,
        strays,
        endpoint: receiving.receive,
        body: { lines: [...new Set([any(deliveries), any(deliveries)])].map(({ lineId }) => ({ lineId, quantity: upTo(6), binId })) },
      }),
      () => ({ key, strays, endpoint: picking.pick, body: { orderId: order.id, lines: [{ lineId: line.id, binId, quantity: upTo(3) }] } }),
      () => ({ key, strays, endpoint: shipping.dispatch, body: { orderId: order.id, lines: [{ lineId: line.id, quantity: upTo(2) }] } }),
    ])();
  };
  const acknowledged = new Map<number, string>();
  const refused = { own: [] as number[], strayed: [] as number[] };
  let running = true;
  const labour = async ({ caller, site }: { caller: Caller; site: Business }) => {
    let attempt = random(site);
    while (running) {
      const sent = await caller.ask(attempt.endpoint, { body: attempt.body } as never, { key: attempt.key }).catch(() => null);
      if (sent === null || sent.status === 503) {
        await new Promise((later) => setTimeout(later, 60));
        continue; // the answer never came: the same request with the same key, until it does
      }
      const { movementId } = (sent.data ?? {}) as { movementId?: number };
      if (sent.status === 200 && movementId) acknowledged.set(movementId, attempt.key);
      else refused[attempt.strays ? 'strayed' : 'own'].push(sent.status);
      attempt = random(site);
    }
  };
  const before = Number((await business.pool.query('SELECT count(*) AS n FROM movement')).rows[0]?.n);
  const workers = callers.map(labour);
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
  expect(refused.own.filter((status) => status !== 409)).toEqual([]);
  expect([refused.strayed.length > 5, refused.strayed.filter((status) => status !== 403)]).toEqual([true, []]);
  const strayed = await business.pool.query(
    `SELECT DISTINCT m.id FROM movement m JOIN movement_line l ON l.movement_id = m.id JOIN place p ON p.id IN (l.from_place_id, l.to_place_id)
     JOIN role_grant g ON g.person_id = m.person_id AND g.site_id IS NOT NULL WHERE p.site_id <> g.site_id`,
  );
  expect(strayed.rows).toEqual([]);
  expect(await business.broken()).toEqual([]);
});
