import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { once } from 'node:events';
import { createServer, type AddressInfo } from 'node:net';
import * as catalog from '@larder/contract/catalog';
import { pino } from 'pino';
import { problemOf } from './http/problem';
import { sql } from 'drizzle-orm';
import { createApp } from './app';
import { poster } from './areas/post/poster';
import { openBusiness, type Business } from './testing/business';
import { connect, hold, transaction } from './db/database';
import { company } from './db/schema/index';

/** The connections to the database: one that is cut ends nobody, and when all are taken nobody waits for ever. */
let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(() => business.close());

const cut = (name: string) => business.pool.query('SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE application_name = $1', [name]);
const settled = () => new Promise((later) => setTimeout(later, 100));

test('a connection that is cut while nothing is asked of it fails what is asked next, and another takes its place', async () => {
  const pool = connect(business.url, { max: 1, name: 'to be cut' });
  await expect(
    hold(pool, async (client) => {
      await client.query('SELECT 1');
      await cut('to be cut');
      await settled();
      await client.query('SELECT 1');
    }),
  ).rejects.toThrow();
  expect((await pool.query('SELECT 1 AS one')).rows).toEqual([{ one: 1 }]);
  await cut('to be cut');
  await settled();
  expect((await pool.query('SELECT 1 AS one')).rows).toEqual([{ one: 1 }]);
  await pool.end();
});

test('a letter is sent though its connection is cut while the mail server thinks', async () => {
  // A mail server that takes its time before it greets.
  const slow = createServer((socket) => {
    const say = (line: string) => socket.write(`${line}\r\n`);
    let inData = false;
    setTimeout(() => say('220 slow'), 400);
    socket.on('data', (bytes) => {
      const text = bytes.toString();
      if (inData) {
        inData = !text.endsWith('\r\n.\r\n');
        if (!inData) say('250 kept');
      } else {
        inData = text.startsWith('DATA');
        say(inData ? '354 go on' : text.startsWith('QUIT') ? '221 bye' : '250 ok');
      }
    });
    socket.on('error', () => undefined);
  }).listen(0, '127.0.0.1');
  await once(slow, 'listening');
  const pool = connect(business.url, { max: 2, name: 'poster' });
  const { rows: written } = await business.pool.query<{ id: number }>(
    `INSERT INTO letter (message_id, subject, body, sender, recipient, raw, attached, written_at, written_by, next_try_at)
     VALUES ('<slow@test>', 'Slow', '', 'us@test.example', 'them@test.example', 'Subject: Slow', '{}', now(), 1, now()) RETURNING id`,
  );
  const send = poster(pool, `smtp://127.0.0.1:${(slow.address() as AddressInfo).port}`, () => new Date());
  const sending = send({ letterId: written[0]?.id as number }, { attempts: 1, max_attempts: 8 });
  await settled();
  await cut('poster');
  await sending;
  const { rows } = await business.pool.query(`SELECT sent_at IS NOT NULL AS sent, fault FROM letter WHERE subject = 'Slow'`);
  expect(rows).toEqual([{ sent: true, fault: '' }]);
  await pool.end();
  slow.close();
});

test('reads right after a start, more of them than there are connections, are all answered', async () => {
  const [pool, health] = [connect(business.url, { max: 3, name: 'few' }), connect(business.url, { max: 1 })];
  const server = createApp({ pool, health, clock: () => business.clock.now }, pino({ level: 'silent' })).app.listen(0, '127.0.0.1');
  await once(server, 'listening');
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const answers = await Promise.all(
    Array.from({ length: 24 }, () =>
      fetch(`${base}${catalog.listItems.path}`, { headers: { Cookie: business.owner.cookie }, signal: AbortSignal.timeout(4000) }),
    ),
  );
  expect(answers.map(({ status }) => status)).toEqual(Array.from({ length: 24 }, () => 200));

  // All are held: who asks is told to come again; whether the server is well is answered all the same.
  const held: (() => void)[] = [];
  const holding = Array.from({ length: 3 }, () => hold(pool, () => new Promise<void>((done) => held.push(done))));
  await settled();
  const refused = fetch(`${base}${catalog.listItems.path}`, { headers: { Cookie: business.owner.cookie } });
  expect((await fetch(`${base}/api/health`)).status).toBe(200);
  const answer = await refused;
  expect([answer.status, answer.headers.get('Retry-After'), ((await answer.json()) as { type: string }).type]).toEqual([503, '2', 'busy']);
  held.forEach((done) => done());
  await Promise.all(holding);
  server.close();
  await Promise.all([pool.end(), health.end()]);
}, 20_000);

test('a transaction in which nothing was asked for too long is told as such, and nothing of it stays', async () => {
  const pool = connect(business.url, { max: 1 });
  const idle = transaction(pool, 'write', async (tx) => {
    await tx.db.update(company).set({ name: 'Half written' });
    await tx.db.execute(sql`set local idle_in_transaction_session_timeout = '100ms'`);
    await new Promise((later) => setTimeout(later, 600));
    await tx.db.update(company).set({ name: 'Written' });
  });
  expect(problemOf(await idle.catch((thrown: unknown) => thrown))).toMatchObject({ status: 503 });
  expect((await pool.query('SELECT name FROM company')).rows).toEqual([{ name: 'Test business' }]);
  await pool.end();
});

test('a statement that takes too long is stopped, and nothing of its transaction stays', async () => {
  const pool = connect(business.url, { max: 1 });
  const slow = transaction(pool, 'write', async (tx) => {
    await tx.db.update(company).set({ name: 'Half written' });
    await tx.db.execute(sql`set local statement_timeout = '100ms'`);
    await tx.db.execute(sql`select pg_sleep(10)`);
  });
  await expect(slow).rejects.toMatchObject({ cause: { code: '57014' } });
  expect((await pool.query('SELECT name FROM company')).rows).toEqual([{ name: 'Test business' }]);
  expect((await pool.query('SHOW statement_timeout')).rows).toEqual([{ statement_timeout: '20s' }]);
  expect((await pool.query('SHOW idle_in_transaction_session_timeout')).rows).toEqual([{ idle_in_transaction_session_timeout: '20s' }]);
  await pool.end();
});
