import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { endpoints } from '@larder/contract/index';
import * as people from '@larder/contract/people';
import * as stock from '@larder/contract/stock';
import { pino } from 'pino';
import { createApp } from '../app';
import { openBusiness, type Business, type Caller } from '../testing/business';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(() => business.close());

const filled = (path: string) => path.replace(/:\w+/g, '1');
const open = endpoints.filter(({ right }) => right === null);
const guarded = endpoints.filter(({ right }) => right !== null);

test('every route of the server is in the contract, and every endpoint is served', async () => {
  const { router } = createApp({ pool: business.pool, health: business.pool, clock: () => business.clock.now }, pino({ level: 'silent' }));
  const served = router.stack
    .flatMap((layer) => layer.methods.filter((method) => method !== 'HEAD').map((method) => `${method} ${String(layer.path)}`))
    .filter((route) => !/\/api\/(health|live|openapi\.json|calendar\/:secret\.ics)$/.test(route));
  expect(served.sort()).toEqual(endpoints.map(({ method, path }) => `${method} ${path}`).sort());
  const document = (await (await fetch(`${business.base}/api/openapi.json`)).json()) as {
    openapi: string;
    paths: Record<string, Record<string, { 'x-right': string | null }>>;
  };
  expect(document.openapi).toBe('3.1.0');
  const written = Object.entries(document.paths).flatMap(([path, methods]) =>
    Object.keys(methods).map((method) => `${method.toUpperCase()} ${path.replace(/\{(\w+)\}/g, ':$1')}`),
  );
  expect(written.sort()).toEqual(served.sort());
});

test('without sign-in every route but signing in and out is refused', async () => {
  for (const { method, path } of guarded) {
    const answer = await fetch(`${business.base}${filled(path)}`, {
      method,
      headers: { 'Content-Type': 'application/json' },
      ...(method === 'GET' ? {} : { body: '{}' }),
    });
    expect([path, answer.status]).toEqual([path, 401]);
  }
  expect(open.map(({ path }) => path).sort()).toEqual([people.begin.path, people.door.path, people.signIn.path, people.signOut.path].sort());
});

test('with too small a role every route is refused that needs more', async () => {
  const asks = async (caller: Caller, right: string) => {
    for (const endpoint of guarded.filter((one) => one.right === right)) {
      const { status, problem } = await caller.ask(endpoint, { params: { id: 1 } } as never);
      expect([endpoint.path, status, problem.type]).toEqual([endpoint.path, 403, 'no-right']);
    }
  };
  const onlooker = await business.as('Onlooker');
  for (const right of new Set(guarded.map((one) => one.right))) if (right !== 'look' && right !== null) await asks(onlooker, right);
  await asks(await business.as('Floor'), 'inbound.order');
  await asks(await business.as('Sales desk'), 'inbound.receive');
  await asks(await business.as('Stock controller'), 'setup.edit');
});

test('a role given at one site does not count at another', async () => {
  const itemId = await business.item('SITE-1');
  await business.pool.query("UPDATE role_grant SET site_id = $1 WHERE person_id = (SELECT id FROM person WHERE name = 'Floor')", [business.otherSiteId]);
  const floor = await business.as('Floor');
  const refused = await floor.ask(stock.correct, {
    body: { way: 'plus-or-minus', reasonId: business.reasonId, lines: [{ itemId, binId: business.bins[0] as number, quantity: '1' }] },
  });
  expect(refused).toMatchObject({ status: 403, problem: { type: 'no-right' } });
});

test('writing from another site’s page is refused, and so is what is not JSON', async () => {
  const foreign = await fetch(`${business.base}${people.signOut.path}`, {
    method: 'POST',
    headers: { Origin: 'http://elsewhere.example', 'Content-Type': 'application/json' },
    body: '{}',
  });
  expect(foreign.status).toBe(403);
  const form = await fetch(`${business.base}${people.signOut.path}`, { method: 'POST', body: new URLSearchParams({ a: '1' }) });
  expect(form.status).toBe(415);
});

test('a wrong password says nothing about the address', async () => {
  const attempt = (email: string) =>
    fetch(`${business.base}${people.signIn.path}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ email, password: 'wrong' }),
    });
  const [known, unknown] = [await (await attempt('owner@test.example')).json(), await (await attempt('nobody@test.example')).json()];
  expect(known).toEqual(unknown);
});

test('sessions are http-only and same-site, end with signing out, and passwords are kept as argon2id', async () => {
  const answer = await fetch(`${business.base}${people.signIn.path}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: 'OWNER@test.example', password: 'only for tests' }),
  });
  const [cookie = ''] = answer.headers.getSetCookie();
  expect(cookie).toMatch(/httponly/i);
  expect(cookie).toMatch(/samesite=strict/i);
  const headers = { Cookie: cookie.split(';')[0] ?? '', 'Content-Type': 'application/json' };
  expect((await fetch(`${business.base}${people.me.path}`, { headers })).status).toBe(200);
  await fetch(`${business.base}${people.signOut.path}`, { method: 'POST', headers, body: '{}' });
  expect((await fetch(`${business.base}${people.me.path}`, { headers })).status).toBe(401);
  const { rows } = await business.pool.query('SELECT password_hash FROM person');
  rows.forEach(({ password_hash: kept }) => expect(kept).toMatch(/^\$argon2id\$/));
});

test('health says whether the database answers', async () => {
  expect(await (await fetch(`${business.base}/api/health`)).json()).toEqual({ status: 'well' });
});
