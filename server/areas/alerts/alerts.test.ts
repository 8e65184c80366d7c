import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import { pino } from 'pino';
import * as alerts from '@larder/contract/alerts';
import * as colleagues from '@larder/contract/colleagues';
import * as inbound from '@larder/contract/inbound';
import * as post from '@larder/contract/post';
import { startJobs } from '../../jobs/start';
import { startMailServer } from '../../standins/mailServer';
import { openBusiness, signIn, type Business, type Caller } from '../../testing/business';
import { ordered, sold, stocked } from '../../testing/trade';
import { poster } from '../post/service';
import { sendRoundUps, watchAll } from './watch';

/** Whoever wants to know is told what happens, once each time, at once or in a round-up, and of their own sites only. */
let business: Business;
let wim: Caller;
const day = '2026-03-10';
beforeAll(async () => {
  business = await openBusiness();
  wim = await business.as('Stock controller');
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});
beforeEach(() => at(day, '10:00'));

const at = (on: string, time: string) => void (business.clock.now = new Date(`${on}T${time}:00Z`));
const watching = () => ({ pool: business.pool, now: business.clock.now, address: 'https://larder.test' });
const look = () => watchAll(watching());
const roundUps = () => sendRoundUps(watching());
type Wish = {
  kind: (typeof alerts.setAlertWishes.body)['_output']['wishes'][number]['kind'];
  siteIds?: number[] | null;
  how?: 'at once' | 'round-up';
  byMail?: boolean;
  categoryIds?: number[] | null;
};
const wants = (who: Caller, wishes: Wish[], roundUpAt = '07:30') => who.get(alerts.setAlertWishes, { body: { wishes, roundUpAt } });
const told = async (who: Caller) => (await who.get(alerts.listAlerts, { query: {} })).rows.map(({ text }) => text);
const letters = async (q: string) => (await business.owner.get(post.listLetters, { query: { q } })).rows;
const low = async (sku: string, siteId = business.siteId) =>
  business.item(sku, { policies: [{ siteId, reorderPoint: '5', orderUpTo: '20' }], suppliers: [{ supplierId: business.supplierId }] });

test('low is told when it becomes low, once, and again only after it was well', async () => {
  await wants(wim, [{ kind: 'low', byMail: true }]);
  const itemId = await low('AL-1');
  await look();
  expect(await told(wim)).toEqual(['AL-1 at Barn store is low: 0 free, reorder at 5']);
  expect(await look()).toBe(0);
  await stocked(business, itemId, '12');
  expect(await look()).toBe(0);
  await sold(business, itemId, '8');
  at(day, '11:00');
  await look();
  expect(await look()).toBe(0);
  expect(await told(wim)).toEqual(['AL-1 at Barn store is low: 4 free, reorder at 5', 'AL-1 at Barn store is low: 0 free, reorder at 5']);
  const [letter] = await letters('AL-1 at Barn store is low: 4 free');
  expect([letter?.to, letter?.notice?.leadsTo]).toEqual(['stock-controller@test.example', `/planning?item=${itemId}`]);
  expect(letter?.notice?.text).toContain(`https://larder.test/planning?item=${itemId}`);
  expect(letter?.notice?.text).toContain('https://larder.test/alerts/settings?stop=low');
});

test('a sale that makes it low is told by the worker of alerts as soon as it is kept, and its letter goes out', async () => {
  await wants(wim, [{ kind: 'low', byMail: true }, { kind: 'short' }]);
  const itemId = await low('AL-LIVE');
  await stocked(business, itemId, '20');
  await look();
  const mail = await startMailServer(business.pool, pino({ level: 'silent' }));
  const heard: string[] = [];
  const tell = (nouns: readonly string[]) => heard.push(...nouns);
  const log = pino({ level: 'silent' });
  const stop = await startJobs(
    {
      databaseUrl: business.servingUrl,
      pool: business.pool,
      smtpUrl: mail.url,
      publicUrl: 'https://larder.test',
      now: () => business.clock.now,
      tell,
      goOn: () => Promise.resolve(),
    },
    log,
  );
  at(day, '12:00');
  const order = await sold(business, itemId, '22');
  const begun = async () => (await told(wim)).filter((text) => text.includes('AL-LIVE'));
  while ((await begun()).length < 2) await new Promise((later) => setTimeout(later, 20));
  expect((await begun()).sort()).toEqual([
    `AL-LIVE at Barn store is low: 0 free, reorder at 5`,
    `${order.number} for Copse Lane School is short at Barn store: 2 of AL-LIVE`,
  ]);
  expect(heard).toContain('alert');
  while ((await letters('AL-LIVE'))[0]?.state !== 'sent') await new Promise((later) => setTimeout(later, 30));
  await stop();
  await mail.stop();
  expect(await letters('AL-LIVE')).toHaveLength(1);
});

test('with the mail server down for an hour, each is sent once in the end', async () => {
  await wants(wim, [{ kind: 'out', byMail: true }]);
  await low('AL-DOWN');
  await look();
  const [waiting] = await letters('AL-DOWN');
  expect(waiting?.state).toBe('waiting');
  const of = { letterId: waiting?.id as number };
  const down = poster(business.pool, 'smtp://127.0.0.1:9', () => business.clock.now);
  for (let tries = 1; tries <= 8; tries += 1) await expect(down(of, { attempts: tries, max_attempts: 11 })).rejects.toThrow();
  expect((await letters('AL-DOWN'))[0]?.state).toBe('waiting');
  const mail = await startMailServer(business.pool, pino({ level: 'silent' }));
  const up = poster(business.pool, mail.url, () => business.clock.now);
  await up(of, { attempts: 9, max_attempts: 11 });
  await up(of, { attempts: 10, max_attempts: 11 });
  await mail.stop();
  expect((await letters('AL-DOWN')).map(({ state }) => state)).toEqual(['sent']);
  const { rows } = await business.pool.query<{ many: number }>(
    "SELECT count(*)::int AS many FROM delivered d JOIN letter l ON l.message_id = d.message_id WHERE l.subject LIKE 'AL-DOWN%'",
  );
  expect(rows[0]?.many).toBe(1);
});

test('of chosen sites only; one whose right to a site has ended is told nothing of it, and sees nothing of what was told', async () => {
  const { siteId, otherSiteId, owner } = business;
  const { roles } = await owner.get(colleagues.listPeople);
  const role = roles.find(({ name }) => name === 'Floor')?.id as number;
  const form = {
    name: 'Ada',
    email: 'ada@test.example',
    roles: [
      { roleId: role, siteId },
      { roleId: role, siteId: otherSiteId },
    ],
  };
  const { id } = await owner.get(colleagues.addPerson, { body: { ...form, password: 'two owls in a drawer' } });
  const ada = await signIn(business.base, 'ada@test.example', 'two owls in a drawer');
  await wants(ada, [{ kind: 'out' }]);
  await wants(wim, [{ kind: 'out', siteIds: [otherSiteId] }]);
  await low('AL-HERE');
  await low('AL-THERE', otherSiteId);
  await look();
  expect((await told(ada)).sort()).toEqual(['AL-HERE at Barn store is out of stock', 'AL-THERE at Harbour shop is out of stock']);
  expect((await told(wim)).filter((text) => text.startsWith('AL-HERE') || text.startsWith('AL-THERE'))).toEqual(['AL-THERE at Harbour shop is out of stock']);
  await owner.get(colleagues.editPerson, { params: { id }, body: { ...form, roles: [{ roleId: role, siteId }], password: null } });
  const again = await signIn(business.base, 'ada@test.example', 'two owls in a drawer');
  expect(await told(again)).toEqual(['AL-HERE at Barn store is out of stock']);
  await low('AL-LATER', otherSiteId);
  await look();
  expect(await told(again)).toEqual(['AL-HERE at Barn store is out of stock']);
});

test('a round-up comes at its time, one letter of all that is still so; a clock that jumps brings no second', async () => {
  await wants(
    wim,
    [
      { kind: 'low', how: 'round-up', byMail: true },
      { kind: 'out', how: 'round-up' },
    ],
    '16:00',
  );
  const well = await low('AL-WELL');
  await low('AL-STILL');
  await look();
  const before = await told(wim);
  expect(await roundUps()).toBe(0);
  await stocked(business, well, '30');
  await look();
  at(day, '16:01');
  expect(await roundUps()).toBe(1);
  expect(await roundUps()).toBe(0);
  at(day, '09:00');
  expect(await roundUps()).toBe(0);
  at(day, '23:00');
  expect(await roundUps()).toBe(0);
  const [letter] = await letters('Round-up');
  expect(letter?.notice?.text).toContain('AL-STILL at Barn store is low');
  expect(letter?.notice?.text).not.toContain('AL-WELL');
  expect((await told(wim)).length).toBe(before.length + 1);
  at('2026-03-11', '16:00');
  expect(await roundUps()).toBe(1);
});

test('five thousand that are low at once are one letter', async () => {
  await wants(wim, [{ kind: 'low', how: 'round-up', byMail: true }], '12:00');
  await business.pool.query(
    `WITH made AS (INSERT INTO item (sku, name, unit_id, findable) SELECT 'MANY-' || n, 'One of many', (SELECT min(id) FROM unit), 'many-' || n FROM generate_series(1, 5000) n RETURNING id)
     INSERT INTO item_policy (item_id, site_id, reorder_point, order_up_to) SELECT id, $1, 5, 20 FROM made`,
    [business.siteId],
  );
  await look();
  at('2026-03-12', '12:00');
  const before = (await letters('Round-up')).length;
  expect(await roundUps()).toBe(1);
  const all = await letters('Round-up');
  expect(all.length).toBe(before + 1);
  expect(all[0]?.subject).toMatch(/^Round-up: 5\d{3} things to look at$/);
  expect(all[0]?.notice?.text).toMatch(/and 48\d\d more/);
  await business.pool.query(`DELETE FROM item_policy WHERE item_id IN (SELECT id FROM item WHERE sku LIKE 'MANY-%')`);
  await look();
});

test('what time alone causes: overdue, late to ship; and a bill that is dearer than agreed, once', async () => {
  await wants(business.owner, [{ kind: 'overdue' }, { kind: 'late' }]);
  const itemId = await business.item('AL-TIME');
  const order = await ordered(business, itemId, '3', '2.00', '2026-03-12');
  const sale = await sold(business, itemId, '1', '2026-03-12');
  await look();
  expect(await told(business.owner)).toEqual([]);
  at('2026-03-13', '10:00');
  await look();
  const texts = await told(business.owner);
  expect(texts).toContain(`${order.number} of Hexley Joinery for Barn store is overdue since 12 March 2026`);
  expect(texts).toContain(`${sale.number} for Copse Lane School should have left Barn store on 12 March 2026`);
  const now = await business.owner.get(inbound.getPurchase, { params: { id: order.id } });
  await business.owner.get(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'cancel', version: now.version } });
  expect(await look()).toBe(0);
});

test('what was seen is no longer new; wishes are one’s own, and each kind is said once', async () => {
  await wants(wim, [{ kind: 'out' }]);
  await low('AL-SEEN');
  await look();
  const { fresh } = await wim.get(alerts.alertCount);
  expect(fresh).toBeGreaterThan(0);
  const { rows } = await wim.get(alerts.listAlerts, { query: {} });
  const last = Math.max(...rows.map(({ id }) => id));
  expect(rows.find(({ id }) => id === last)?.isNew).toBe(true);
  await wim.get(alerts.seeAlerts, { body: { upTo: last } });
  expect(await wim.get(alerts.alertCount)).toEqual({ fresh: 0 });
  expect(await wim.get(alerts.alertWishes)).toMatchObject({
    wishes: [{ kind: 'out', siteIds: null, how: 'at once', byMail: false }],
    email: 'stock-controller@test.example',
  });
  const twice = await wim.ask(alerts.setAlertWishes, { body: { wishes: [{ kind: 'low' }, { kind: 'low' }], roundUpAt: '07:30' } });
  expect(twice.problem.errors[0]?.sentence).toBe('Each kind can be said once.');
  expect((await wim.ask(alerts.setAlertWishes, { body: { wishes: [], roundUpAt: '25:00' } })).problem.errors[0]).toEqual({
    field: 'roundUpAt',
    sentence: 'Give a time such as 07:30.',
  });
  expect((await business.owner.get(alerts.listAllAlerts, { query: { limit: 5 } })).rows.map(({ person }) => person)).toContain('Stock controller');
  expect((await wim.ask(alerts.listAllAlerts, { query: {} })).status).toBe(403);
});
