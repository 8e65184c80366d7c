import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as catalog from '@larder/contract/catalog';
import * as customers from '@larder/contract/customers';
import * as inbound from '@larder/contract/inbound';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as setup from '@larder/contract/setup';
import { eq } from 'drizzle-orm';
import { transaction } from '../../db/database';
import { addPerson } from '../../db/found';
import { roleGrant } from '../../db/schema/index';
import { openBusiness, signIn, type Business } from '../../testing/business';
import { pickBody, sold, stocked } from '../../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const add = (part: object) => business.owner.ask(setup.createParty, { body: { name: 'Nobody', ...part } as never });
const names = async (query: object) => (await business.owner.get(setup.listParties, { query })).rows.map(({ name }) => name);

describe('suppliers and customers', () => {
  test('are found by letters in any order, as what they are', async () => {
    await add({ name: 'Brightwick Glass', isSupplier: true });
    await add({ name: 'Glass Lane Deli', isCustomer: true });
    await add({ name: 'Mill & Glass', isSupplier: true, isCustomer: true });
    expect(await names({ q: 'glass' })).toEqual(['Brightwick Glass', 'Glass Lane Deli', 'Mill & Glass']);
    expect(await names({ q: 'glass bright' })).toEqual(['Brightwick Glass']);
    expect(await names({ q: 'glass', as: 'supplier' })).toEqual(['Brightwick Glass', 'Mill & Glass']);
    expect(await names({ q: 'glass', as: 'customer' })).toEqual(['Glass Lane Deli', 'Mill & Glass']);
    expect(await names({ q: '%' })).toEqual([]);
  });

  test('are one or the other or both, by a name of their own, with days that can be', async () => {
    expect((await add({ name: 'Neither' })).problem.errors).toEqual([{ field: 'isSupplier', sentence: 'Say whether this is a supplier, a customer or both.' }]);
    expect((await add({ name: 'hexley joinery', isSupplier: true })).problem.errors).toEqual([{ field: 'name', sentence: 'Hexley Joinery is there already.' }]);
    expect((await add({ name: '  ', isSupplier: true })).problem.errors[0]).toMatchObject({ field: 'name' });
    expect((await add({ name: 'Slow', isSupplier: true, leadDays: 400 })).problem.errors).toEqual([
      { field: 'leadDays', sentence: 'Give days from 0 to 365.' },
    ]);
    expect((await add({ name: 'Taxed', isSupplier: true, taxCodeId: 99 })).problem.errors).toEqual([{ field: 'taxCodeId', sentence: 'There is no such tax.' }]);
  });

  test('are changed by one person at a time; what changed is kept', async () => {
    const { data: made } = await add({ name: 'Oldname', isSupplier: true });
    const body = { name: 'Newname', email: 'orders@newname.example', address: '1 Yard', leadDays: 12, taxCodeId: null };
    const changed = await business.owner.get(setup.editParty, { params: { id: made.id }, body: { ...body, version: made.version } });
    expect(changed).toMatchObject({ name: 'Newname', leadDays: 12, version: made.version + 1 });
    const stale = await business.owner.ask(setup.editParty, { params: { id: made.id }, body: { ...body, version: made.version } });
    expect(stale.status).toBe(409);
    const { rows } = await business.pool.query<{ field: string }>(`SELECT field FROM change WHERE kind = 'party' AND subject_id = $1 ORDER BY id`, [made.id]);
    expect(rows.map(({ field }) => field)).toEqual(expect.arrayContaining(['name', 'email', 'address', 'leadDays']));
    const { rows: places } = await business.pool.query<{ code: string }>('SELECT code FROM place WHERE party_id = $1', [made.id]);
    expect(places).toEqual([{ code: 'Newname' }]);
    expect((await business.owner.ask(setup.editParty, { params: { id: 99_999 }, body: { ...body, version: 1 } })).status).toBe(404);
    const taken = await business.owner.ask(setup.editParty, {
      params: { id: made.id },
      body: { ...body, name: 'Hexley Joinery', version: changed.version },
    });
    expect(taken.problem.errors[0]?.field).toBe('name');
  });

  test('the scan bar leads to suppliers by their name', async () => {
    const { rows } = await business.owner.get(catalog.find, { query: { q: 'hexley' } });
    expect(rows).toContainEqual({ kind: 'supplier', id: business.supplierId, code: 'Supplier', name: 'Hexley Joinery', exact: false });
    expect((await business.owner.get(inbound.getSupplier, { params: { id: business.supplierId } })).name).toBe('Hexley Joinery');
  });
});

describe('what forms choose from', () => {
  test('sites, units, categories, reasons and today’s taxes', async () => {
    const reference = await business.owner.get(setup.reference);
    expect(reference.sites.map(({ code }) => code)).toEqual(['BARN', 'HARB']);
    expect(reference.units.find(({ code }) => code === 'kg')).toMatchObject({ name: 'kilogram', step: '0.001' });
    expect(reference.taxes.map(({ code, rate }) => [code, rate])).toEqual([
      ['S', '20'],
      ['Z', '0'],
    ]);
    expect(reference.reasons.map(({ code }) => code)).toContain('own-use');
  });

  test('a category is renamed, and its name is its own', async () => {
    const jars = await business.owner.get(setup.createCategory, { body: { name: 'Jars' } });
    await business.owner.get(setup.createCategory, { body: { name: 'Lids' } });
    expect((await business.owner.ask(setup.createCategory, { body: { name: 'jars' } })).problem.errors).toEqual([
      { field: 'name', sentence: 'There is a category jars already.' },
    ]);
    const edit = (name: string) => business.owner.ask(setup.editCategory, { params: { id: jars.id }, body: { name } });
    expect((await edit('LIDS')).problem.errors[0]?.field).toBe('name');
    expect((await edit('Glass jars')).data).toMatchObject({ id: jars.id, name: 'Glass jars' });
    expect((await business.owner.ask(setup.editCategory, { params: { id: 9999 }, body: { name: 'x' } })).status).toBe(404);
  });

  test('a site has a code of its own, its bench and its place for goods without a bin', async () => {
    const taken = await business.owner.ask(setup.createSite, { body: { code: 'barn', name: 'Another' } });
    expect(taken.problem.errors).toEqual([{ field: 'code', sentence: 'barn is already the code of Barn store.' }]);
    const van = await business.owner.get(setup.createSite, { body: { code: 'VAN', name: 'Market van' } });
    const { rows } = await business.pool.query<{ kind: string; unplaced: boolean }>('SELECT kind, unplaced FROM place WHERE site_id = $1 ORDER BY kind', [
      van.id,
    ]);
    expect(rows).toEqual([
      { kind: 'bench', unplaced: false },
      { kind: 'bin', unplaced: true },
      { kind: 'in-work', unplaced: false },
      { kind: 'transit', unplaced: false },
    ]);
  });
});

describe('the list of suppliers or customers', () => {
  const list = (as: 'supplier' | 'customer', part: { q?: string; life?: 'active' | 'retired' | 'all'; cursor?: string; limit?: number } = {}) =>
    business.owner.get(setup.partyList, { query: { as, ...part } });

  test('tells open orders and the day of the last, and is found by a person there', async () => {
    const { id } = await business.owner.get(setup.createParty, {
      body: {
        name: 'Copper Kettle',
        isSupplier: true,
        phone: '01632 960001',
        contacts: [
          { name: 'Ada Wren', role: 'orders' },
          { name: 'Bo Lark', email: 'bo@kettle.example' },
        ],
      },
    });
    const itemId = await business.item('KETTLE');
    const ask = { supplierId: id, siteId: business.siteId, expectedOn: '2026-03-12', lines: [{ itemId, quantity: '2', price: '9' }] };
    expect((await list('supplier', { q: 'bo lark' })).rows).toMatchObject([
      { name: 'Copper Kettle', contact: 'Ada Wren', phone: '01632 960001', openOrders: 0, lastOn: null },
    ]);
    const order = await business.owner.get(inbound.createPurchase, { body: ask });
    expect((await list('supplier', { q: 'kettle' })).rows[0]?.openOrders).toBe(0); // a draft is not on order
    await business.owner.get(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'place', version: order.version } });
    expect((await list('supplier', { q: 'kettle' })).rows[0]).toMatchObject({ openOrders: 1, lastOn: business.clock.now.toISOString().slice(0, 10) });
    await transaction(business.pool, 'write', async (tx) => {
      const personId = await addPerson(tx, { name: 'Else Where', email: 'else@test.example', password: 'a long password' }, 'Stock controller');
      await tx.db.update(roleGrant).set({ siteId: business.otherSiteId }).where(eq(roleGrant.personId, personId));
    });
    const other = await signIn(business.base, 'else@test.example', 'a long password');
    expect((await other.get(setup.partyList, { query: { as: 'supplier', q: 'kettle' } })).rows[0]).toMatchObject({ openOrders: 0, lastOn: null });
    expect((await list('customer', { q: 'kettle' })).rows).toEqual([]);
  });

  test('goes on page by page, by name', async () => {
    for (const name of ['Aspen', 'Birch', 'Cedar']) await business.owner.get(setup.createParty, { body: { name: `${name} Wood Club`, isCustomer: true } });
    const first = await list('customer', { q: 'wood club', limit: 2 });
    expect(first.rows.map(({ name }) => name)).toEqual(['Aspen Wood Club', 'Birch Wood Club']);
    const second = await list('customer', { q: 'wood club', limit: 2, cursor: first.next as string });
    expect([second.rows.map(({ name }) => name), second.next]).toEqual([['Cedar Wood Club'], null]);
  });

  test('holds who is retired apart; nobody with an open order is retired', async () => {
    const kettle = (await list('supplier', { q: 'kettle' })).rows[0]?.id as number;
    const retire = (id: number, retired: boolean) => business.owner.ask(setup.retireParty, { params: { id }, body: { retired } });
    expect((await retire(kettle, true)).problem.title).toMatch(/^PO-\d+ of Copper Kettle is still open/);
    const { rows } = await business.owner.get(inbound.listPurchases, { query: { supplierId: kettle, show: 'all' } });
    expect(rows).toHaveLength(1);
    const order = await business.owner.get(inbound.getPurchase, { params: { id: rows[0]?.id as number } });
    await business.owner.get(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'close', version: order.version } });
    expect((await retire(kettle, true)).status).toBe(200);
    expect((await list('supplier', { q: 'kettle' })).rows).toEqual([]);
    expect((await list('supplier', { q: 'kettle', life: 'retired' })).rows[0]?.retired).toBe(true);
    expect((await business.owner.get(setup.listParties, { query: { as: 'supplier', q: 'kettle' } })).rows).toEqual([]);
    expect((await retire(kettle, false)).status).toBe(200);
  });
});

test('people of a supplier are written with it, in their order, and gone with whoever takes them off', async () => {
  const { id, version } = await business.owner.get(setup.createParty, { body: { name: 'Lark Mill', isSupplier: true } });
  const body = { name: 'Lark Mill', version, notes: 'by the ramp', contacts: [{ name: 'Cy Dove' }, { name: 'Di Hawk', role: 'accounts' }] };
  const kept = await business.owner.get(setup.editParty, { params: { id }, body });
  expect(kept).toMatchObject({
    notes: 'by the ramp',
    contacts: [
      { name: 'Cy Dove', role: '' },
      { name: 'Di Hawk', role: 'accounts' },
    ],
  });
  const refused = await business.owner.ask(setup.editParty, { params: { id }, body: { ...body, version: kept.version, contacts: [{ name: ' ' }] } });
  expect(refused.problem.errors).toEqual([{ field: 'contacts.0.name', sentence: 'This must be filled.' }]);
  await business.owner.get(setup.editParty, { params: { id }, body: { ...body, version: kept.version, contacts: [] } });
  expect((await business.owner.get(setup.getParty, { params: { id } })).contacts).toEqual([]);
});

test('what a customer has bought: what went out, when it was ordered last and at which price', async () => {
  const itemId = await business.item('GONE-1');
  await stocked(business, itemId, '10');
  const order = await sold(business, itemId, '4');
  const bought = () => business.owner.get(customers.customerItems, { params: { id: business.customerId } });
  expect((await bought()).rows.filter(({ sku }) => sku === 'GONE-1')).toEqual([]);
  await business.owner.get(picking.pick, { body: pickBody(business, order, '3') });
  await business.owner.get(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '3' }] } });
  expect((await bought()).rows.find(({ sku }) => sku === 'GONE-1')).toMatchObject({ quantity: '3', lastPrice: '5' });
  expect((await business.owner.ask(customers.customerItems, { params: { id: business.supplierId } })).status).toBe(404);
  const { rows } = await business.owner.get(outbound.listSales, { query: { customerId: business.customerId, show: 'all' } });
  expect(rows.some(({ id }) => id === order.id)).toBe(true);
});
