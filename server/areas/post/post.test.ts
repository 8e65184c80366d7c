import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { pino } from 'pino';
import * as inbound from '@larder/contract/inbound';
import * as contract from '@larder/contract/post';
import * as setup from '@larder/contract/setup';
import { startMailServer } from '../../standins/mailServer';
import { poster } from './poster';
import { openBusiness, type Business } from '../../testing/business';
import { ordered } from '../../testing/trade';

let business: Business;
let mail: Awaited<ReturnType<typeof startMailServer>>;
beforeAll(async () => {
  business = await openBusiness();
  mail = await startMailServer(business.pool, pino({ level: 'silent' }));
});
afterAll(async () => {
  await mail.stop();
  await business.close();
});

/** Does the job of sending a letter, for the nth time of at most eight. */
const send = (letterId: number, smtpUrl = mail.url, attempts = 1) =>
  poster(business.pool, smtpUrl, () => business.clock.now)({ letterId }, { attempts, max_attempts: 8 });
const to = 'orders@hexley.example';
const newest = async () => (await business.owner.get(contract.listLetters, { query: {} })).rows[0];

test('an order goes to its supplier by SMTP, with the PDF and the words somebody looked over, once', async () => {
  const order = await ordered(business, await business.item('POST-1'), '10', '2.50');
  const letter = await business.owner.get(contract.orderLetter, { params: { id: order.id } });
  expect(letter.subject).toBe(`Purchase order ${order.number} from Test business`);
  expect(letter.text).toContain('10 × POST-1 Item POST-1, at 2.50');
  const { id } = await business.owner.get(contract.sendOrder, {
    params: { id: order.id },
    body: { to, subject: letter.subject, text: `${letter.text}\n\nÜber die Rampe, bitte.` },
  });
  expect(await newest()).toMatchObject({ state: 'waiting', delivered: false, attached: [`${order.number}.pdf`] });
  await send(id);
  await send(id);
  expect(await newest()).toMatchObject({ state: 'sent', delivered: true, order: order.number });
  const { rows } = await business.pool.query<{ recipients: string[]; raw: Buffer }>('SELECT recipients, raw FROM delivered');
  expect(rows).toHaveLength(1);
  expect(rows[0]?.recipients).toEqual([to]);
  const raw = rows[0]?.raw.toString('latin1') ?? '';
  const attached = /filename=\S+\.pdf[\s\S]*?\r?\n\r?\n([A-Za-z0-9+/=\r\n]+)/.exec(raw)?.[1] ?? '';
  expect(Buffer.from(attached, 'base64').subarray(0, 5).toString()).toBe('%PDF-');
});

test('what cannot be sent waits and is tried again; after the last time somebody says so', async () => {
  const order = await ordered(business, await business.item('POST-2'), '1');
  const { id } = await business.owner.get(contract.sendOrder, { params: { id: order.id }, body: { to, subject: 'Order', text: 'Please.' } });
  const dead = 'smtp://127.0.0.1:1';
  await expect(send(id, dead)).rejects.toThrow('ECONNREFUSED');
  expect(await newest()).toMatchObject({ state: 'waiting' });
  expect((await newest())?.fault).toContain('ECONNREFUSED');
  await expect(send(id, dead, 8)).rejects.toThrow('ECONNREFUSED');
  expect(await newest()).toMatchObject({ state: 'not sent' });
  await business.owner.get(contract.sendAgain, { params: { id } });
  expect(await newest()).toMatchObject({ state: 'waiting' });
  await send(id);
  expect(await newest()).toMatchObject({ state: 'sent', fault: '' });
  const twice = await business.owner.ask(contract.sendAgain, { params: { id } });
  expect(twice.problem.type).toBe('sent-already');
});

test('a draft is not sent; an address that is none and words that mean nothing are refused by their field', async () => {
  const { owner, supplierId, siteId } = business;
  const draft = await owner.get(inbound.createPurchase, {
    body: { supplierId, siteId, lines: [{ itemId: await business.item('POST-3'), quantity: '1', price: '1' }] },
  });
  const asked = { params: { id: draft.id }, body: { to, subject: 'Order', text: 'Please.' } };
  expect((await owner.ask(contract.sendOrder, asked)).problem.type).toBe('not-placed');
  const nobody = await owner.ask(contract.sendOrder, { ...asked, body: { ...asked.body, to: 'hexley' } });
  expect(nobody.problem.errors[0]).toMatchObject({ field: 'to' });
  const twoLines = await owner.ask(contract.sendOrder, { ...asked, body: { ...asked.body, subject: 'Order\r\nBcc: all@example.example' } });
  expect(twoLines.problem.errors[0]).toMatchObject({ field: 'subject', sentence: 'This is one line.' });
  const odd = await owner.ask(contract.keepTemplate, { body: { subject: 'Order {order}', text: 'Dear {boss}' } });
  expect(odd.problem.errors[0]).toMatchObject({ field: 'text' });
  await owner.get(contract.keepTemplate, { body: { subject: 'Our order {order}', text: '{lines}' } });
  const order = await ordered(business, await business.item('POST-4'), '2');
  expect((await owner.get(contract.orderLetter, { params: { id: order.id } })).subject).toBe(`Our order ${order.number}`);
  expect((await owner.get(setup.listParties, { query: { as: 'supplier' } })).rows.length).toBeGreaterThan(0);
});
