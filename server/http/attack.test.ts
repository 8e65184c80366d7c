import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import { connect as openSocket } from 'node:net';
import { gzipSync } from 'node:zlib';
import * as attributes from '@larder/contract/attributes';
import * as catalog from '@larder/contract/catalog';
import * as exchange from '@larder/contract/exchange';
import * as inbound from '@larder/contract/inbound';
import * as people from '@larder/contract/people';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { pino } from 'pino';
import { createApp } from '../app';
import { connect } from '../db/database';
import { openBusiness, type Business } from '../testing/business';
import { listen } from './listen';

/** What comes over the wire that no page of ours sends. */
let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(() => business.close());

interface Answer {
  status: number;
  type: string;
  kind: string;
  title: string;
  allow: string | null;
}
async function send(path: string, how: RequestInit & { duplex?: 'half' } = {}, signedIn = true): Promise<Answer> {
  const answer = await fetch(`${business.base}${path}`, {
    method: 'POST',
    ...how,
    headers: {
      ...(signedIn ? { Cookie: business.owner.cookie } : {}),
      'Content-Type': 'application/json',
      'Idempotency-Key': randomUUID(),
      ...(how.headers as Record<string, string> | undefined),
    },
  });
  const text = await answer.text();
  const problem = (/json/.test(answer.headers.get('Content-Type') ?? '') ? JSON.parse(text) : {}) as { type?: string; title?: string };
  return {
    status: answer.status,
    type: answer.headers.get('Content-Type') ?? '',
    kind: problem.type ?? '',
    title: problem.title ?? '',
    allow: answer.headers.get('Allow'),
  };
}
const parties = '/api/setup/parties';
const packed = (text: string | Buffer): RequestInit => ({ headers: { 'Content-Encoding': 'gzip' }, body: gzipSync(text) });

describe('a body', () => {
  test('is not read before it is known who sends it, and with which right', async () => {
    const heavy = packed('['.repeat(20_000_000));
    expect(await send(exchange.checkImport.path, heavy, false)).toMatchObject({ status: 401, kind: 'sign-in' });
    const { cookie } = await business.as('Onlooker');
    const refused = await send(exchange.checkImport.path, { ...heavy, headers: { 'Content-Encoding': 'gzip', Cookie: cookie } });
    expect(refused).toMatchObject({ status: 403, kind: 'no-right' });
  });
  test('of somebody who signs in is small, also when unpacked', async () => {
    const large = JSON.stringify({ email: 'a@b.example', password: 'x'.repeat(50_000) });
    expect(await send(people.signIn.path, { body: large }, false)).toMatchObject({ status: 413 });
    expect(await send(people.signIn.path, packed(large), false)).toMatchObject({ status: 413, kind: 'too-large' });
  });
  test('has a limit once it is unpacked', async () => {
    expect(await send(parties, packed(Buffer.alloc(30_000_000, 0x20)))).toMatchObject({ status: 413, kind: 'too-large' });
    expect(await send(exchange.checkImport.path, packed(Buffer.alloc(30_000_000, 0x20)))).toMatchObject({ status: 413, kind: 'too-large' });
  });
  test.each([
    ['lists in lists in lists', '['.repeat(900_000), 400, 'unreadable'],
    ['a short one that is too deep', `{"name":${'['.repeat(33)}${']'.repeat(33)}}`, 400, 'unreadable'],
    ['brackets inside a text', `{"name":"${'['.repeat(60)}","isSupplier":true}`, 200, ''],
    ['broken off', '{"name":', 400, 'unreadable'],
    ['bytes that are no UTF-8', Buffer.from([0x22, 0xff, 0xfe, 0x22]), 400, 'unreadable'],
    ['half a pair of surrogates', '{"name":"\\ud800"}', 422, 'unreadable-text'],
    ['half a pair in a name', '{"\\udc00":"x"}', 422, 'unreadable-text'],
    ['a whole pair', '{"name":"\\ud83d\\udc1d bee","isSupplier":true}', 200, ''],
    ['a zero byte', '{"name":"a\\u0000b"}', 422, 'not-valid'],
  ])('%s', async (_, body, status, kind) => {
    expect(await send(parties, { body })).toMatchObject({ status, kind });
  });
  test('that is packed wrong, or in a way nobody knows, is refused with a sentence', async () => {
    expect(await send(parties, { headers: { 'Content-Encoding': 'gzip' }, body: 'not packed' })).toMatchObject({ status: 400, kind: 'unreadable' });
    expect(await send(parties, { headers: { 'Content-Encoding': 'gzip' }, body: gzipSync('{"name":"x"}').subarray(0, 12) })).toMatchObject({ status: 400 });
    expect(await send(parties, { headers: { 'Content-Encoding': 'compress' }, body: '{}' })).toMatchObject({ status: 415, kind: 'not-packed-so' });
  });
  test('that is no JSON is refused, however it is sent', async () => {
    const form = { 'Content-Type': 'application/x-www-form-urlencoded' };
    expect(await send(parties, { headers: form, body: 'name=x' })).toMatchObject({ status: 415, kind: 'not-json' });
    const pieces = new ReadableStream({
      start: (controller) => {
        controller.enqueue(new TextEncoder().encode('name=x'));
        controller.close();
      },
    });
    expect(await send(parties, { headers: form, body: pieces, duplex: 'half' })).toMatchObject({ status: 415, kind: 'not-json' });
  });
});

describe('an address', () => {
  test('is not asked in a way it does not know', async () => {
    expect(await send(stock.correct.path, { method: 'DELETE' })).toMatchObject({ status: 405, kind: 'no-such-method', allow: 'POST' });
    expect(await send(stock.correct.path, { method: 'PURGE' })).toMatchObject({ status: 405, kind: 'no-such-method' });
    expect(await send('/api/nowhere', { method: 'PURGE' })).toMatchObject({ status: 404, kind: 'no-such-address' });
    expect(await send('/items', { method: 'POST', body: '{}' })).toMatchObject({ status: 405 });
    expect(await send('/assets/nothing.js', { method: 'GET' })).toMatchObject({ status: 404, kind: 'no-such-address' });
  });
  test.each(['null', 'nonsense', 'http://', 'file:///etc/passwd', 'http://elsewhere.example'])('is not written to from a page of “%s”', async (Origin) => {
    expect(await send(parties, { headers: { Origin }, body: '{"name":"x"}' })).toMatchObject({ status: 403, kind: 'cross-site' });
  });
  test('that is no HTTP gets a sentence as well', async () => {
    const said = await new Promise<string>((done) => {
      const socket = openSocket(Number(new URL(business.base).port), '127.0.0.1', () => socket.write('\u0001 nonsense\r\n\r\n'));
      let text = '';
      socket.on('data', (bytes) => (text += bytes.toString()));
      socket.on('close', () => done(text));
    });
    expect(said).toContain('400 Bad Request');
    expect(said).toContain('"title":"The request could not be read."');
  });
  test('answers are kept by nobody between', async () => {
    const headers = { Cookie: business.owner.cookie };
    for (const path of ['/api/people/me', '/api/catalog/items', '/api/nowhere'])
      expect((await fetch(`${business.base}${path}`, { headers })).headers.get('Cache-Control')).toBe('no-store');
  });
});

describe('a place in a list', () => {
  const cursor = (...parts: unknown[]) => Buffer.from(JSON.stringify(parts)).toString('base64url');
  test.each([
    ['another column’s value', cursor('honey', 1)],
    ['no number', cursor('1e400', 1)],
    ['a number beyond all', cursor('1', 2 ** 60)],
    ['no whole id', cursor('1', 1.5)],
    ['no list', Buffer.from('{"a":1}').toString('base64url')],
    ['nonsense', '-1'],
    ['half a pair of surrogates', Buffer.from('["\\ud800",1]').toString('base64url')],
  ])('%s', async (_, at) => {
    for (const sort of ['sku', 'onHand', 'free', 'salesPrice']) {
      const { status, kind } = await send(`${catalog.listItems.path}?sort=${sort}&cursor=${encodeURIComponent(at)}`, { method: 'GET' });
      expect([sort, status, kind]).toEqual([sort, ...(status === 200 ? [200, ''] : [422, 'no-such-page'])]);
    }
    expect((await send(`${inbound.listPurchases.path}?cursor=${encodeURIComponent(at)}`, { method: 'GET' })).status).toBeLessThan(500);
  });
  test('of an import', async () => {
    const kind = 'suppliers' as const;
    const job = await business.owner.get(exchange.checkImport, {
      body: { kind, fileName: 'a.csv', headings: ['Name'], fields: ['name'], rows: [['constructor'], ['__proto__']] },
    });
    for (const at of ['-1', '1e400', '99999999999', 'x'])
      expect(await send(`/api/exchange/imports/${job.id}?cursor=${at}`, { method: 'GET' })).toMatchObject({ status: 422, kind: 'no-such-page' });
  });
});

test('what does not fit is told in our words, and only what is missing must be filled', async () => {
  const said = async (body: unknown) => (await business.owner.ask(stock.correct, { body } as never)).problem.errors;
  expect(await said({})).toContainEqual({ field: 'way', sentence: 'This must be filled.' });
  expect(await said({ way: 5 })).toContainEqual({ field: 'way', sentence: 'This should be one of: there-are-now, plus-or-minus.' });
  expect(await said({ way: 'plus-or-minus', reasonId: 'x', lines: 'no' })).toEqual([
    { field: 'reasonId', sentence: 'This should be a number.' },
    { field: 'lines', sentence: 'This should be a list.' },
  ]);
  expect(await said({ way: 'plus-or-minus', reasonId: 1.5, lines: [5] })).toEqual([
    { field: 'reasonId', sentence: 'This should be a whole number.' },
    { field: 'lines.0', sentence: 'This should be a group of fields.' },
  ]);
  const { problem } = await business.owner.ask(inbound.createPurchase, {
    body: { supplierId: business.supplierId, siteId: business.siteId, expectedOn: '0000-01-01', lines: [] },
  });
  expect(problem.errors).toContainEqual({ field: 'expectedOn', sentence: 'Give a day that exists, such as 24 Nov or +7.' });
});

test('the same key posts once, however the address is spelled', async () => {
  const itemId = await business.item('KEY-1');
  const body = JSON.stringify({ way: 'plus-or-minus', reasonId: business.reasonId, lines: [{ itemId, binId: business.bins[0], quantity: '5' }] });
  const key = randomUUID();
  for (const path of [stock.correct.path, `${stock.correct.path}/`, stock.correct.path.toUpperCase()])
    expect([200, 404]).toContain((await send(path, { headers: { 'Idempotency-Key': key }, body })).status);
  const { sites } = await business.owner.get(stock.itemStock, { params: { id: itemId } });
  expect(sites.find(({ siteId }) => siteId === business.siteId)?.onHand).toBe('5');
});

test('a draft that is sent again is made once, and its answer is not kept; another under the same key is refused', async () => {
  const key = randomUUID();
  const draft = (name: string) => ({ body: { name, isSupplier: true } as never });
  const how = { key };
  const [first, second] = await Promise.all([
    business.owner.ask(setup.createParty, draft('Twice Ltd'), how),
    business.owner.ask(setup.createParty, draft('Twice Ltd'), how),
  ]);
  expect([first.status, second.status, second.data.id]).toEqual([200, 200, first.data.id]);
  const other = await business.owner.ask(setup.createParty, draft('Another Ltd'), how);
  expect([other.status, other.problem.type]).toEqual([409, 'key-used']);
  const refused = randomUUID();
  expect((await business.owner.ask(setup.createParty, draft(''), { key: refused })).status).toBe(422);
  expect((await business.owner.ask(setup.createParty, draft('Third Ltd'), { key: refused })).status).toBe(200);
  const { rows } = await business.pool.query('SELECT count(*)::int AS kept FROM idempotency WHERE key = ANY($1)', [[key, refused]]);
  expect(rows).toEqual([{ kept: 0 }]);
});

test('what was begun longer ago than answers are kept is told, not posted', async () => {
  const itemId = await business.item('AWAY-1');
  const body = JSON.stringify({ way: 'plus-or-minus', reasonId: business.reasonId, lines: [{ itemId, binId: business.bins[0], quantity: '5' }] });
  const keyOf = (made: number) =>
    `${made
      .toString(16)
      .padStart(12, '0')
      .replace(/^(.{8})/, '$1-')}-7abc-8abc-${randomUUID().slice(-12)}`;
  const days = (count: number) => business.clock.now.getTime() - count * 86_400_000;
  expect(await send(stock.correct.path, { headers: { 'Idempotency-Key': keyOf(days(120)) }, body })).toMatchObject({ status: 409, kind: 'too-long-ago' });
  expect(await send(stock.correct.path, { headers: { 'Idempotency-Key': keyOf(days(60)) }, body })).toMatchObject({ status: 200 });
  const { sites } = await business.owner.get(stock.itemStock, { params: { id: itemId } });
  expect(sites.find(({ siteId }) => siteId === business.siteId)?.onHand).toBe('5');
});

test('files leave no answer behind, and no heading is a formula', async () => {
  const attribute = await business.owner.get(attributes.createAttribute, {
    body: { subject: 'item', name: '=HYPERLINK("http://x","y")', kind: 'text', choices: [] } as never,
  });
  for (const format of ['csv', 'xlsx'])
    expect((await send('/api/exchange/exports/items', { body: JSON.stringify({ fields: `sku,attribute ${attribute.id}`, format }) })).status).toBe(200);
  const csv = await fetch(`${business.base}/api/exchange/exports/items`, {
    method: 'POST',
    headers: { Cookie: business.owner.cookie, 'Content-Type': 'application/json', 'Idempotency-Key': randomUUID() },
    body: JSON.stringify({ fields: `sku,attribute ${attribute.id}` }),
  });
  expect((await csv.text()).split('\r\n')[0]).toBe(`SKU,"'=HYPERLINK(""http://x"",""y"")"`);
  const { rows } = await business.pool.query("SELECT count(*)::int AS kept FROM idempotency WHERE route LIKE '%export%'");
  expect(rows).toEqual([{ kept: 0 }]);
  const twice = await send('/api/exchange/exports/items', {
    body: JSON.stringify({ fields: Array.from({ length: 500 }, () => 'sku').join(','), format: 'xlsx' }),
  });
  expect(twice).toMatchObject({ status: 422, kind: 'field-twice' });
});

describe('behind a proxy', () => {
  const signIn = async (proxies: number, forwarded: Record<string, string>) => {
    const lines: string[] = [];
    const log = pino({ level: 'info' }, { write: (line: string) => void lines.push(line) });
    const pool = connect(business.servingUrl, { max: 2 });
    const listening = await listen(createApp({ pool, health: pool, clock: () => business.clock.now }, log, proxies).app, 0, '127.0.0.1');
    const answer = await fetch(`http://127.0.0.1:${listening.port}${people.signIn.path}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', ...forwarded },
      body: JSON.stringify({ email: 'owner@test.example', password: 'only for tests' }),
    });
    await listening.stop(500);
    await pool.end();
    const said = lines.map((line) => JSON.parse(line) as { event?: string; address?: string }).find(({ event }) => event === 'signed in');
    return { status: answer.status, address: said?.address, secure: answer.headers.getSetCookie().every((one) => /; secure/i.test(one)) };
  };
  const forwarded = { 'X-Forwarded-For': '203.0.113.9, 198.51.100.7', 'X-Forwarded-Proto': 'https' };
  test('its word on the address and on https is taken, no further than there are proxies', async () => {
    expect(await signIn(1, forwarded)).toEqual({ status: 200, address: '198.51.100.7', secure: true });
    expect(await signIn(2, forwarded)).toEqual({ status: 200, address: '203.0.113.9', secure: true });
  });
  test('without one nobody’s word is taken', async () => {
    expect(await signIn(0, forwarded)).toEqual({ status: 200, address: '127.0.0.1', secure: false });
  });
});
