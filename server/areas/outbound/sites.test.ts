import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { eq } from 'drizzle-orm';
import { transaction } from '../../db/database';
import { addPerson } from '../../db/found';
import { roleGrant } from '../../db/schema/index';
import { openBusiness, signIn, type Business, type Caller } from '../../testing/business';
import { stocked } from '../../testing/trade';

/** Orders of which some lines come from another site. */
let business: Business;
let atHarbour: Caller;
let harbourBin: number;
beforeAll(async () => {
  business = await openBusiness();
  const { rows } = await business.owner.get(setup.createBins, { body: { siteId: business.otherSiteId, codes: ['H-1'] } });
  harbourBin = rows[0]?.id as number;
  await transaction(business.pool, 'write', async (tx) => {
    const id = await addPerson(tx, { name: 'Harbour', email: 'harbour@test.example', password: 'only for tests' }, 'Floor');
    await tx.db.update(roleGrant).set({ siteId: business.otherSiteId }).where(eq(roleGrant.personId, id));
  });
  atHarbour = await signIn(business.base, 'harbour@test.example');
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

let count = 0;
let itemId: number;
beforeEach(async () => {
  count += 1;
  itemId = await business.item(`FROM-${count}`);
  await stocked(business, itemId, '10');
  const opening = { itemId, binId: harbourBin, quantity: '6', unitValue: '2.00' };
  await business.owner.get(stock.openStock, { body: { lines: [opening] } });
});

/** An order with a line from here and one from the harbour. */
async function overBoth(here: string, there: string) {
  const line = { itemId, price: '5.00' };
  const quote = await business.owner.get(outbound.createSale, {
    body: {
      customerId: business.customerId,
      siteId: business.siteId,
      shipBy: '2026-03-12',
      lines: [
        { ...line, quantity: here },
        { ...line, quantity: there, siteId: business.otherSiteId },
      ],
    },
  });
  await business.owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
  const order = await business.owner.get(outbound.getSale, { params: { id: quote.id } });
  return { ...order, ids: order.lines.map(({ id }) => id) };
}
const standing = async () => {
  const { sites } = await business.owner.get(stock.itemStock, { params: { id: itemId } });
  return Object.fromEntries(sites.map(({ site, onHand, reserved, short }) => [site, [onHand, reserved, short]]));
};

test('each line is reserved, picked and sent where it comes from', async () => {
  const order = await overBoth('4', '8');
  expect(await standing()).toEqual({ 'Barn store': ['10', '4', '0'], 'Harbour shop': ['6', '6', '2'] });
  expect(order.lines.map(({ site, free }) => [site, free])).toEqual([
    ['Barn store', '6'],
    ['Harbour shop', '0'],
  ]);
  const { rows, missing } = await business.owner.get(picking.pickList, { params: { id: order.id } });
  expect(rows.map(({ site, bin, take }) => [site, bin, take])).toEqual([
    ['Barn store', 'A-1', '4'],
    ['Harbour shop', 'H-1', '6'],
  ]);
  expect(missing).toMatchObject([{ lineId: order.ids[1], quantity: '2' }]);
  const lines = rows.map(({ lineId, binId, take }) => ({ lineId, binId, quantity: take }));
  const astray = lines.map((line) => ({ ...line, binId: harbourBin }));
  const refused = await business.owner.ask(picking.pick, { body: { orderId: order.id, lines: astray } });
  expect(refused.problem.errors).toEqual([{ field: 'lines.0.binId', sentence: 'That is not a bin to pick from at this site.' }]);
  await business.owner.get(picking.pick, { body: { orderId: order.id, lines } });
  const out = { orderId: order.id, lines: lines.map(({ lineId, quantity }) => ({ lineId, quantity })) };
  await business.owner.get(shipping.dispatch, { body: out });
  expect(await standing()).toEqual({ 'Barn store': ['6', '0', '0'], 'Harbour shop': ['0', '0', '2'] });
});

test('whoever works at the other site sees the order, and picks and sends what comes from there, and no more', async () => {
  const order = await overBoth('3', '2');
  expect((await atHarbour.get(outbound.listSales, { query: { show: 'open' } })).rows.map(({ id }) => id)).toContain(order.id);
  expect((await atHarbour.ask(outbound.getSale, { params: { id: order.id } })).status).toBe(200);
  const { rows } = await atHarbour.get(picking.pickList, { params: { id: order.id } });
  expect(rows.map(({ bin }) => bin)).toEqual(['H-1']);
  const pick = (lineId: number | undefined, binId: number | undefined) =>
    atHarbour.ask(picking.pick, { body: { orderId: order.id, lines: [{ lineId: lineId as number, binId: binId as number, quantity: '2' }] } });
  expect((await pick(order.ids[0], business.bins[0])).status).toBe(403);
  expect((await pick(order.ids[1], harbourBin)).status).toBe(200);
  expect((await atHarbour.ask(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.ids[1] as number, quantity: '2' }] } })).status).toBe(
    200,
  );
});

test('a line of a confirmed order may come from elsewhere until goods were picked for it; its reservation goes along', async () => {
  const order = await overBoth('10', '1');
  const [lineId] = order.ids as [number, number];
  const to = async (siteId: number | null, quantity = '5') =>
    business.owner.ask(outbound.amendSale, {
      params: { id: order.id },
      body: {
        version: (await business.owner.get(outbound.getSale, { params: { id: order.id } })).version,
        shipBy: order.shipBy,
        lines: [{ lineId, quantity, price: '5.00', siteId }],
      },
    });
  expect((await to(business.otherSiteId)).status).toBe(200);
  expect(await standing()).toEqual({ 'Barn store': ['10', '0', '0'], 'Harbour shop': ['6', '6', '0'] });
  expect((await to(null)).status).toBe(200);
  expect(await standing()).toEqual({ 'Barn store': ['10', '5', '0'], 'Harbour shop': ['6', '1', '0'] });
  await business.owner.get(picking.pick, { body: { orderId: order.id, lines: [{ lineId, binId: business.bins[0] as number, quantity: '1' }] } });
  expect((await to(business.otherSiteId)).problem.errors[0]?.field).toBe('lines.0.siteId');
});

test('a site that is none is refused at its line; so is one at which the person does not sell', async () => {
  const body = (siteId: number) => ({
    customerId: business.customerId,
    siteId: business.siteId,
    shipBy: '2026-03-12',
    lines: [{ itemId, quantity: '1', price: '1', siteId }],
  });
  const refused = await business.owner.ask(outbound.createSale, { body: body(9999) });
  expect(refused.problem.errors).toEqual([{ field: 'lines.0.siteId', sentence: 'There is no such site.' }]);
  const seller = await transaction(business.pool, 'write', async (tx) => {
    const id = await addPerson(tx, { name: 'Seller', email: 'seller@test.example', password: 'only for tests' }, 'Sales desk');
    await tx.db.update(roleGrant).set({ siteId: business.siteId }).where(eq(roleGrant.personId, id));
    return 'seller@test.example';
  });
  expect((await (await signIn(business.base, seller)).ask(outbound.createSale, { body: body(business.otherSiteId) })).status).toBe(403);
});
