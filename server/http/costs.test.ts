import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { Asked, Endpoint } from '@larder/contract/endpoint';
import * as catalog from '@larder/contract/catalog';
import * as exchange from '@larder/contract/exchange';
import * as inbound from '@larder/contract/inbound';
import { endpoints } from '@larder/contract/index';
import * as making from '@larder/contract/making';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as planning from '@larder/contract/planning';
import * as post from '@larder/contract/post';
import * as receiving from '@larder/contract/receiving';
import { seesCosts, type Right } from '@larder/contract/rights';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import * as takingApart from '@larder/contract/takingApart';
import * as workOrders from '@larder/contract/workOrders';
import { openBusiness, type Business, type Caller } from '../testing/business';
import { ordered, pickBody, sold, stocked } from '../testing/trade';
import { withoutCosts } from './costs';

/** Prices no other figure could be mistaken for: 7.77 a piece, 97 of them, sold at 5.00. */
const cost = /7[.]77|753[.]69|15[.]54|-5[.]54/;
let business: Business;
let floor: Caller;
let itemId: number;
let order: { id: number; lineId: number };
let sale: { id: number; lineId: number };
let madeItem: number;
let apartId: number;
let workId: number;
beforeAll(async () => {
  business = await openBusiness();
  floor = await business.as('Floor');
  itemId = await business.item('DEAR-1', {
    purchasePrice: '7.77',
    suppliers: [{ supplierId: business.supplierId, code: 'D-1', price: '7.77' }],
    policies: [{ siteId: business.siteId, reorderPoint: '500', orderUpTo: '597' }],
  });
  madeItem = await business.item('DEAR-2', {});
  await business.owner.get(making.createBom, { body: { itemId: madeItem, startsOn: '2026-03-01', parts: [{ itemId, quantity: '2' }] } });
  ({ order } = await stocked(business, itemId, '97', '7.77'));
  const work = { itemId: madeItem, siteId: business.siteId, quantity: '1', startsOn: '2026-03-11', dueOn: '2026-03-13' };
  workId = (await business.owner.get(workOrders.createWorkOrder, { body: work })).id as number;
  const parts = [{ itemId: await business.item('DEAR-3', { purchasePrice: '7.77' }), planned: '2', quantity: '1' }];
  apartId = (await business.owner.get(takingApart.takeApart, { body: { itemId, binId: business.bins[0] as number, quantity: '1', parts } })).id as number;
  sale = await sold(business, itemId, '2');
  await business.owner.get(picking.pick, { body: pickBody(business, sale, '2') });
  await business.owner.get(shipping.dispatch, { body: { orderId: sale.id, lines: [{ lineId: sale.lineId, quantity: '2' }] } });
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

test('what things cost is shown to whom may see it, and to nobody else', async () => {
  const asked: [Endpoint, Asked<Endpoint>][] = [
    [stock.stockTable, { query: { q: 'dear' } }],
    [stock.stockTable, { query: { q: 'dear', siteId: business.siteId } }],
    [stock.pastStock, { query: { q: 'dear', asOf: '2026-03-10' } }],
    [stock.pastItem, { params: { id: itemId }, query: { asOf: '2026-03-10' } }],
    [stock.itemStock, { params: { id: itemId } }],
    [stock.trail, { query: { itemId } }],
    [catalog.listItems, { query: { q: 'dear' } }],
    [catalog.getItem, { params: { id: itemId } }],
    [inbound.listPurchases, { query: { show: 'all' } }],
    [inbound.getPurchase, { params: { id: order.id } }],
    [inbound.getSupplier, { params: { id: business.supplierId } }],
    [inbound.supplierTerms, { params: { id: business.supplierId }, query: { itemIds: String(itemId) } }],
    [outbound.getSale, { params: { id: sale.id } }],
    [making.listBoms, {}],
    [making.bomCost, { body: { itemId: madeItem, startsOn: '2026-03-01', parts: [{ itemId, quantity: '2' }] } }],
    [workOrders.getWorkOrder, { params: { id: workId } }],
    [takingApart.apartProposal, { query: { itemId: madeItem, siteId: business.siteId, quantity: '1' } }],
    [takingApart.listApart, {}],
    [takingApart.getApart, { params: { id: apartId } }],
    [planning.topUpList, {}],
  ] as never;
  for (const [endpoint, how] of asked) {
    const [theirs, owners] = [await floor.ask(endpoint, how), await business.owner.ask(endpoint, how)];
    expect([endpoint.path, theirs.status, cost.exec(JSON.stringify(theirs.data))?.[0]]).toEqual([endpoint.path, 200, undefined]);
    expect([endpoint.path, cost.test(JSON.stringify(owners.data))]).toEqual([endpoint.path, true]);
  }
  expect((await floor.get(stock.stockTable, { query: { q: 'dear' } })).rows[0]).toMatchObject({ onHand: '94', unitCost: '', value: '' });
  expect(await floor.get(outbound.getSale, { params: { id: sale.id } })).toMatchObject({ margin: '', dispatchedCost: '', amount: '10.00' });
});

test('nor are they told it by what was changed of an order', async () => {
  const placed = await ordered(business, itemId, '5', '7.77');
  const line = { lineId: placed.lineId, expectedOn: '2026-03-25', price: '7.79' };
  await business.owner.get(inbound.amendPurchase, { params: { id: placed.id }, body: { expectedOn: null, version: placed.version, lines: [line] } as never });
  const fields = async (caller: Caller) => (await caller.get(inbound.getPurchase, { params: { id: placed.id } })).changes.map(({ field }) => field);
  expect(await fields(business.owner)).toEqual(expect.arrayContaining(['line 1 price', 'line 1 expected']));
  expect(await fields(floor)).toContain('line 1 expected');
  expect(await fields(floor)).not.toContain('line 1 price');
  await business.owner.get(post.sendOrder, {
    params: { id: placed.id },
    body: { to: 'orders@supplier.example', subject: 'An order', text: 'At 7.79, please.' },
  });
  const told = async (caller: Caller) => (await caller.get(post.listLetters, {})).rows.map(({ text }) => text);
  expect([await told(business.owner), await told(floor)]).toEqual([['At 7.79, please.'], ['']]);
});

test('nor are they told it by the effects of what they post, or by the order of a list', async () => {
  const body = { way: 'plus-or-minus', reasonId: business.reasonId, lines: [{ itemId, binId: business.bins[0] as number, quantity: '-1' }] } as const;
  const measures = async (caller: Caller) => {
    const { data } = await caller.ask(stock.correct, { body } as never, { preview: true });
    return data.effects.rows.map(({ measure }) => measure);
  };
  expect(await measures(business.owner)).toContain('value');
  expect(await measures(floor)).toEqual(['on hand', 'free']);
  const { reasons, taxes } = await business.owner.get(setup.reference);
  const use = { reasonId: reasons.find(({ place }) => place === 'own-use')?.id as number, taxCodeId: taxes[0]?.id as number };
  const costNotes = async (caller: Caller) =>
    (await caller.ask(stock.correct, { body: { ...body, ...use } } as never, { preview: true })).data.effects.costNotes;
  expect(await costNotes(business.owner)).toEqual(['Tax of 1.55 is due on what is used: 20 % of 7.77.']);
  expect(await costNotes(floor)).toBeNull();
  const key = 'c0575a11-0000-4000-8000-000000000001';
  const posted = [await floor.ask(stock.correct, { body } as never, { key }), await floor.ask(stock.correct, { body } as never, { key })];
  for (const { data } of posted) expect(JSON.stringify(data)).not.toMatch(/value|unit cost/);
  for (const sort of ['value', 'unitCost'] as const) expect((await floor.ask(stock.stockTable, { query: { sort } })).status).toBe(403);
});

test('nor by files and papers', async () => {
  const list = async (caller: Caller, name: 'stock' | 'trail' | 'purchases' | 'items' | 'terms') =>
    (await caller.get(exchange.exportFields, { params: { list: name } })).fields.map((field) => field.key);
  for (const [name, key] of [
    ['stock', 'value'],
    ['stock', 'unitCost'],
    ['trail', 'value'],
    ['purchases', 'price'],
    ['items', 'purchasePrice'],
    ['terms', 'price'],
  ] as const) {
    expect([name, (await list(business.owner, name)).includes(key), (await list(floor, name)).includes(key)]).toEqual([name, true, false]);
    const refused = await floor.ask(exchange.exportFile, { params: { list: name }, body: { fields: key, format: 'csv' } } as never);
    expect([name, refused.status, refused.problem.errors[0]?.field]).toEqual([name, 422, 'fields']);
  }
  expect((await floor.ask(post.orderPaper, { params: { id: order.id } })).status).toBe(403);
  expect((await floor.ask(exchange.exportFile, { params: { list: 'bills' }, body: { fields: 'number', format: 'csv' } } as never)).status).toBe(403);
});

test('cost is hidden wherever it stands in an answer, and nothing else is', () => {
  for (const endpoint of endpoints) expect(() => withoutCosts(endpoint, undefined)).not.toThrow('of several types');
  const row = { itemId: 1, sku: 'A', unitCost: '2', value: '4.00', onHand: '2' };
  expect(withoutCosts(stock.stockTable, { rows: [row], next: null })).toEqual({ rows: [{ ...row, unitCost: '', value: '' }], next: null });
  const plain = { rows: [{ id: 1 }], next: null };
  expect(withoutCosts(receiving.receivingDesk, plain)).toBe(plain);
});

test('whoever may look nowhere, or see cost not everywhere they look, is not shown it', () => {
  const at = (siteId: number | null, ...given: Right[]) => ({ siteId, rights: given });
  expect(seesCosts([])).toBe(false);
  expect(seesCosts([at(null, 'outbound.ship')])).toBe(false);
  expect(seesCosts([at(1, 'look', 'costs.see'), at(2, 'look')])).toBe(false);
  expect(seesCosts([at(1, 'look', 'costs.see'), at(2, 'look', 'inbound.order')])).toBe(true);
  expect(seesCosts([at(null, 'look'), at(1, 'costs.see')])).toBe(false);
  expect(seesCosts([at(null, 'look', 'books.bill')])).toBe(true);
});
