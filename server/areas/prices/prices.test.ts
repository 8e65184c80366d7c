import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import * as catalog from '@larder/contract/catalog';
import type { Asked } from '@larder/contract/endpoint';
import * as prices from '@larder/contract/prices';
import * as setup from '@larder/contract/setup';
import { openBusiness, type Business } from '../../testing/business';

let business: Business;
let categoryId: number;
beforeAll(async () => {
  business = await openBusiness();
  categoryId = (await business.owner.get(setup.createCategory, { body: { name: 'Smoking' } })).id;
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

let count = 0;
let itemId: number;
beforeEach(async () => {
  count += 1;
  itemId = await business.item(`PRICE-${count}`, { salesPrice: '40', categoryId });
});
type Form = NonNullable<Asked<typeof prices.createPriceList>['body']>;
const list = (rows: Form['rows'], part: Partial<Form> = {}) =>
  business.owner.ask(prices.createPriceList, { body: { name: `List ${count} ${Math.random()}`, rows, ...part } });
const customer = async (part: object = {}) =>
  (await business.owner.get(setup.createParty, { body: { name: `Customer ${Math.random()}`, isCustomer: true, ...part } })).id;
const pays = async (id: number) => {
  const { rows } = await business.owner.get(prices.customerTerms, { params: { id }, query: { itemIds: String(itemId) } });
  const [row] = rows;
  return [row?.price, ...(row?.breaks ?? []).map(({ from, price }) => `${from}: ${price}`)];
};

describe('what a customer pays', () => {
  test('is by their list, then by the one for everybody, then what the item says; a list that is retired says nothing', async () => {
    const { data: own } = await list([{ itemId, from: '12', price: '33' }]);
    const { data: all } = await list(
      [
        { categoryId, percentOff: '10' },
        { itemId, from: '24', price: '30' },
      ],
      { forAll: true },
    );
    const [theirs, other] = [await customer({ priceListId: own.id }), await customer()];
    // Their list says from which quantity on; below it the one for everybody does.
    expect(await pays(theirs)).toEqual(['36', '12: 33']);
    expect(await pays(other)).toEqual(['36', '24: 30']);
    const { version } = await business.owner.get(prices.getPriceList, { params: { id: all.id } });
    await business.owner.get(prices.retirePriceList, { params: { id: all.id }, body: { retired: true, version } });
    expect([await pays(theirs), await pays(other)]).toEqual([['40', '12: 33'], ['40']]);
    const inUse = await business.owner.ask(prices.retirePriceList, { params: { id: own.id }, body: { retired: true, version: own.version } });
    expect([inUse.status, inUse.problem.title]).toEqual([409, expect.stringContaining(`buys by ${own.name}`)]);
  });

  test('holds on the days that are said, by the day it is today', async () => {
    const { data: sale } = await list([
      { itemId, price: '35', startsOn: '2026-03-01', endsOn: '2026-03-10' },
      { itemId, price: '34', startsOn: '2026-03-11' },
    ]);
    expect(await pays(await customer({ priceListId: sale.id }))).toEqual(['35']);
  });
});

describe('a price list', () => {
  test('says of each row what is wrong with it, and keeps nothing', async () => {
    const wrong = async (rows: Form['rows'], part: Partial<Form> = {}) => (await list(rows, part)).problem.errors.map(({ field }) => field);
    expect(
      await wrong([
        { itemId, price: '1' },
        { itemId, price: '2' },
      ]),
    ).toEqual(['rows.1.from']);
    expect(
      await wrong([
        { itemId, price: '1', endsOn: '2026-03-10' },
        { itemId, price: '2', startsOn: '2026-03-10' },
      ]),
    ).toEqual(['rows.1.from']);
    expect(await wrong([{ itemId: 99_999, price: '1' }])).toEqual(['rows.0.itemId']);
    expect(await wrong([{ categoryId: 99_999, percentOff: '1' }])).toEqual(['rows.0.itemId']);
    expect(await wrong([{ categoryId, price: '3' }])).toEqual(['rows.0.price']);
    expect(await wrong([{ itemId }])).toEqual(['rows.0.price']);
    expect(await wrong([{ itemId, price: '1', percentOff: '5' }])).toEqual(['rows.0.price']);
    expect(await wrong([{ price: '1' }])).toEqual(['rows.0.itemId']);
    expect(await wrong([{ itemId, percentOff: '100.5' }])).toEqual(['rows.0.percentOff']);
    expect(await wrong([{ itemId, price: '1.0000001' }])).toEqual(['rows.0.price']);
    expect(await wrong([{ itemId, price: '1', startsOn: '2026-03-10', endsOn: '2026-03-09' }])).toEqual(['rows.0.endsOn']);
    expect(await wrong([], { name: ' ' })).toEqual(['name']);
    const { rows } = await business.owner.get(prices.listPriceLists);
    expect(rows.filter(({ name }) => name.startsWith(`List ${count} `))).toEqual([]);
  });

  test('is changed whole, refused when somebody else changed it, and there is one for everybody', async () => {
    const { data: made } = await list([{ itemId, price: '39' }], { forAll: true });
    const twice = await list([], { forAll: true });
    expect([twice.status, twice.problem.errors[0]?.field]).toEqual([409, 'forAll']);
    const body = { name: made.name.toUpperCase(), rows: [{ itemId, from: '6', price: '38.123456' }], version: made.version };
    const changed = await business.owner.get(prices.editPriceList, { params: { id: made.id }, body });
    expect(changed).toMatchObject({ forAll: false, version: 2, rows: [{ from: '6', price: '38.123456', salesPrice: '40', code: `PRICE-${count}` }] });
    expect((await business.owner.ask(prices.editPriceList, { params: { id: made.id }, body })).status).toBe(409);
    const named = await list([], { name: made.name });
    expect([named.status, named.problem.errors[0]?.field]).toEqual([409, 'name']);
    const last = await business.owner.get(setup.lastChange, { query: { kind: 'price list', id: made.id } });
    expect(last.last?.person).toBeTruthy();
    const { rows } = await business.owner.get(prices.listPriceLists);
    expect(rows.find(({ id }) => id === made.id)).toMatchObject({ prices: 1, customers: 0, forAll: false });
    expect((await business.owner.ask(prices.getPriceList, { params: { id: 99_999 } })).status).toBe(404);
  });
});

describe('what a customer calls an item', () => {
  test('means it wherever their order is written, and nothing to others', async () => {
    const id = await customer();
    const keep = (rows: { itemId: number; code: string }[]) => business.owner.ask(prices.keepCustomerCodes, { params: { id }, body: { rows } });
    expect((await keep([{ itemId, code: 'TEA-1' }])).data.rows).toEqual([{ itemId, sku: `PRICE-${count}`, name: expect.any(String), code: 'TEA-1' }]);
    const best = async (customerId?: number) =>
      (await business.owner.get(catalog.listItems, { query: { q: 'tea-1', sort: 'best', ...(customerId ? { customerId } : {}) } })).rows.map((row) => [
        row.id,
        row.byCode,
      ]);
    expect([await best(id), await best()]).toEqual([[[itemId, true]], []]);
    const meant = await business.owner.get(catalog.itemsMeant, { body: { codes: ['tea-1', `price-${count}`, 'nothing'], customerId: id } });
    expect(meant.rows.map(({ items }) => items.map((one) => one.id))).toEqual([[itemId], [itemId], []]);
    const twice = await keep([
      { itemId, code: 'TEA-1' },
      { itemId, code: 'tea-1' },
    ]);
    expect(twice.problem.errors).toEqual([{ field: 'rows.1.code', sentence: 'Line 1 has this code as well.' }]);
    expect((await keep([{ itemId: 99_999, code: 'X' }])).problem.errors[0]?.field).toBe('rows.0.itemId');
    expect((await business.owner.get(prices.customerTerms, { params: { id }, query: { itemIds: String(itemId) } })).rows[0]?.code).toBe('TEA-1');
    expect((await business.owner.ask(prices.customerCodes, { params: { id: business.supplierId } })).status).toBe(404);
  });
});

test('a customer can be given a list, a tax and addresses that are there, and no others', async () => {
  const wrong = async (part: object) =>
    (await business.owner.ask(setup.createParty, { body: { name: `No ${Math.random()}`, isCustomer: true, ...part } })).problem.errors.map(
      ({ field }) => field,
    );
  expect(await wrong({ priceListId: 99_999 })).toEqual(['priceListId']);
  expect(await wrong({ salesTaxCodeId: 99_999 })).toEqual(['salesTaxCodeId']);
  expect(await wrong({ addresses: [{ label: 'Kitchen', address: ' ' }] })).toEqual(['addresses.0.address']);
  const id = await customer({ addresses: [{ label: 'Kitchen', address: 'Gate B\nCopse Lane' }] });
  const party = await business.owner.get(setup.getParty, { params: { id } });
  expect(party.addresses).toEqual([{ label: 'Kitchen', address: 'Gate B\nCopse Lane' }]);
});
