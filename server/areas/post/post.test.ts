import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { pino } from 'pino';
import * as inbound from '@larder/contract/inbound';
import * as contract from '@larder/contract/post';
import * as invoices from '@larder/contract/invoices';
import * as outbound from '@larder/contract/outbound';
import * as papers from '@larder/contract/papers';
import * as picking from '@larder/contract/picking';
import * as setup from '@larder/contract/setup';
import * as shipping from '@larder/contract/shipping';
import { startMailServer } from '../../standins/mailServer';
import { poster } from './poster';
import { openBusiness, type Business } from '../../testing/business';
import { ordered, stocked } from '../../testing/trade';
import sharp from 'sharp';

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
  expect(await newest()).toMatchObject({ state: 'sent', delivered: true, about: { kind: 'purchase', id: order.id, number: order.number } });
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

test('a quote, its confirmation and the invoice go to the customer, each in its own words; what is sent is handed over', async () => {
  const { owner, siteId, customerId, bins } = business;
  const itemId = await business.item('POST-5');
  await ordered(business, itemId, '4');
  const { owner: asks } = business;
  const quote = await asks.get(outbound.createSale, {
    body: { customerId, siteId, shipBy: '2026-03-20', reference: 'PO 9', lines: [{ itemId, quantity: '2', price: '3.50' }] },
  });
  const params = { id: quote.id };
  const offered = await owner.get(contract.saleLetter, { params });
  expect(offered).toMatchObject({ kind: 'quote', number: quote.number, party: 'Copse Lane School', subject: `Quote ${quote.number} from Test business` });
  expect(offered.text).toContain('2 × POST-5 Item POST-5, at 3.50');
  const mailed = { to: 'buyer@copse.example', subject: offered.subject, text: offered.text };
  await owner.get(contract.sendSale, { params, body: mailed });
  expect(await newest()).toMatchObject({ about: { kind: 'sale', id: quote.id, number: quote.number }, attached: [`${quote.number}.pdf`] });
  await owner.get(outbound.confirmSale, { params, body: { version: quote.version } });
  await owner.get(contract.keepSaleTemplate, { params: { kind: 'confirmation' }, body: { subject: 'We have your {reference}', text: '{lines}' } });
  expect(await owner.get(contract.saleLetter, { params })).toMatchObject({ kind: 'confirmation', subject: 'We have your PO 9' });
  const odd = await owner.ask(contract.keepSaleTemplate, { params: { kind: 'quote' }, body: { subject: 'Quote', text: 'Dear {supplier}' } });
  expect(odd.problem.errors[0]).toMatchObject({ field: 'text' });
  await stocked(business, itemId, '2');
  const lineId = quote.lines[0]?.id as number;
  await owner.get(picking.pick, { body: { orderId: quote.id, lines: [{ lineId, binId: bins[0] as number, quantity: '2' }] } });
  const { movementId } = await owner.get(shipping.dispatch, { body: { orderId: quote.id, lines: [{ lineId, quantity: '2' }] } });
  const made = await owner.get(invoices.createInvoice, {
    body: { dispatches: [{ orderId: quote.id, movementId: movementId as number }], invoicedOn: '2026-03-10' },
  });
  const of = { params: { id: made.id as number } };
  const bill = await owner.get(contract.invoiceLetter, of);
  expect(bill.text).toContain(`the invoice for ${quote.number} is attached: 8.40 GBP, to be paid by 9 April 2026.`);
  const { id } = await owner.get(contract.sendInvoice, { ...of, body: { ...mailed, subject: bill.subject, text: bill.text } });
  await send(id);
  expect(await newest()).toMatchObject({ state: 'sent', about: { kind: 'invoice', number: made.number } });
  expect((await owner.get(invoices.getInvoice, of)).handedOver).toBe(true);
  const sales = await business.as('Sales desk');
  expect((await sales.get(contract.listLetters, { query: {} })).rows.map(({ about }) => about?.kind)).not.toContain('invoice');
  expect((await sales.ask(contract.letterFile, { params: { id } })).status).toBe(403);
  expect((await sales.ask(contract.sendInvoice, { ...of, body: mailed })).status).toBe(403);
});

test('papers carry the address, words and picture of the business; what is no picture is refused', async () => {
  const { owner } = business;
  const now = await owner.get(papers.getPapers, {});
  expect([now.hasLogo, now.words.length]).toEqual([false, papers.paperKinds.length]);
  const { hasLogo: _has, ...form } = now;
  const words = form.words.map((one) => (one.kind === 'quote' ? { ...one, opening: 'We are glad you asked.' } : one));
  await owner.get(papers.keepPapers, { body: { ...form, address: 'Weir Lane', taxNumber: 'LB 1', payTo: 'The bank', words } });
  expect(await owner.get(papers.getPapers, {})).toMatchObject({
    address: 'Weir Lane',
    payTo: 'The bank',
    words: expect.arrayContaining([{ kind: 'quote', opening: 'We are glad you asked.', closing: '' }]),
  });
  const refused = await owner.ask(papers.keepLogo, { body: { base64: Buffer.from('not a picture').toString('base64') } });
  expect(refused.problem.errors[0]).toMatchObject({ field: 'base64', sentence: 'This is no picture that can be read: give a PNG, JPEG, WebP or GIF.' });
  expect((await owner.ask(papers.keepLogo, { body: { base64: ' ' } })).problem.type).toBe('no-picture');
  const picture = await sharp({ create: { width: 2000, height: 400, channels: 3, background: '#512654' } })
    .jpeg()
    .toBuffer();
  await owner.get(papers.keepLogo, { body: { base64: picture.toString('base64') } });
  const answer = await fetch(`${business.base}/api/setup/papers/logo`, { headers: { Cookie: owner.cookie } });
  expect((await sharp(Buffer.from(await answer.arrayBuffer())).metadata()).width).toBe(1000);
  const { rows } = await owner.get(outbound.listSales, { query: { show: 'all' } });
  const paper = await fetch(`${business.base}/api/post/sales/${rows[0]?.id}/paper`, { headers: { Cookie: owner.cookie } });
  const bytes = Buffer.from(await paper.arrayBuffer());
  expect(bytes.subarray(0, 5).toString()).toBe('%PDF-');
  expect(bytes.includes('/Subtype /Image')).toBe(true);
  await owner.get(papers.keepLogo, { body: { base64: null } });
  expect((await owner.get(papers.getPapers, {})).hasLogo).toBe(false);
  const floor = await business.as('Floor');
  expect((await floor.ask(papers.keepLogo, { body: { base64: null } })).status).toBe(403);
});
