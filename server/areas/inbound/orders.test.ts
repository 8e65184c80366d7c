import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as bills from '@larder/contract/bills';
import * as books from '@larder/contract/books';
import * as inbound from '@larder/contract/inbound';
import * as receiving from '@larder/contract/receiving';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { ordered } from '../../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const balance = async (purpose: string) => (await business.owner.get(books.listAccounts)).rows.find((account) => account.purpose === purpose)?.balance;
const placed = async (body: inbound.PurchaseDraft) => {
  const order = await business.owner.get(inbound.createPurchase, { body });
  return business.owner.get(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'place', version: order.version } });
};
const receive = (lineId: number, quantity: string) =>
  business.owner.get(receiving.receive, { body: { lines: [{ lineId, quantity, binId: business.bins[0] as number }] } });

describe('what an order comes to', () => {
  test('goods, charges and tax, less what was called off; the supplier’s tax goes before the item’s', async () => {
    const { owner, siteId } = business;
    const { taxes } = await owner.get(setup.reference);
    const none = taxes.find(({ rate }) => Number(rate) === 0);
    const full = taxes.find(({ rate }) => Number(rate) > 0);
    const itemId = await business.item('TOT-1', { taxCodeId: full?.id ?? null });
    const body = {
      supplierId: business.supplierId,
      siteId,
      charges: [{ label: 'Carriage', amount: '12.50', taxCodeId: full?.id ?? null }],
      lines: [{ itemId, quantity: '40', price: '2.00' }],
    };
    const order = await placed(body);
    const rate = Number(full?.rate) / 100;
    expect([order.amount, order.tax, order.total]).toEqual(['80.00', (92.5 * rate).toFixed(2), (92.5 * (1 + rate)).toFixed(2)]);
    const less = await owner.get(inbound.amendPurchase, {
      params: { id: order.id },
      body: { version: order.version, expectedOn: null, lines: [{ lineId: order.lines[0]?.id as number, callOff: '10' }] },
    });
    expect(less.lines[0]?.amount).toBe('60.00');
    expect([less.amount, less.total]).toEqual(['60.00', (72.5 * (1 + rate)).toFixed(2)]);
    const abroad = await owner.get(setup.createParty, { body: { name: 'Tinwork Abroad', isSupplier: true, taxCodeId: none?.id ?? null } });
    const untaxed = await placed({ ...body, supplierId: abroad.id, charges: [] });
    expect(untaxed.tax).toBe('0.00');
    expect(untaxed.lines[0]?.tax).not.toBe(order.lines[0]?.tax);
  });
  test('a line may be expected on a day of its own, and the desk goes by it', async () => {
    const itemId = await business.item('DAY-1');
    const body = { supplierId: business.supplierId, siteId: business.siteId, expectedOn: '2026-03-20' };
    const order = await placed({
      ...body,
      lines: [
        { itemId, quantity: '1', price: '2.00' },
        { itemId, quantity: '2', price: '2.00', expectedOn: '2026-03-12' },
      ],
    });
    expect(order.lines.map(({ expectedOn }) => expectedOn)).toEqual([null, '2026-03-12']);
    const { rows } = await business.owner.get(receiving.receivingDesk, {});
    expect(rows.filter((line) => line.orderId === order.id).map(({ position, expectedOn }) => [position, expectedOn])).toEqual([
      [2, '2026-03-12'],
      [1, '2026-03-20'],
    ]);
  });
  test('a charge of nothing and a tax nobody knows are refused by their field', async () => {
    const itemId = await business.item('TOT-2');
    const body = { supplierId: business.supplierId, siteId: business.siteId, lines: [{ itemId, quantity: '1', price: '2.00' }] };
    const faults = async (charge: { label: string; amount: string; taxCodeId?: number }) =>
      (await business.owner.ask(inbound.createPurchase, { body: { ...body, charges: [charge] } })).problem.errors.map(({ field }) => field);
    expect(await faults({ label: 'Carriage', amount: '0' })).toEqual(['charges.0.amount']);
    expect(await faults({ label: '', amount: '5' })).toEqual(['charges.0.label']);
    expect(await faults({ label: 'Carriage', amount: '5', taxCodeId: 9999 })).toEqual(['charges.0.taxCodeId']);
  });
});

describe('another price after placing', () => {
  test('before anything has come the line takes it; later what is still to come is a line of its own, and receipts add up', async () => {
    const { owner } = business;
    const itemId = await business.item('PRI-1');
    const order = await ordered(business, itemId, '30', '2.00');
    const amend = (version: number, lineId: number, price: string) =>
      owner.get(inbound.amendPurchase, { params: { id: order.id }, body: { version, expectedOn: order.expectedOn, lines: [{ lineId, price }] } });
    const dearer = await amend(order.version, order.lineId, '2.50');
    expect(dearer.lines).toMatchObject([{ price: '2.5', amount: '75.00' }]);
    await receive(order.lineId, '12');
    const split = await amend(dearer.version, order.lineId, '3.00');
    expect(split.lines.map(({ price, received, outstanding, cancelled }) => [price, received, outstanding, cancelled])).toEqual([
      ['2.5', '12', '0', '18'],
      ['3', '0', '18', '0'],
    ]);
    expect(split.amount).toBe('84.00');
    expect(split.changes.map(({ field }) => field)).toEqual(expect.arrayContaining(['line 1 price', 'line 1 called off', 'line 2 price']));
    await receive(split.lines[1]?.id as number, '18');
    const { value } = await owner.get(stock.itemStock, { params: { id: itemId } });
    expect(value).toBe('84.00');
  });
});

describe('goods that go straight to a customer', () => {
  test('they are no stock and not on order here; what they cost is cost of sales, billed and undone like a receipt', async () => {
    const { owner } = business;
    const itemId = await business.item('DIR-1');
    const before = { grni: Number(await balance('grni')), cost: Number(await balance('cost-of-sales')) };
    const order = await placed({
      supplierId: business.supplierId,
      siteId: business.siteId,
      shipsToId: business.customerId,
      lines: [{ itemId, quantity: '8', price: '3.00' }],
    });
    const lineId = order.lines[0]?.id as number;
    expect(order).toMatchObject({ shipsTo: 'Copse Lane School', state: 'placed' });
    expect((await owner.get(stock.itemStock, { params: { id: itemId } })).sites.filter(({ onOrder }) => Number(onOrder) > 0)).toEqual([]);
    expect((await owner.get(receiving.receivingDesk, {})).rows.filter((line) => line.orderId === order.id)).toEqual([]);
    const listed = await owner.get(inbound.listPurchases, { query: { to: 'customer' } });
    expect(listed.rows.map(({ number }) => number)).toEqual([order.number]);
    const refused = await owner.ask(receiving.receive, { body: { lines: [{ lineId, quantity: '1', binId: business.bins[0] as number }] } });
    expect([refused.status, refused.problem.title]).toEqual([
      422,
      `${order.number} goes straight to Copse Lane School: record on the order what was delivered there.`,
    ]);
    const deliver = (quantity: string) => ({ params: { id: order.id }, body: { lines: [{ lineId, quantity }] } });
    expect((await owner.ask(inbound.recordDirect, deliver('9'))).status).toBe(409);
    const part = await owner.get(inbound.recordDirect, deliver('5'));
    expect((await owner.get(inbound.getPurchase, { params: { id: order.id } })).state).toBe('part delivered');
    expect([Number(await balance('cost-of-sales')) - before.cost, Number(await balance('grni')) - before.grni]).toEqual([15, -15]);
    expect((await owner.get(stock.itemStock, { params: { id: itemId } })).value).toBe('0.00');
    expect(await business.broken()).toEqual([]);
    await owner.get(stock.undo, { body: { movementId: part.movementId as number } });
    expect([Number(await balance('cost-of-sales')) - before.cost, Number(await balance('grni')) - before.grni]).toEqual([0, 0]);
    await owner.get(inbound.recordDirect, deliver('8'));
    const bill = await owner.get(bills.createBill, {
      body: {
        partyId: business.supplierId,
        reference: 'D-1',
        billedOn: '2026-03-10',
        lines: [{ kind: 'goods', purchaseLineId: lineId, quantity: '8', price: '3.25' }],
      },
    });
    expect(bill.lines[0]).toMatchObject({ cleared: '24.00', difference: '2.00', toStock: '0.00' });
    expect(Number(await balance('grni')) - before.grni).toBe(0);
    const variance = await balance('price-variance');
    expect(Number(await balance('cost-of-sales')) - before.cost).toBe(26);
    await owner.get(bills.undoBill, { params: { id: bill.id as number }, body: {} });
    expect([Number(await balance('cost-of-sales')) - before.cost, await balance('price-variance')]).toEqual([24, variance]);
    expect(await business.broken()).toEqual([]);
  });
  test('an order for a site is not delivered to a customer', async () => {
    const order = await ordered(business, await business.item('DIR-2'), '3');
    const refused = await business.owner.ask(inbound.recordDirect, { params: { id: order.id }, body: { lines: [{ lineId: order.lineId, quantity: '3' }] } });
    expect(refused.status).toBe(409);
  });
});
