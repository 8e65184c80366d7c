import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as bills from '@larder/contract/bills';
import * as catalog from '@larder/contract/catalog';
import * as inbound from '@larder/contract/inbound';
import * as receiving from '@larder/contract/receiving';
import { openBusiness, type Business } from '../../testing/business';
import { ordered } from '../../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

test('a supplier: punctual and whole by its lines, the steps of its prices, open orders and what is owed', async () => {
  const { owner, supplierId, clock } = business;
  const itemId = await business.item('SUP-1');
  const item = await owner.get(catalog.getItem, { params: { id: itemId } });
  await owner.get(catalog.editItem, {
    params: { id: itemId },
    body: {
      version: item.version,
      sku: item.sku,
      name: item.name,
      unitId: item.unitId,
      suppliers: [{ supplierId, code: 'S-1', packSize: '5', minimum: '10', price: '2.40' }],
    },
  });
  const receive = (lineId: number, quantity: string) =>
    owner.get(receiving.receive, { body: { lines: [{ lineId, quantity, binId: business.bins[0] as number }] } });
  const first = await ordered(business, itemId, '10', '2.00', '2026-03-12');
  await receive(first.lineId, '10');
  clock.now = new Date('2026-03-14T09:00:00Z');
  const second = await ordered(business, itemId, '10', '2.40', '2026-03-16');
  await receive(second.lineId, '6');
  clock.now = new Date('2026-03-20T09:00:00Z');
  await receive(second.lineId, '4');
  const third = await ordered(business, itemId, '10', '2.40', '2026-03-18');
  await owner.get(bills.createBill, {
    body: {
      partyId: supplierId,
      reference: 'S-77',
      billedOn: '2026-03-20',
      lines: [{ kind: 'goods', purchaseLineId: first.lineId, quantity: '10', price: '2.00' }],
    },
  });
  const told = await owner.get(inbound.getSupplier, { params: { id: supplierId } });
  expect(told.punctual).toEqual({ lines: 3, onTime: 1, inFull: 2 });
  expect(told.items[0]?.prices.map(({ price }) => price)).toEqual(['2', '2.4']);
  expect(told.items[0]).toMatchObject({ code: 'S-1', packSize: '5', minimum: '10', price: '2.4' });
  expect(told.orders).toMatchObject([{ number: third.number, outstanding: '10', late: true }]);
  expect(told.owed).toBe('20.00');
});

test('a customer is no supplier', async () => {
  expect((await business.owner.ask(inbound.getSupplier, { params: { id: business.customerId } })).status).toBe(404);
});
