import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import type { Asked } from '@larder/contract/endpoint';
import * as catalog from '@larder/contract/catalog';
import * as outbound from '@larder/contract/outbound';
import * as setup from '@larder/contract/setup';
import { openBusiness, type Business } from '../../testing/business';
import { sold, stocked } from '../../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

let count = 0;
let itemId: number;
beforeEach(async () => {
  count += 1;
  itemId = await business.item(`QUOTE-${count}`);
});
type Body = NonNullable<Asked<typeof outbound.createSale>['body']>;
const body = (part: Partial<Body> = {}): Body => ({
  customerId: business.customerId,
  siteId: business.siteId,
  shipBy: '2026-03-12',
  lines: [{ itemId, quantity: '7', price: '19.99' }],
  ...part,
});
const quote = (part: Partial<Body> = {}) => business.owner.get(outbound.createSale, { body: body(part) });
const look = (id: number) => business.owner.get(outbound.getSale, { params: { id } });

/** Hundredths of a cent-free reckoning: n/d of whole cents, half away from zero. */
const cents = (numerator: bigint, denominator: bigint): string => {
  const whole = (2n * numerator + denominator) / (2n * denominator);
  return `${whole / 100n}.${String(whole % 100n).padStart(2, '0')}`;
};

describe('discounts', () => {
  test('of the line and of the order come off one after the other, rounded once, and what they come to is said', async () => {
    const order = await quote({ discount: '5.67', lines: [{ itemId, quantity: '7', price: '19.99', discount: '12.34' }] });
    // 7 × 19.99 × 0.8766 × 0.9433 in whole numbers: 7 × 1999 × 8766 × 9433 / 10⁸ cents.
    expect(order.amount).toBe(cents(7n * 1999n * 8766n * 9433n, 100_000_000n));
    expect(order.discounted).toBe((Number(cents(7n * 1999n * 8766n, 10_000n)) - Number(order.amount)).toFixed(2));
    expect(order).toMatchObject({ discount: '5.67', lines: [{ discount: '12.34' }] });
  });

  test('are per cent from 0 to 100; what costs nothing is asked before it is confirmed', async () => {
    const wrong = async (part: object) =>
      (await business.owner.ask(outbound.createSale, { body: { ...body(), ...part } })).problem.errors.map(({ field }) => field);
    expect(await wrong({ discount: '100.01' })).toEqual(['discount']);
    expect(await wrong({ lines: [{ itemId, quantity: '1', price: '1', discount: '-5' }] })).toEqual(['lines.0.discount']);
    for (const part of [{ discount: '100' }, { lines: [{ itemId, quantity: '1', price: '0' }] }]) {
      const { id, version } = await quote(part);
      const asked = await business.owner.ask(outbound.confirmSale, { params: { id }, body: { version } });
      expect([asked.status, asked.problem.asks, asked.problem.title]).toEqual([
        409,
        ['free'],
        `QUOTE-${count} costs the customer nothing. Confirm it all the same?`,
      ]);
      await business.owner.get(outbound.confirmSale, { params: { id }, body: { version, free: true } });
      expect((await look(id)).state).toBe('confirmed');
    }
  });

  test('a price with six decimals is counted with all of them', async () => {
    const order = await quote({ lines: [{ itemId, quantity: '1000', price: '0.123456' }] });
    expect([order.amount, order.lines[0]?.price]).toEqual(['123.46', '0.123456']);
  });
});

describe('tax', () => {
  test('is the customer’s own where they have one, else the item’s', async () => {
    const zeroId = (await business.owner.get(setup.reference)).taxes.find(({ rate }) => Number(rate) === 0)?.id as number;
    const { id: customerId } = await business.owner.get(setup.createParty, { body: { name: `Abroad ${count}`, isCustomer: true, salesTaxCodeId: zeroId } });
    expect([(await quote()).tax, (await quote({ customerId })).tax]).toEqual(['27.99', '0.00']);
  });
});

describe('days', () => {
  test('prices are offered as long as the business says, unless another day is typed; later they are asked about', async () => {
    await business.owner.get(setup.editCompany, { body: { quoteDays: 10 } });
    expect((await quote()).validUntil).toBe('2026-03-20');
    const { id, version } = await quote({ validUntil: '2026-03-11', shipBy: '2026-03-30' });
    expect(await look(id)).toMatchObject({ validUntil: '2026-03-11', expired: false });
    business.clock.now = new Date('2026-03-12T10:00:00Z');
    expect(await look(id)).toMatchObject({ expired: true, state: 'quote' });
    const asked = await business.owner.ask(outbound.confirmSale, { params: { id }, body: { version } });
    expect([asked.problem.asks, asked.problem.title]).toEqual([['expired'], expect.stringContaining('were offered until 11 March 2026.')]);
    await business.owner.get(outbound.confirmSale, { params: { id }, body: { version, expired: true } });
    expect(await look(id)).toMatchObject({ expired: false, state: 'confirmed' });
    const past = await business.owner.ask(outbound.createSale, { body: body({ validUntil: '2026-03-11', shipBy: '2026-03-30' }) });
    expect(past.problem.errors[0]?.field).toBe('validUntil');
    business.clock.now = new Date('2026-03-10T10:00:00Z');
  });

  test('a line ships by a day of its own, and is served by it', async () => {
    const order = await quote({
      lines: [
        { itemId, quantity: '2', price: '1', shipBy: '2026-03-20' },
        { itemId, quantity: '3', price: '1', unitId: null, pricePer: '100' },
      ],
    });
    expect(order.lines.map(({ shipBy }) => shipBy)).toEqual(['2026-03-20', '2026-03-12']);
    const past = await business.owner.ask(outbound.createSale, { body: body({ lines: [{ itemId, quantity: '1', price: '1', shipBy: '2026-03-09' }] }) });
    expect(past.problem.errors).toEqual([{ field: 'lines.0.shipBy', sentence: 'The ship-by day has passed already.' }]);
    await business.owner.get(outbound.confirmSale, { params: { id: order.id }, body: { version: order.version } });
    await stocked(business, itemId, '3');
    expect((await look(order.id)).lines.map(({ reserved }) => reserved)).toEqual(['0', '3']);
  });
});

test('their number and where it goes are kept, found and told in its history', async () => {
  const order = await quote({ reference: `Tea ${count}-118`, shipTo: 'Kitchen door\nWeir Lane' });
  expect(await look(order.id)).toMatchObject({ reference: `Tea ${count}-118`, shipTo: 'Kitchen door\nWeir Lane' });
  const found = await business.owner.get(outbound.listSales, { query: { show: 'all', q: `${count}-118` } });
  expect(found.rows.map(({ id, reference }) => [id, reference])).toEqual([[order.id, `Tea ${count}-118`]]);
  await business.owner.get(outbound.editSale, { params: { id: order.id }, body: { ...body(), reference: 'Another', version: order.version } });
  expect((await business.owner.get(setup.lastChange, { query: { kind: 'sales order', id: order.id } })).last).not.toBeNull();
});

describe('a part of a quote', () => {
  test('stays on it, and the rest is a quote of its own at the same prices; together they are what was there', async () => {
    const other = await business.item(`PART-${count}`);
    const order = await quote({
      reference: 'R-1',
      discount: '5',
      lines: [
        { itemId, quantity: '7', price: '19.99', discount: '10' },
        { itemId: other, quantity: '4', price: '3', shipBy: '2026-03-20' },
      ],
    });
    const [first, second] = order.lines;
    const split = (lines: { lineId: number; quantity: string }[], version = order.version) =>
      business.owner.ask(outbound.splitSale, { params: { id: order.id }, body: { version, lines } });
    const lineOf = (id: number | undefined, quantity: string) => ({ lineId: id as number, quantity });
    expect((await split([lineOf(first?.id, '8')])).problem.errors).toEqual([{ field: 'lines.0.quantity', sentence: 'Only 7 are on the quote.' }]);
    expect((await split([lineOf(first?.id, '0'), lineOf(second?.id, '0')])).problem.title).toBe('Keep some of at least one line.');
    expect((await split([])).problem.title).toBe('All of it stays: there is nothing for another quote.');
    expect((await split([lineOf(99_999, '1')])).problem.errors[0]?.field).toBe('lines.0.lineId');
    expect((await split([lineOf(first?.id, '1.5')])).problem.errors[0]?.sentence).toContain('steps of 1');
    const { data } = await split([lineOf(first?.id, '5'), lineOf(second?.id, '0')]);
    expect(data.order.lines.map(({ sku, quantity, discount }) => [sku, quantity, discount])).toEqual([[`QUOTE-${count}`, '5', '10']]);
    const rest = await look(data.rest.id);
    expect(rest).toMatchObject({ number: data.rest.number, reference: 'R-1', discount: '5', customerId: order.customerId, validUntil: order.validUntil });
    expect(rest.lines.map(({ sku, quantity, discount, shipBy }) => [sku, quantity, discount, shipBy])).toEqual([
      [`QUOTE-${count}`, '2', '10', '2026-03-12'],
      [`PART-${count}`, '4', '0', '2026-03-20'],
    ]);
    expect((await split([lineOf(first?.id, '1')])).status).toBe(409);
    await business.owner.get(outbound.confirmSale, { params: { id: order.id }, body: { version: data.order.version } });
    expect([(await look(order.id)).state, (await look(data.rest.id)).state]).toEqual(['confirmed', 'quote']);
    expect((await split([lineOf(data.order.lines[0]?.id, '1')], data.order.version + 1)).status).toBe(409);
  });
});

test('of items that fit the words, what the customer has bought comes first, then what is in stock', async () => {
  const named = async (sku: string) => business.item(sku, { name: `Fitting words ${count}` });
  const [dry, there, bought] = [await named(`FIT-A-${count}`), await named(`FIT-B-${count}`), await named(`FIT-C-${count}`)];
  await stocked(business, there, '5');
  await sold(business, bought, '1');
  const best = async (part: object) =>
    (await business.owner.get(catalog.listItems, { query: { q: `fitting words ${count}`, sort: 'best', ...part } })).rows.map(({ id }) => id);
  expect(await best({})).toEqual([dry, there, bought]);
  expect(await best({ customerId: business.customerId })).toEqual([bought, there, dry]);
});
