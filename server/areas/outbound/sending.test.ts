import { expect, test } from '@jest/globals';
import * as carriers from '@larder/contract/carriers';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as stock from '@larder/contract/stock';
import { openBusiness } from '../../testing/business';
import { sold, stocked } from '../../testing/trade';

const people = 6;
const turns = 30;

test('six people pick, put back, pack, book, send and bring back the same orders at random: every law holds, and nothing fails but by a refusal', async () => {
  const business = await openBusiness();
  const { owner, siteId } = business;
  const itemId = await business.item('SENT', { weightKg: '1' });
  await stocked(business, itemId, '60');
  const orders: Awaited<ReturnType<typeof sold>>[] = [];
  for (let n = 0; n < 5; n += 1) orders.push(await sold(business, itemId, '12'));
  await business.pool.query("UPDATE party SET address = 'Copse Lane, LM4' WHERE id = $1", [business.customerId]);
  const carrierId = (await owner.get(carriers.createCarrier, { body: { name: 'Cart', partyId: business.supplierId } })).id;
  const dice = (sides: number) => Math.floor(Math.random() * sides);
  const answers: string[] = [];
  const told = (what: string, { status }: { status: number }) => void answers.push(`${what} ${status}`);
  const posted: number[] = [];

  const turn = async () => {
    const order = orders[dice(orders.length)] as (typeof orders)[number];
    const params = { id: order.id };
    const { loose, parcels, shipments } = await owner.get(shipping.getPacking, { params });
    const open = parcels.filter(({ shipmentId }) => shipmentId === null);
    const roll = dice(8);
    if (roll < 2) {
      const lines = [{ lineId: order.lineId, binId: business.bins[0] as number, quantity: String(1 + dice(6)) }];
      const picked = await owner.ask(picking.pick, { body: { orderId: order.id, lines } });
      if (picked.status === 200) posted.push(picked.data.movementId as number);
      return told('pick', picked);
    }
    if (roll === 2) {
      const movementId = posted[dice(posted.length)];
      return movementId === undefined ? undefined : told('undo', await owner.ask(stock.undo, { body: { movementId } }));
    }
    if (roll < 5) {
      const many = Number(loose[0]?.quantity ?? 0);
      const contents = many > 0 ? [{ lineId: order.lineId, quantity: String(1 + dice(many)) }] : [];
      const kept = open
        .filter(() => dice(3) > 0)
        .map(({ id, contents: inside }) => ({ id, contents: inside.map(({ lineId, quantity }) => ({ lineId, quantity })) }));
      const seen = open.map(({ id, version }) => ({ id, version }));
      const body = { siteId, seen, parcels: [...kept, ...(contents.length > 0 ? [{ contents }] : [])] };
      return told('pack', await owner.ask(shipping.packOrder, { params, body }));
    }
    if (roll === 5 && open.length > 0) {
      const parcelIds = open.filter(() => dice(2) > 0).map(({ id }) => id);
      const typed = parcelIds.map((parcelId) => ({ parcelId, expected: `${1 + dice(9)}.${10 + dice(89)}` }));
      if (parcelIds.length > 0) return told('book', await owner.ask(shipping.bookShipment, { params, body: { parcelIds, carrierId, typed } }));
    }
    const booked = shipments.find(({ state }) => state === 'booked');
    if (booked && dice(4) === 0) return told('cancel', await owner.ask(shipping.cancelShipment, { params: { id: booked.id }, body: {} }));
    const [first] = open;
    const body = booked
      ? { orderId: order.id, shipmentId: booked.id }
      : first
        ? { orderId: order.id, parcelIds: [first.id], way: 'van' as const }
        : { orderId: order.id, lines: [{ lineId: order.lineId, quantity: loose[0]?.quantity ?? '1' }] };
    const sent = await owner.ask(shipping.dispatch, { body });
    if (sent.status === 200) posted.push(sent.data.movementId as number);
    return told('send', sent);
  };
  const work = async () => {
    for (let n = 0; n < turns; n += 1) await turn();
  };
  await Promise.all(Array.from({ length: people }, work));
  expect(await business.broken()).toEqual([]);
  expect(answers.filter((one) => / 5\d\d$/.test(one))).toEqual([]);
  for (const what of ['pick', 'pack', 'send', 'undo']) expect(answers).toContain(`${what} 200`);
  // However it went, no order was sent more than it was sold.
  for (const { id } of orders) {
    const { lines } = await owner.get(outbound.getSale, { params: { id } });
    expect(lines.every(({ dispatched, picked }) => Number(dispatched) <= Number(picked) && Number(picked) <= 12)).toBe(true);
  }
  await business.close();
}, 120_000);
