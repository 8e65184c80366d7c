import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import { pino } from 'pino';
import * as attributes from '@larder/contract/attributes';
import * as loans from '@larder/contract/loans';
import * as lots from '@larder/contract/lots';
import * as post from '@larder/contract/post';
import * as reminders from '@larder/contract/reminders';
import * as stock from '@larder/contract/stock';
import { startJobs } from '../../jobs/start';
import { startMailServer } from '../../standins/mailServer';
import { openBusiness, type Business } from '../../testing/business';
import { stocked } from '../../testing/trade';
import { sendReminders } from './sending';

/** People are told of days that come, each day of each thing once, in words that say what it is and lead there. */
let business: Business;
let holderId: number;
let people: { id: number; name: string }[];
let roles: { id: number; name: string }[];
beforeAll(async () => {
  business = await openBusiness();
  holderId = (await business.owner.get(loans.createHolder, { body: { name: 'Ridge apiary', sort: 'place' } })).id;
  ({ people, roles } = await business.owner.get(attributes.listAttributes, { query: {} }));
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});
beforeEach(() => void (business.clock.now = new Date('2026-03-10T10:00:00Z')));

const idOf = (list: { id: number; name: string }[], name: string) => list.find((one) => one.name === name)?.id as number;
const at = (day: string) => void (business.clock.now = new Date(`${day}T09:00:00Z`));
const run = () => sendReminders(business.pool, business.clock.now, 'https://larder.test');
const letters = async (q: string) => (await business.owner.get(post.listLetters, { query: { q } })).rows;
async function lent(sku: string, dueOn: string | null) {
  const itemId = await business.item(sku);
  await stocked(business, itemId, '2');
  const lines = [{ itemId, quantity: '1', binId: business.bins[0] as number }];
  const { id, number } = await business.owner.get(loans.lend, { body: { holderId, dueOn, lines } });
  return { id: id as number, number: number as string };
}
const set = (form: Partial<reminders.ReminderForm>) =>
  business.owner.ask(reminders.setReminder, { body: { about: 'loan', days: -2, personIds: [idOf(people, 'Floor')], ...form } as reminders.ReminderForm });

test('a loan reminds so many days before and after it is due, whom it is to, once each; brought back it is silent', async () => {
  const loan = await lent('RM-1', '2026-03-15');
  await set({ loanId: loan.id, days: -2 });
  await set({ loanId: loan.id, days: 1, personIds: [], roleIds: [idOf(roles, 'Stock controller')] });
  expect(await run()).toBe(0);
  at('2026-03-13');
  expect(await run()).toBe(1);
  expect(await run()).toBe(0);
  const [first] = await letters(loan.number);
  expect([first?.to, first?.subject, first?.person]).toEqual(['floor@test.example', `${loan.number}, Ridge apiary: RM-1 is due on 15 March 2026`, null]);
  expect(first?.notice).toEqual({ leadsTo: `/stock/loans/${loan.id}`, text: expect.stringContaining(`https://larder.test/stock/loans/${loan.id}`) });
  expect(first?.notice?.text).toContain('You are reminded 2 days before.');
  at('2026-03-16');
  expect(await run()).toBe(1);
  expect((await letters(loan.number)).map(({ to, subject }) => [to, subject.split(' RM-1 ')[1]])).toEqual([
    ['stock-controller@test.example', 'was due on 15 March 2026'],
    ['floor@test.example', 'is due on 15 March 2026'],
  ]);
  const shown = await business.owner.get(reminders.remindersOf, { query: { loanId: loan.id } });
  expect(shown.rows.map(({ called, days, day, on, people: to, roles: by, sent }) => [called, days, day, on, to.length, by.length, sent.length])).toEqual([
    ['due back', -2, '2026-03-15', '2026-03-13', 1, 0, 1],
    ['due back', 1, '2026-03-15', '2026-03-16', 0, 1, 1],
  ]);
  expect((await business.owner.get(loans.listLoans, { query: { q: loan.number } })).rows[0]?.reminds).toBe(true);
  // Due on another day, it is another day to be reminded of.
  const { version } = await business.owner.get(loans.getLoan, { params: { id: loan.id } });
  await business.owner.get(loans.changeLoan, { params: { id: loan.id }, body: { version, dueOn: '2026-03-20', note: '' } });
  at('2026-03-18');
  expect(await run()).toBe(1);
  const [line] = (await business.owner.get(loans.getLoan, { params: { id: loan.id } })).lineRows;
  await business.owner.get(loans.bringBack, { body: { lines: [{ lineId: line?.id as number, quantity: '1', binId: business.bins[0] as number }] } });
  at('2026-03-21');
  expect(await run()).toBe(0);
});

test('set too late it tells nothing of days that had passed; a run that was missed is made up for a week', async () => {
  const loan = await lent('RM-2', '2026-03-20');
  at('2026-03-19');
  await set({ loanId: loan.id, days: -5 });
  expect(await run()).toBe(0);
  await set({ loanId: loan.id, days: 0 });
  at('2026-03-27');
  expect(await run()).toBe(1);
  at('2026-04-20');
  expect(await run()).toBe(0);
});

test('lots near their use-by day, and days of own attributes, by what Setup says and by a reminder of its own: nobody is told twice', async () => {
  const itemId = await business.item('RM-L', { tracking: 'lot' });
  const lines = [{ itemId, binId: business.bins[0], quantity: '5', unitValue: '1.00', lots: [{ code: 'L-9', quantity: '5', useBy: '2026-04-20' }] }];
  await business.owner.get(stock.openStock, { body: { lines } as never });
  const [lot] = (await business.owner.get(lots.listLots, { query: { q: 'L-9' } })).rows;
  await set({ about: 'use-by', itemId, days: -30 });
  await set({ about: 'use-by', lotId: lot?.id as number, days: -30 });
  at('2026-03-21');
  expect(await run()).toBe(1);
  expect((await letters('L-9')).map(({ subject }) => subject)).toEqual(['RM-L lot L-9 is at its use-by day on 20 April 2026']);

  const made = await business.owner.get(attributes.createAttribute, {
    body: {
      name: 'Inspect by',
      subject: 'item',
      kind: 'date',
      reminderDays: -7,
      reminderPeople: [idOf(people, 'Floor')],
      reminderRoles: [idOf(roles, 'Owner')],
    },
  });
  const plain = await business.item('RM-A', { attributes: [{ attributeId: made.id, value: '2026-04-01' }] });
  await set({ about: 'attribute', itemId: plain, attributeId: made.id, days: -7 });
  at('2026-03-25');
  expect(await run()).toBe(2);
  expect((await letters('Inspect by')).map(({ to, subject }) => [to, subject]).sort()).toEqual([
    ['floor@test.example', 'RM-A Inspect by is dated on 1 April 2026'],
    ['owner@test.example', 'RM-A Inspect by is dated on 1 April 2026'],
  ]);
});

test('nonsense is refused by the field; a reminder that ended is silent', async () => {
  const loan = await lent('RM-3', '2026-04-20');
  expect((await set({ loanId: loan.id, personIds: [] })).problem.errors[0]).toEqual({ field: 'personIds', sentence: 'Choose who is reminded.' });
  expect((await set({ loanId: loan.id, about: 'use-by' })).problem.errors[0]?.sentence).toBe('This has no such day.');
  expect((await set({ loanId: loan.id, personIds: [99_999] })).problem.errors[0]?.field).toBe('personIds');
  expect((await set({})).problem.title).toBe('Say which loan, item or unit it is about.');
  expect((await set({ loanId: 99_999 })).status).toBe(404);
  const { id } = (await set({ loanId: loan.id, days: 0 })).data;
  await business.owner.get(reminders.dropReminder, { params: { id } });
  at('2026-04-20');
  expect(await run()).toBe(0);
});

test('each of us reads what they were told, and no more; the letter goes out by the worker of letters', async () => {
  const loan = await lent('RM-4', '2026-03-11');
  await set({ loanId: loan.id, days: 0 });
  at('2026-03-11');
  const mail = await startMailServer(business.pool, pino({ level: 'silent' }));
  const told: string[] = [];
  const stop = await startJobs(
    {
      databaseUrl: business.servingUrl,
      pool: business.pool,
      smtpUrl: mail.url,
      publicUrl: 'https://larder.test',
      now: () => business.clock.now,
      tell: (nouns) => told.push(...nouns),
      goOn: () => Promise.resolve(),
    },
    pino({ level: 'silent' }),
  );
  const seen = async (role: string) => (await (await business.as(role)).get(post.listLetters, { query: { q: loan.number } })).rows;
  while ((await seen('Floor'))[0]?.state !== 'sent') await new Promise((later) => setTimeout(later, 30));
  await stop();
  await mail.stop();
  expect(told).toContain('reminder');
  expect([(await seen('Floor')).length, (await seen('Stock controller')).length, (await letters(loan.number)).length]).toEqual([1, 0, 1]);
  const [letter] = await seen('Floor');
  expect(letter?.delivered).toBe(true);
  const file = await (await business.as('Stock controller')).ask(post.letterFile, { params: { id: letter?.id as number } });
  expect(file.status).toBe(403);
});

test('a calendar of due days, at an address of its own that can be ended', async () => {
  const loan = await lent('RM-5', '2026-06-15');
  const read = async (path: string) => {
    const answer = await fetch(`${business.base}${path}`);
    return { status: answer.status, type: answer.headers.get('content-type'), text: await answer.text() };
  };
  expect(await business.owner.get(reminders.myCalendar, {})).toEqual({ path: null });
  const { path } = await business.owner.get(reminders.newCalendar, {});
  const { status, type, text } = await read(path);
  expect([status, type]).toEqual([200, 'text/calendar; charset=utf-8']);
  const events = text.replaceAll('\r\n ', '').split('BEGIN:VEVENT').slice(1);
  const mine = events.find((event) => event.includes(loan.number)) ?? '';
  expect(mine).toContain('DTSTART;VALUE=DATE:20260615');
  expect(mine).toContain('is due back');
  expect(text.startsWith('BEGIN:VCALENDAR')).toBe(true);
  const again = await business.owner.get(reminders.newCalendar, {});
  expect([(await read(path)).status, (await read(again.path)).status]).toEqual([404, 200]);
  await business.owner.get(reminders.endCalendar, {});
  expect((await read(again.path)).status).toBe(404);
  expect((await read('/api/calendar/guess.ics')).status).toBe(404);
});
