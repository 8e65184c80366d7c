import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as receiving from '@larder/contract/receiving';
import * as shipping from '@larder/contract/shipping';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { ordered, pickBody, sold, stocked } from '../../testing/trade';

/** Parcels: what is packed of what lies on the bench, what may leave it, and how it goes. */
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
  itemId = await business.item(`PACK-${count}`, { weightKg: '1.25' });
});

type Order = Awaited<ReturnType<typeof sold>>;
/** An order of which so many lie on the bench. */
async function picked(quantity: string, sells = quantity): Promise<{ order: Order; pickId: number }> {
  await stocked(business, itemId, sells);
  const order = await sold(business, itemId, sells);
  const posted = await business.owner.get(picking.pick, { body: pickBody(business, order, quantity) });
  return { order, pickId: posted.movementId as number };
}
const look = ({ id }: { id: number }) => business.owner.get(shipping.getPacking, { params: { id } });
async function pack(order: Order, quantities: string[], part: object = {}) {
  const { parcels } = await look(order);
  const seen = parcels.filter(({ shipmentId }) => shipmentId === null).map(({ id, version }) => ({ id, version }));
  return business.owner.ask(shipping.packOrder, {
    params: { id: order.id },
    body: { siteId: business.siteId, seen, parcels: quantities.map((quantity) => ({ contents: [{ lineId: order.lineId, quantity }] })), ...part },
  });
}
const going = (order: Order, part: object) => business.owner.ask(shipping.dispatch, { body: { orderId: order.id, ...part } });
const undo = (movementId: number) => business.owner.ask(stock.undo, { body: { movementId } });

describe('packing', () => {
  test('what lies on the bench goes into parcels, which know what they weigh; the rest stays loose', async () => {
    const { order } = await picked('5');
    expect((await pack(order, ['2', '1'])).status).toBe(200);
    const { loose, parcels } = await look(order);
    expect(loose).toMatchObject([{ lineId: order.lineId, quantity: '2', weight: '1.25' }]);
    expect(parcels.map(({ reckoned, weight, contents }) => [reckoned, weight, contents[0]?.quantity])).toEqual([
      ['2.5', null, '2'],
      ['1.25', null, '1'],
    ]);
    expect(parcels[0]?.number).toMatch(/^PC-\d+$/);
  });

  test('a parcel is packed anew with another weight and size; one that is left out is taken apart', async () => {
    const { order } = await picked('4');
    await pack(order, ['2', '2']);
    const [first, second] = (await look(order)).parcels;
    const again = { id: first?.id, weight: '3.105', length: 40, width: 30, height: 20, contents: [{ lineId: order.lineId, quantity: '1.0' }] };
    expect((await pack(order, [], { parcels: [again] })).status).toBe(200);
    const { loose, parcels } = await look(order);
    expect(parcels).toMatchObject([{ id: first?.id, number: first?.number, weight: '3.105', length: 40, version: 2, contents: [{ quantity: '1' }] }]);
    expect(loose).toMatchObject([{ quantity: '3' }]);
    const { changes } = await business.owner.get(outbound.getSale, { params: { id: order.id } });
    expect(JSON.stringify(changes)).toContain(`${second?.number ?? ''} taken apart`);
  });

  test('more than lies there, nothing, and half a piece are refused by their fields, and nothing is written', async () => {
    const { order } = await picked('3', '5');
    const beyond = await pack(order, ['2', '2']);
    expect([beyond.status, beyond.problem.errors]).toEqual([
      422,
      [{ field: 'parcels.1.contents.0.quantity', sentence: `Only 1 of PACK-${count} lie on the bench and in no other parcel.` }],
    ]);
    const empty = await pack(order, [], { parcels: [{ contents: [] }] });
    expect(empty.problem.errors).toMatchObject([{ field: 'parcels.0.contents' }]);
    expect((await pack(order, ['0.5'])).problem.errors).toMatchObject([{ field: 'parcels.0.contents.0.quantity' }]);
    expect((await pack(order, ['1'], { siteId: business.otherSiteId })).problem.errors).toMatchObject([
      { sentence: 'Nothing more of this lies on the bench.' },
    ]);
    expect((await look(order)).parcels).toEqual([]);
  });

  test('who packs over what somebody else has packed meanwhile is told', async () => {
    const { order } = await picked('3');
    await pack(order, ['1']);
    const stale = await pack(order, ['2'], { seen: [] });
    expect([stale.status, stale.problem.type]).toEqual([409, 'stale']);
    expect((await look(order)).parcels).toHaveLength(1);
  });

  test('of two who pack the same at once one does, and the other is told', async () => {
    const { order } = await picked('3');
    const both = await Promise.all([pack(order, ['3'], { seen: [] }), pack(order, ['2'], { seen: [] })]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
  });

  test('what is packed is neither put back nor sent loose before it is taken out', async () => {
    const { order, pickId } = await picked('3');
    await pack(order, ['2']);
    const number = (await look(order)).parcels[0]?.number ?? '';
    expect((await undo(pickId)).problem.title).toBe(`PACK-${count} is packed in parcel ${number}. Take it out of the parcel first.`);
    const loose = await going(order, { lines: [{ lineId: order.lineId, quantity: '2' }] });
    expect(loose.problem.errors).toEqual([{ field: 'lines.0.quantity', sentence: `Only 1 lie loose on the bench; others are packed in parcel ${number}.` }]);
    expect((await going(order, { lines: [{ lineId: order.lineId, quantity: '1' }] })).status).toBe(200);
    await pack(order, []);
    expect((await undo(pickId)).status).toBe(409);
    expect((await look(order)).loose).toMatchObject([{ quantity: '2' }]);
  });

  test('lots and serials are packed as they are', async () => {
    const serialId = await business.item(`UNIT-${count}`, { tracking: 'serial', weightKg: '4' });
    const bought = await ordered(business, serialId, '2');
    await business.owner.get(receiving.receive, {
      body: {
        lines: [{ lineId: bought.lineId, quantity: '2', binId: business.bins[0] as number, lots: [{ code: `S-${count}-1` }, { code: `S-${count}-2` }] }],
      },
    });
    const order = await sold(business, serialId, '2');
    const { rows } = await business.owner.get(picking.pickList, { params: { id: order.id } });
    const lines = rows.map(({ lineId, binId, lotId, take }) => ({ lineId, binId, lotId, quantity: take }));
    await business.owner.get(picking.pick, { body: { orderId: order.id, lines } });
    const [first, second] = (await look(order)).loose;
    expect(first).toMatchObject({ lot: `S-${count}-1`, codes: [{ code: `S-${count}-1`, factor: '1' }] });
    const twice = await pack(order, [], {
      parcels: [1, 2].map(() => ({ contents: [{ lineId: order.lineId, lotId: first?.lotId, quantity: '1' }] })),
    });
    expect(twice.problem.errors).toMatchObject([{ field: 'parcels.1.contents.0.quantity' }]);
    await pack(order, [], { parcels: [{ contents: [{ lineId: order.lineId, lotId: second?.lotId, quantity: '1' }] }] });
    const { parcels } = await look(order);
    expect((await going(order, { parcelIds: parcels.map(({ id }) => id), way: 'van' })).status).toBe(200);
    expect((await look(order)).loose).toMatchObject([{ lotId: first?.lotId }]);
  });
});

describe('without a carrier', () => {
  test('parcels go by own van, the shipment says how, and an undo brings them back as they were packed', async () => {
    const { order, pickId } = await picked('3');
    await pack(order, ['2', '1']);
    const [first, second] = (await look(order)).parcels;
    expect((await going(order, { parcelIds: [first?.id] })).problem.errors).toMatchObject([{ field: 'way' }]);
    const sent = await going(order, { parcelIds: [first?.id], way: 'van', charged: '4.50' });
    const after = await look(order);
    expect(after.shipments).toMatchObject([{ way: 'van', charged: '4.50', state: 'dispatched', movementId: sent.data.movementId }]);
    expect((await pack(order, [], { parcels: [] })).status).toBe(200);
    expect((await look(order)).parcels.map(({ id }) => id)).toEqual([first?.id]);
    expect((await going(order, { parcelIds: [first?.id], way: 'van' })).problem.errors).toMatchObject([{ field: 'parcelIds.0' }]);
    expect((await going(order, { parcelIds: [second?.id], way: 'van' })).problem.errors).toMatchObject([{ field: 'parcelIds.0' }]);
    expect((await undo(sent.data.movementId as number)).status).toBe(200);
    expect(await look(order)).toMatchObject({ shipments: [], parcels: [{ id: first?.id, shipmentId: null }] });
    expect((await undo(pickId)).status).toBe(409);
  });

  test('the customer collects what was not packed; what the driver has is not undone', async () => {
    const { order } = await picked('3');
    const sent = await going(order, { lines: [{ lineId: order.lineId, quantity: '2' }], way: 'collected' });
    const [shipment] = (await look(order)).shipments;
    expect(shipment).toMatchObject({ way: 'collected', state: 'dispatched' });
    await business.owner.get(shipping.noteTaken, { params: { id: shipment?.id ?? 0 }, body: {} });
    const refused = await undo(sent.data.movementId as number);
    expect(refused.problem.title).toBe(`The driver has taken ${shipment?.number ?? ''}. What comes back is a return from the customer.`);
  });

  test('nothing at all, and a part of what is to go whole, are asked about', async () => {
    const { order } = await picked('2', '3');
    expect((await going(order, {})).problem.title).toBe('Nothing waits on the bench for this order.');
    const { version } = await business.owner.get(outbound.getSale, { params: { id: order.id } });
    await business.owner.get(outbound.amendSale, { params: { id: order.id }, body: { version, shipBy: '2026-03-12', whole: true, lines: [] } });
    await pack(order, ['2']);
    const parcelIds = (await look(order)).parcels.map(({ id }) => id);
    expect((await going(order, { parcelIds, way: 'van' })).problem.asks).toEqual(['part']);
    expect((await going(order, { parcelIds, way: 'van', part: true })).status).toBe(200);
  });

  test('a label and a slip are printed for each parcel', async () => {
    const { order } = await picked('2');
    await pack(order, ['1', '1']);
    const parcelIds = (await look(order)).parcels.map(({ id }) => id);
    for (const paper of ['label', 'slip'] as const)
      expect(await business.owner.get(shipping.printParcels, { params: { id: order.id }, body: { parcelIds, paper } })).toMatchObject({ pages: 2 });
    const none = await business.owner.ask(shipping.printParcels, { params: { id: order.id }, body: { parcelIds: [999_999], paper: 'label' } });
    expect(none.status).toBe(422);
  });
});
