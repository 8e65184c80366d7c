import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as receiving from '@larder/contract/receiving';
import * as lots from '@larder/contract/lots';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { ordered, sold } from '../../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

test('a recalled lot: back to its delivery and on to every customer; what was undone is left out', async () => {
  const { owner, bins, pool } = business;
  const binId = bins[0] as number;
  const itemId = await business.item('REC-1', { tracking: 'lot' });
  const bought = await ordered(business, itemId, '30', '2.00');
  await owner.get(receiving.receive, {
    body: { packingNote: 'DN 5', lines: [{ lineId: bought.lineId, quantity: '20', binId, lots: [{ code: '=R1', quantity: '20' }] }] },
  });
  const wrong = await owner.get(receiving.receive, {
    body: { lines: [{ lineId: bought.lineId, quantity: '3', binId, lots: [{ code: '=R1', quantity: '3' }] }] },
  });
  await owner.get(stock.undo, { body: { movementId: wrong.movementId as number } });
  const { rows } = await pool.query<{ id: number }>(`SELECT id FROM lot WHERE code = '=R1'`);
  const lotId = rows[0]?.id as number;
  const order = await sold(business, itemId, '6');
  await owner.get(picking.pick, { body: { orderId: order.id, lines: [{ lineId: order.lineId, binId, lotId, quantity: '6' }] } });
  await owner.get(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '4' }] } });
  const traced = await owner.get(lots.traceLot, { params: { id: lotId } });
  expect(traced.came).toMatchObject([{ who: 'Hexley Joinery', document: { number: bought.number }, quantity: '20', back: '0', note: 'packing note DN 5' }]);
  expect(traced.went).toMatchObject([{ who: 'Copse Lane School', kind: 'customer', document: { number: order.number }, quantity: '4' }]);
  expect(traced.here).toBe('16');
  const file = await fetch(`${business.base}/api/stock/lots/${lotId}/trace/file`, { headers: { Cookie: owner.cookie } });
  const text = await file.text();
  expect(text).toContain('Copse Lane School');
  expect(text).not.toMatch(/(^|,)=/m);
});
