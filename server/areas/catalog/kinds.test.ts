import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as bills from '@larder/contract/bills';
import * as books from '@larder/contract/books';
import * as catalog from '@larder/contract/catalog';
import * as inbound from '@larder/contract/inbound';
import * as landed from '@larder/contract/landed';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as receiving from '@larder/contract/receiving';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { ordered, sold, stocked } from '../../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const balanceOf = async (code: string): Promise<string> => (await business.owner.get(books.listAccounts)).rows.find((row) => row.code === code)?.balance ?? '';
const accountId = async (code: string): Promise<number> => (await business.owner.get(books.listAccounts)).rows.find((row) => row.code === code)?.id as number;
const account = async (code: string, name: string, type: 'inventory' | 'expense'): Promise<number> =>
  (await business.owner.get(books.createAccount, { body: { code, name, type } })).id;
const change = async (id: number, part: Partial<catalog.ItemForm>) => {
  const { id: _id, category: _c, unit: _u, step: _s, family: _f, ...item } = await business.owner.get(catalog.getItem, { params: { id } });
  const form = {
    ...item,
    barcodes: item.barcodes.map(({ code, unitId }) => ({ code, unitId })),
    substitutes: item.substitutes.map(({ itemId }) => itemId),
    ...part,
  };
  return business.owner.ask(catalog.editItem, { params: { id }, body: form });
};

describe('goods that are used as they come', () => {
  test('are received at the desk into no bin, are cost at once on their own account, and are billed', async () => {
    const tapeAccount = await account('5410', 'Packing used', 'expense');
    const itemId = await business.item('TAPE', { kind: 'not-stocked', costAccountId: tapeAccount });
    const order = await ordered(business, itemId, '36', '0.80');
    const desk = await business.owner.get(receiving.receivingDesk, { query: {} });
    expect(desk.rows.find(({ lineId }) => lineId === order.lineId)).toMatchObject({ stocked: false, binId: null, bin: null, outstanding: '36' });
    const body = { lines: [{ lineId: order.lineId, quantity: '24', binId: null }] };
    const foreseen = await business.owner.ask(receiving.receive, { body }, { preview: true });
    expect(foreseen.data.effects).toEqual({ rows: [], notes: [], costNotes: ['19.20 for TAPE is cost at once: none of it lies here.'] });
    const posted = await business.owner.get(receiving.receive, { body });
    expect(posted.effects).toEqual(foreseen.data.effects);
    expect([await balanceOf('5410'), await balanceOf('2110')]).toEqual(['19.20', '-19.20']);
    const { rows } = await business.pool.query('SELECT quantity, value FROM pool WHERE item_id = $1', [itemId]);
    expect(rows).toEqual([{ quantity: '0.0000', value: '0.00' }]);
    const bill = await business.owner.get(bills.createBill, {
      body: {
        partyId: business.supplierId,
        reference: 'T-1',
        billedOn: '2026-03-10',
        lines: [{ kind: 'goods', purchaseLineId: order.lineId, quantity: '24', price: '0.85' }],
      },
    });
    expect(bill.lines[0]).toMatchObject({ cleared: '19.20', difference: '1.20', toStock: '0.00' });
    expect([await balanceOf('5410'), await balanceOf('2110')]).toEqual(['20.40', '0.00']);
    await business.owner.get(bills.undoBill, { params: { id: bill.id as number }, body: {} });
    const undone = await business.owner.get(stock.undo, { body: { movementId: posted.movementId as number } });
    expect(undone.effects.costNotes).toEqual(['19.20 for TAPE comes off cost again.']);
    expect([await balanceOf('5410'), await balanceOf('2110')]).toEqual(['0.00', '0.00']);
    expect((await business.owner.get(inbound.getPurchase, { params: { id: order.id } })).lines[0]).toMatchObject({ received: '0', outstanding: '36' });
  });

  test('are on order nowhere, lie in no bin and cannot be counted, corrected or opened', async () => {
    const itemId = await business.item('GLUE', { kind: 'not-stocked' });
    await ordered(business, itemId, '5');
    const { rows } = await business.owner.get(catalog.listItems, { query: { kind: 'not-stocked', q: 'glue' } });
    expect(rows).toMatchObject([{ sku: 'GLUE', kind: 'not-stocked', onHand: '0', onOrder: '0' }]);
    const binId = business.bins[0] as number;
    const correction = await business.owner.ask(stock.correct, {
      body: { way: 'plus-or-minus', reasonId: business.reasonId, lines: [{ itemId, binId, quantity: '3' }] },
    });
    const opening = await business.owner.ask(stock.openStock, { body: { lines: [{ itemId, binId, quantity: '3', unitValue: '1' }] } });
    for (const { status, problem } of [correction, opening]) {
      expect(status).toBe(422);
      expect(problem.errors).toEqual([{ field: 'lines.0.itemId', sentence: 'GLUE is not kept in stock: there is nothing of it to count.' }]);
    }
  });

  test('bought in a shop, without an order, are paid and used', async () => {
    const itemId = await business.item('BATTERY', { kind: 'not-stocked' });
    const [paid, cost] = [await balanceOf('2120'), await balanceOf('5000')];
    await business.owner.get(receiving.receiveUnordered, {
      body: { lines: [{ itemId, binId: business.bins[0] as number, quantity: '4', unitValue: '1.50' }] },
    });
    expect(Number(await balanceOf('2120')) - Number(paid)).toBe(-6);
    expect(Number(await balanceOf('5000')) - Number(cost)).toBe(6);
  });

  test('bear no share of a landed charge', async () => {
    const tape = await business.item('TAPE-L', { kind: 'not-stocked' });
    const box = await business.item('BOX-L');
    const { owner, supplierId, siteId } = business;
    const lines = [tape, box].map((itemId) => ({ itemId, quantity: '10', price: '2.00' }));
    const order = await owner.get(inbound.createPurchase, { body: { supplierId, siteId, lines } });
    await owner.get(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'place', version: order.version } });
    const posted = await owner.get(receiving.receive, {
      body: { lines: order.lines.map(({ id }, index) => ({ lineId: id, quantity: '10', binId: index === 0 ? null : (business.bins[0] as number) })) },
    });
    const found = await owner.get(landed.receiptLines, { query: { movementIds: String(posted.movementId) } });
    expect(found.rows.map(({ sku }) => sku)).toEqual(['BOX-L']);
    const sheet = await owner.get(landed.createSheet, {
      body: { movementIds: [posted.movementId as number], charges: [{ name: 'Freight', by: 'value', amount: '9.00' }] },
    });
    expect(sheet).toMatchObject({ toStock: '9.00', toSold: '0.00' });
  });
});

describe('services and charges on a sales order', () => {
  test('are neither reserved nor short, are not picked, and go out with the dispatch', async () => {
    const engraving = await business.item('ENGRAVE', { kind: 'service', salesPrice: '15.00' });
    const smoker = await business.item('SM-1');
    await stocked(business, smoker, '10');
    const { owner, customerId, siteId, bins } = business;
    const quote = await owner.get(outbound.createSale, {
      body: {
        customerId,
        siteId,
        shipBy: '2026-03-12',
        lines: [
          { itemId: smoker, quantity: '3', price: '20.00' },
          { itemId: engraving, quantity: '3', price: '15.00' },
        ],
      },
    });
    expect(await owner.get(outbound.availability, { query: { siteId, itemId: engraving, quantity: '3' } })).toMatchObject({ stocked: false, short: '0' });
    const confirmed = await owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
    expect([...new Set(confirmed.effects.rows.map(({ sku }) => sku))]).toEqual(['SM-1']);
    const look = () => owner.get(outbound.getSale, { params: { id: quote.id } });
    const order = await look();
    expect(order).toMatchObject({
      state: 'confirmed',
      short: '0',
      stages: [{ name: 'Quote' }, { name: 'Confirmed' }, { name: 'Picked', done: '0', of: '3' }, {}],
    });
    const [goods, service] = order.lines.map(({ id }) => id) as [number, number];
    const refused = await owner.ask(picking.pick, {
      body: { orderId: quote.id, lines: [{ lineId: service, binId: bins[0] as number, quantity: '3' }] },
    });
    expect(refused.problem.errors[0]?.sentence).toBe('ENGRAVE is not kept in stock: there is nothing to pick, it goes out with the dispatch.');
    await owner.get(picking.pick, { body: { orderId: quote.id, lines: [{ lineId: goods, binId: bins[0] as number, quantity: '3' }] } });
    const more = await owner.ask(shipping.dispatch, { body: { orderId: quote.id, lines: [{ lineId: service, quantity: '4' }] } });
    expect(more.problem.errors).toEqual([{ field: 'lines.0.quantity', sentence: `${order.number} wants only 3 more of ENGRAVE.` }]);
    const gone = await owner.get(shipping.dispatch, {
      body: {
        orderId: quote.id,
        lines: [
          { lineId: goods, quantity: '3' },
          { lineId: service, quantity: '2' },
        ],
      },
    });
    expect(await look()).toMatchObject({ state: 'part dispatched', dispatchedAmount: '90.00', dispatchedCost: '6.00' });
    await owner.get(shipping.dispatch, { body: { orderId: quote.id, lines: [{ lineId: service, quantity: '1' }] } });
    expect(await look()).toMatchObject({ state: 'dispatched', open: false });
    expect((await look()).stages.find(({ name }) => name === 'Picked')).toEqual({ name: 'Picked', done: '3', of: '3' });
    await owner.get(stock.undo, { body: { movementId: gone.movementId as number } });
    expect((await look()).lines.map(({ picked, dispatched }) => [picked, dispatched])).toEqual([
      ['3', '0'],
      ['1', '1'],
    ]);
  });

  test('an order of services alone has nothing to pick', async () => {
    const itemId = await business.item('COURSE', { kind: 'service' });
    const order = await sold(business, itemId, '2');
    expect(order.stages.map(({ name }) => name)).toEqual(['Quote', 'Confirmed', 'Dispatched']);
    expect((await business.owner.get(picking.pickList, { params: { id: order.id } })).missing).toEqual([]);
    await business.owner.get(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '2' }] } });
    expect(await business.owner.get(outbound.getSale, { params: { id: order.id } })).toMatchObject({ state: 'dispatched', margin: '10.00' });
  });
});

describe('what an item is', () => {
  test('goes with how it is kept', async () => {
    const refused = await business.owner.ask(catalog.createItem, {
      body: {
        sku: 'ODD',
        name: 'Odd',
        unitId: 1,
        kind: 'service',
        tracking: 'lot',
        costMethod: 'fifo',
        policies: [{ siteId: business.siteId, reorderPoint: '1', orderUpTo: '5' }],
      },
    });
    expect(refused.problem.errors.map(({ field }) => field)).toEqual(['tracking', 'costMethod', 'policies.0.reorderPoint']);
  });

  test('changes until it was ordered, sold or moved', async () => {
    const id = await business.item('MAYBE');
    expect((await change(id, { kind: 'service' })).status).toBe(200);
    expect((await change(id, { kind: 'stocked' })).status).toBe(200);
    await ordered(business, id, '1');
    const late = await change(id, { kind: 'service' });
    expect(late.problem.errors).toEqual([
      { field: 'kind', sentence: 'MAYBE was ordered already; what it is cannot change any more. Retire it and set up another.' },
    ]);
  });
});

describe('accounts of its own', () => {
  test('what stock is worth moves along when an item or its category gets another account', async () => {
    const [jars, wax] = [await account('1210', 'Inventory: jars', 'inventory'), await account('1220', 'Inventory: wax', 'inventory')];
    const categoryId = (await business.owner.get(setup.createCategory, { body: { name: 'Jars' } })).id;
    const own = await business.item('JAR-OWN');
    const shared = await business.item('JAR-SHARED', { categoryId });
    await stocked(business, own, '10', '3.00');
    await stocked(business, shared, '10', '4.00');
    expect((await change(own, { inventoryAccountId: wax })).status).toBe(200);
    expect(await balanceOf('1220')).toBe('30.00');
    await business.owner.get(setup.editCategory, { params: { id: categoryId }, body: { name: 'Jars', inventoryAccountId: jars } });
    expect(await balanceOf('1210')).toBe('40.00');
    await business.owner.get(catalog.editItems, { body: { ids: [own], categoryId } });
    expect([await balanceOf('1210'), await balanceOf('1220')]).toEqual(['40.00', '30.00']);
    expect((await change(own, { inventoryAccountId: null })).status).toBe(200);
    expect([await balanceOf('1210'), await balanceOf('1220')]).toEqual(['70.00', '0.00']);
    await business.owner.get(catalog.editItems, { body: { ids: [own, shared], categoryId: null } });
    expect(await balanceOf('1210')).toBe('0.00');
  });

  test('only accounts of the right kind', async () => {
    const id = await business.item('WRONG-ACC');
    const refused = await change(id, { inventoryAccountId: await accountId('5000'), costAccountId: await accountId('1200') });
    expect(refused.problem.errors.map(({ field }) => field)).toEqual(['inventoryAccountId', 'costAccountId']);
    const { rows } = (await business.owner.get(setup.reference)).categories.length
      ? { rows: (await business.owner.get(setup.reference)).categories }
      : { rows: [await business.owner.get(setup.createCategory, { body: { name: 'Any' } })] };
    const category = await business.owner.ask(setup.editCategory, {
      params: { id: rows[0]?.id as number },
      body: { name: 'Jars', costAccountId: await accountId('1200') },
    });
    expect(category.problem.errors).toEqual([{ field: 'costAccountId', sentence: 'Choose an account of expenses.' }]);
  });

  test('the days an item takes go into the day an order is expected', async () => {
    const slow = await business.item('SLOW', { suppliers: [{ supplierId: business.supplierId, leadDays: 21 }] });
    const terms = await business.owner.get(inbound.supplierTerms, { params: { id: business.supplierId }, query: { itemIds: String(slow) } });
    expect(terms).toMatchObject({ leadDays: 7, rows: [{ itemId: slow, leadDays: 21 }] });
  });
});
