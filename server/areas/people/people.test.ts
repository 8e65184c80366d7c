import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as people from '@larder/contract/people';
import { hash } from '@node-rs/argon2';
import { pino } from 'pino';
import { createApp } from '../../app';
import { connect } from '../../db/database';
import { listen } from '../../http/listen';
import { clearOld } from '../../jobs/clearOld';
import { openBusiness, type Business } from '../../testing/business';
import { freshDatabase } from '../../testing/database';
import { openFounding } from './founding';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(() => business.close());

const right = 'only for tests';
interface Came {
  status: number;
  cookies: string;
  body: { type?: string; title?: string; errors?: { field: string; sentence: string }[] };
}
/** A request as a browser with these cookies sends it, from an address when it comes through the proxy. */
async function ask(base: string, path: string, body: unknown, cookies = '', agent = 'Mozilla/5.0 (X11; Linux x86_64) Firefox/140.0'): Promise<Came> {
  const answer = await fetch(`${base}${path}`, {
    method: body === undefined ? 'GET' : 'POST',
    headers: { 'Content-Type': 'application/json', 'User-Agent': agent, ...(cookies ? { Cookie: cookies } : {}) },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const set = answer.headers.getSetCookie().map((one) => one.split(';')[0]);
  return { status: answer.status, cookies: set.join('; '), body: (await answer.json()) as Came['body'] };
}
const signIn = (email: string, password: string, cookies = '') => ask(business.base, people.signIn.path, { email, password }, cookies);

describe('signing in', () => {
  test('the wrong tries of others do not keep out who has signed in from this browser before', async () => {
    const { cookies } = await signIn('floor@test.example', right);
    const device = /larder_device=[\w-]+/.exec(cookies)?.[0] ?? '';
    const statuses = [];
    for (let n = 0; n < 12; n += 1) statuses.push((await signIn('floor@test.example', 'a wrong one')).status);
    expect(statuses).toEqual([...Array.from({ length: 10 }, () => 422), 429, 429]);
    expect((await signIn('floor@test.example', right)).body.title).toMatch(/^Too many attempts. Try again in \d+ minutes\.$/);
    expect((await signIn('floor@test.example', right, device)).status).toBe(200);
    // another person at the same address is not slowed down by it either
    expect((await signIn('owner@test.example', right)).status).toBe(200);
  });
  test('a browser that was used before may not guess without end either', async () => {
    const device = /larder_device=[\w-]+/.exec((await signIn('sales-desk@test.example', right)).cookies)?.[0] ?? '';
    const statuses = [];
    for (let n = 0; n < 11; n += 1) statuses.push((await signIn('sales-desk@test.example', 'a wrong one', device)).status);
    expect(statuses.slice(-2)).toEqual([422, 429]);
  });
  test('what was right does not count, nor does another spelling of the address make a new counter', async () => {
    for (let n = 0; n < 14; n += 1) expect((await signIn('Onlooker@Test.Example', right)).status).toBe(200);
    const spelled = ['onlooker@test.example', 'ONLOOKER@test.example', ' Onlooker@TEST.example '];
    const statuses = [];
    for (let n = 0; n < 12; n += 1) statuses.push((await signIn(spelled[n % 3] as string, 'a wrong one')).status);
    expect(statuses.slice(-2)).toEqual([429, 429]);
  });
  test('many tries at once are counted one by one', async () => {
    const all = await Promise.all(Array.from({ length: 25 }, () => signIn('stock-controller@test.example', 'a wrong one')));
    expect(all.filter(({ status }) => status === 422).length).toBeLessThanOrEqual(10);
  });
});

describe('one’s own sign-in', () => {
  test('a password is changed by who knows it, not for one that is easy to guess, and the other sessions end', async () => {
    const [here, there] = [await signIn('owner@test.example', right), await signIn('owner@test.example', right)];
    const change = (current: string, password: string) => ask(business.base, people.changePassword.path, { current, password }, here.cookies);
    expect((await change('not this', 'four quiet bees on thyme')).body.errors?.[0]).toEqual({
      field: 'current',
      sentence: 'This is not the password you have now.',
    });
    expect((await change(right, 'short')).body.errors?.[0]).toEqual({ field: 'password', sentence: 'At least 12 characters.' });
    for (const easy of ['password1234', 'owner@test.example', 'aaaaaaaaaaaaaaaa', 'larderlarder'])
      expect((await change(right, easy)).body).toMatchObject({ type: 'easy-to-guess', errors: [{ field: 'password' }] });
    expect((await change(right, 'four quiet bees on thyme')).status).toBe(200);
    expect((await ask(business.base, people.me.path, undefined, there.cookies)).status).toBe(401);
    expect((await ask(business.base, people.me.path, undefined, here.cookies)).status).toBe(200);
    expect((await signIn('owner@test.example', right)).status).toBe(422);
    expect((await signIn('owner@test.example', 'four quiet bees on thyme')).status).toBe(200);
  });
  test('sessions are seen by their browser, and one is ended; those of others are not', async () => {
    const password = 'four quiet bees on thyme';
    const [here, there] = [await signIn('owner@test.example', password), await signIn('owner@test.example', password)];
    const sessions = async (cookies: string) =>
      ((await ask(business.base, people.listSessions.path, undefined, cookies)).body as unknown as { rows: people.Session[] }).rows;
    const rows = await sessions(here.cookies);
    expect(rows.filter(({ current }) => current)).toHaveLength(1);
    expect(rows[0]?.device).toBe('Firefox, Linux');
    const other = (await sessions(there.cookies)).find(({ current }) => current)?.id ?? 0;
    const floor = await business.pool.query<{ id: number }>(`SELECT s.id FROM session s JOIN person p ON p.id = s.person_id WHERE p.name = 'Floor' LIMIT 1`);
    const end = (id: number) => ask(business.base, people.endSessionOf.path.replace(':id', String(id)), {}, here.cookies);
    expect((await end(floor.rows[0]?.id ?? 0)).status).toBe(404);
    expect((await end(other)).status).toBe(200);
    expect((await ask(business.base, people.me.path, undefined, there.cookies)).status).toBe(401);
  });
  test('a session that is used goes on, for sixty days at most; one that is not used ends after fourteen', async () => {
    const began = business.clock.now;
    const after = (days: number) => (business.clock.now = new Date(began.getTime() + days * 86_400_000));
    const [used, left] = [await signIn('owner@test.example', 'four quiet bees on thyme'), await signIn('owner@test.example', 'four quiet bees on thyme')];
    const works = async ({ cookies }: Came) => (await ask(business.base, people.me.path, undefined, cookies)).status === 200;
    for (const day of [10, 20, 30, 40, 50, 59]) {
      after(day);
      expect([day, await works(used)]).toEqual([day, true]);
    }
    expect(await works(left)).toBe(false);
    after(61);
    expect(await works(used)).toBe(false);
    expect(await clearOld(business.pool, business.clock.now)).toBeGreaterThan(2);
    business.clock.now = began;
  });
});

describe('a business that is still to be founded', () => {
  const wanted = { business: 'Thyme & Heather', name: 'Ada Finch', email: 'Ada@Finch.example', password: 'seven kettles sing at dawn' };
  async function opened() {
    const { url, servingUrl, drop } = await freshDatabase();
    const [owner, pool] = [connect(url, { max: 2 }), connect(servingUrl, { max: 4 })];
    const log: string[] = [];
    const start = async () => {
      const founding = await openFounding(owner);
      const logger = pino({ level: 'info' }, { write: (line: string) => void log.push(line) });
      const { app } = createApp({ pool, health: pool, clock: () => new Date(), founding: founding?.founding ?? null }, logger);
      const listening = await listen(app, 0, '127.0.0.1');
      return { token: founding?.token ?? null, base: `http://127.0.0.1:${listening.port}`, stop: () => listening.stop(500) };
    };
    const close = async () => {
      await Promise.all([owner.end(), pool.end()]);
      await drop();
    };
    return { owner, log, start, close };
  }

  test('is founded once, by who has the link', async () => {
    const { start, close, log } = await opened();
    const { base, token, stop } = await start();
    expect((await ask(base, people.door.path, undefined)).body).toEqual({ founded: false, demo: false });
    expect((await ask(base, people.signIn.path, { email: 'first@business.example', password: 'change-me-soon' })).status).toBe(422);
    const begin = (body: object) => ask(base, people.begin.path, body);
    expect((await begin({ ...wanted, token: 'guessed' })).body.errors?.[0]?.field).toBe('token');
    expect((await begin({ ...wanted, token, password: 'thymeheather' })).body.type).toBe('easy-to-guess');
    const [first, second] = await Promise.all([begin({ ...wanted, token }), begin({ ...wanted, token, email: 'other@finch.example' })]);
    expect([first.status, second.status].sort()).toEqual([200, 409]);
    const came = first.status === 200 ? first : second;
    expect((await ask(base, people.me.path, undefined, came.cookies)).body).toMatchObject({ name: 'Ada Finch', company: { name: 'Thyme & Heather' } });
    expect((await ask(base, people.door.path, undefined)).body).toEqual({ founded: true, demo: false });
    expect((await begin({ ...wanted, token })).status).toBe(409);
    expect(log.map((line) => (JSON.parse(line) as { event?: string }).event)).toEqual(expect.arrayContaining(['sign-in refused', 'founded']));
    expect(log.join()).not.toMatch(/seven kettles|finch\.example|change-me/i);
    await stop();
    const again = await start();
    expect(again.token).toBeNull();
    await again.stop();
    await close();
  });

  test('of an earlier version, whose first person had a password that everybody knows, is given to who has the link', async () => {
    const { owner, start, close } = await opened();
    const before = await start();
    await ask(before.base, people.begin.path, { ...wanted, token: before.token });
    await before.stop();
    await owner.query('UPDATE person SET email = $1, password_hash = $2', ['first@business.example', await hash('change-me-soon')]);
    const { base, token, stop } = await start();
    expect((await ask(base, people.signIn.path, { email: 'first@business.example', password: 'change-me-soon' })).status).toBe(422);
    expect((await ask(base, people.door.path, undefined)).body).toMatchObject({ founded: false });
    expect((await ask(base, people.begin.path, { ...wanted, token })).status).toBe(200);
    expect((await ask(base, people.signIn.path, { email: 'ada@finch.example', password: wanted.password })).status).toBe(200);
    expect((await owner.query('SELECT count(*)::int AS people FROM person')).rows).toEqual([{ people: 1 }]);
    await stop();
    await close();
  });
});
