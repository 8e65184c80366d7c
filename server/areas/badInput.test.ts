import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import * as catalog from '@larder/contract/catalog';
import * as inbound from '@larder/contract/inbound';
import * as receiving from '@larder/contract/receiving';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as people from '@larder/contract/people';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../testing/business';
import { ordered, pickBody, sold, stocked } from '../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const movements = async () => Number((await business.pool.query('SELECT count(*) AS n FROM movement')).rows[0]?.n);
const correction = (itemId: number, quantity: string) => ({
  way: 'plus-or-minus' as const,
  reasonId: business.reasonId,
  lines: [{ itemId, binId: business.bins[0] as number, quantity }],
});

describe('quantities', () => {
  test.each(['-3', '0', '1000000000', '99999999999999999999', '0.5', '1.00001', 'twelve', '', '1e3', 'NaN', '１２'])(
    '%p received is refused by the field and nothing is written',
    async (quantity) => {
      const itemId = await business.item(`Q-${randomUUID().slice(0, 8)}`);
      const { lineId } = await ordered(business, itemId, '9');
      const before = await movements();
      const refused = await business.owner.ask(receiving.receive, { body: { lines: [{ lineId, quantity, binId: business.bins[0] as number }] } });
      expect(refused.status).toBe(422);
      expect(refused.problem.errors[0]).toMatchObject({ field: 'lines.0.quantity', sentence: expect.stringMatching(/^[A-Z].+\.$/) });
      expect(await movements()).toBe(before);
    },
  );

  test('more than ordered asks, and is taken when the person says so', async () => {
    const itemId = await business.item('OVER');
    const { lineId } = await ordered(business, itemId, '5');
    const body = { lines: [{ lineId, quantity: '7', binId: business.bins[0] as number }] };
    const asked = await business.owner.ask(receiving.receive, { body });
    expect(asked).toMatchObject({ status: 409, problem: { type: 'over-receipt', asks: ['over-receipt'], errors: [{ field: 'lines.0.quantity' }] } });
    expect((await business.owner.ask(receiving.receive, { body: { lines: body.lines.map((line) => ({ ...line, extra: '1' })) } })).status).toBe(409);
    expect((await business.owner.ask(receiving.receive, { body: { lines: body.lines.map((line) => ({ ...line, extra: '2' })) } })).status).toBe(200);
  });

  test('picking more than there is, or than is wanted, is refused', async () => {
    const itemId = await business.item('PICK');
    await stocked(business, itemId, '3');
    const order = await sold(business, itemId, '5');
    expect(await business.owner.ask(picking.pick, { body: pickBody(business, order, '4') })).toMatchObject({
      status: 409,
      problem: { errors: [{ field: 'lines.0.quantity' }] },
    });
    const other = await sold(business, itemId, '1');
    expect(await business.owner.ask(picking.pick, { body: pickBody(business, other, '1') })).toMatchObject({
      status: 409,
      problem: { type: 'promised-elsewhere' },
    });
    expect(await business.owner.ask(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '1' }] } })).toMatchObject({
      status: 409,
      problem: { type: 'not-picked' },
    });
    await business.owner.get(picking.pick, { body: pickBody(business, order, '2') });
    const more = await business.owner.ask(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '3' }] } });
    expect(more).toMatchObject({ status: 409, problem: { type: 'not-picked', title: expect.stringContaining('Only 2 of') as unknown } });
  });
});

describe('two at once', () => {
  test('two people pick the last one: one gets it, the other a sentence', async () => {
    const itemId = await business.item('LAST');
    await stocked(business, itemId, '1');
    const order = await sold(business, itemId, '1');
    const both = await Promise.all([1, 2].map(() => business.owner.ask(picking.pick, { body: pickBody(business, order, '1') })));
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
  });

  test('the same request twice, at once and later, is done once and answered the same', async () => {
    const itemId = await business.item('TWICE');
    await stocked(business, itemId, '9');
    const key = randomUUID();
    const before = await movements();
    const send = () => business.owner.ask(stock.correct, { body: correction(itemId, '-2') }, { key });
    const [first, second] = await Promise.all([send(), send()]);
    const later = await send();
    expect([first?.status, second?.status, later.status]).toEqual([200, 200, 200]);
    expect(second?.data).toEqual(first?.data);
    expect(later.data).toEqual(first?.data);
    expect(await movements()).toBe(before + 1);
    expect(await business.owner.ask(stock.correct, { body: correction(itemId, '-3') }, { key })).toMatchObject({ status: 409, problem: { type: 'key-used' } });
    const refused = await business.owner.ask(stock.correct, { body: correction(itemId, '-90') }, { key: 'refused-once-1' });
    expect(refused.status).toBe(409);
    expect((await business.owner.ask(stock.correct, { body: correction(itemId, '-1') }, { key: 'refused-once-1' })).status).toBe(200);
  });

  test('a posting without a key is refused', async () => {
    const itemId = await business.item('NOKEY');
    expect((await business.owner.ask(stock.correct, { body: correction(itemId, '1') }, { key: 'x' })).problem.type).toBe('key-needed');
  });

  test('a stale edit is refused', async () => {
    const id = await business.item('STALE');
    const item = await business.owner.get(catalog.getItem, { params: { id } });
    const edit = (name: string) =>
      business.owner.ask(catalog.editItem, { params: { id }, body: { sku: item.sku, name, unitId: item.unitId, version: item.version } });
    expect((await edit('First change')).status).toBe(200);
    expect(await edit('Second change')).toMatchObject({ status: 409, problem: { type: 'stale' } });
    expect((await business.owner.get(catalog.getItem, { params: { id } })).name).toBe('First change');
    const { rows } = await business.pool.query("SELECT field, was, \"is\" FROM change WHERE kind = 'item' AND subject_id = $1 AND field = 'name'", [id]);
    expect(rows).toEqual([{ field: 'name', was: 'Item STALE', is: 'First change' }]);
  });
});

describe('nonsense', () => {
  const raw = (path: string, body: string, headers: Record<string, string> = {}) =>
    fetch(`${business.base}${path}`, { method: 'POST', headers: { 'Content-Type': 'application/json', ...headers }, body });

  test.each(['{', '[1,', 'null', '"text"', '{"lines": "many"}', '{"__proto__": {"x": 1}}'])('malformed or foreign JSON %p', async (body) => {
    const answer = await raw(people.signIn.path, body);
    expect([400, 422]).toContain(answer.status);
    expect(answer.headers.get('content-type')).toContain('application/problem+json');
  });

  test('text of 100,000 characters, control characters and unknown ids', async () => {
    const long = await business.owner.ask(catalog.createItem, { body: { sku: 'LONG', name: 'x'.repeat(100000), unitId: 1 } });
    expect(long).toMatchObject({ status: 422, problem: { errors: [{ field: 'name', sentence: 'At most 200 characters.' }] } });
    expect((await business.owner.ask(catalog.createItem, { body: { sku: 'NUL\u0000', name: 'x', unitId: 1 } })).status).toBe(422);
    expect((await business.owner.ask(catalog.createItem, { body: { sku: 'NUL', name: 'x\u0000', unitId: 1 } })).status).toBe(422);
    expect((await business.owner.ask(catalog.createItem, { body: { sku: 'NOUNIT', name: 'x', unitId: 999999 } })).status).toBe(422);
    expect((await business.owner.ask(catalog.getItem, { params: { id: 999999 } })).status).toBe(404);
    expect((await business.owner.ask(catalog.getItem, { params: { id: 'abc' as unknown as number } })).status).toBe(422);
    expect(
      (await business.owner.ask(receiving.receive, { body: { lines: [{ lineId: 999999, quantity: '1', binId: 999999 }] } })).problem.errors[0]?.field,
    ).toBe('lines.0.lineId');
    expect((await business.owner.ask(stock.stockTable, { query: { cursor: 'nonsense' } })).status).toBe(422);
    expect((await business.owner.ask(stock.correct, { body: { ...correction(1, '1'), reasonId: 999 } })).problem.errors[0]?.field).toBe('reasonId');
  });

  test('a body beyond all bounds is refused', async () => {
    const answer = await raw(people.signIn.path, `{"email": "${'x'.repeat(2_000_000)}"}`);
    expect(answer.status).toBe(413);
  });

  test('an amount no account can hold is refused', async () => {
    const itemId = await business.item('VAST');
    const refused = await business.owner.ask(inbound.createPurchase, {
      body: { supplierId: business.supplierId, siteId: business.siteId, lines: [{ itemId, quantity: '999999999', price: '999999999' }] },
    });
    expect(refused).toMatchObject({ status: 422, problem: { errors: [{ field: 'lines.0.price' }] } });
  });

  test('script in a name stays text', async () => {
    const { name } = await business.owner.get(setup.createParty, { body: { name: '<script>alert(1)</script>', isCustomer: true } });
    expect(name).toBe('<script>alert(1)</script>');
  });

  test('receiving into another site’s bin, or on a cancelled order, is refused', async () => {
    const itemId = await business.item('WRONG');
    const order = await ordered(business, itemId, '5');
    const { rows } = await business.owner.get(setup.listBins, { query: { siteId: business.otherSiteId } });
    expect(
      (await business.owner.ask(receiving.receive, { body: { lines: [{ lineId: order.lineId, quantity: '1', binId: rows[0]?.id as number }] } })).problem
        .errors[0]?.field,
    ).toBe('lines.0.binId');
    await business.owner.get(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'cancel', version: order.version } });
    expect(
      (await business.owner.ask(receiving.receive, { body: { lines: [{ lineId: order.lineId, quantity: '1', binId: business.bins[0] as number }] } })).problem
        .errors[0]?.sentence,
    ).toContain('is not open');
  });

  test('a posting dated before the goods were there is refused', async () => {
    const itemId = await business.item('BACK');
    await stocked(business, itemId, '5');
    business.clock.now = new Date('2026-03-13T10:00:00Z');
    const early = await business.owner.ask(stock.correct, { body: { ...correction(itemId, '-1'), effectiveOn: '2026-03-09' } });
    expect(early).toMatchObject({ status: 409, problem: { type: 'not-enough-then' } });
    expect((await business.owner.ask(stock.correct, { body: { ...correction(itemId, '-1'), effectiveOn: '2026-03-11' } })).status).toBe(200);
    expect((await business.owner.ask(stock.correct, { body: { ...correction(itemId, '-1'), effectiveOn: '2026-03-14' } })).problem.errors[0]?.field).toBe(
      'effectiveOn',
    );
  });
});
