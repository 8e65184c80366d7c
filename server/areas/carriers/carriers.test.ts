import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as bills from '@larder/contract/bills';
import * as books from '@larder/contract/books';
import * as carriers from '@larder/contract/carriers';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as planning from '@larder/contract/planning';
import * as setup from '@larder/contract/setup';
import * as setupLists from '@larder/contract/setupLists';
import * as shipping from '@larder/contract/shipping';
import * as stock from '@larder/contract/stock';
import { carrierDesk, CarrierRefusal, type CarrierDesk } from '../../standins/carrier';
import { openBusiness, type Business } from '../../testing/business';
import { pickBody, stocked } from '../../testing/trade';
import { askCarriers, carrierTeller } from './teller';

/** Carriers: what they ask, booking with one that answers, does not, or says no; where parcels are; and their bills. */
let business: Business;
let desk: CarrierDesk;
let itemId: number;
let partyId: number;
let herons: number;
const now = () => business.clock.now;
beforeAll(async () => {
  business = await openBusiness();
  desk = carrierDesk(business.pool, now);
  itemId = await business.item('BOXED', { weightKg: '2.5' });
  await stocked(business, itemId, '400');
  partyId = (await business.owner.get(setup.createParty, { body: { name: 'Heronway Parcels Ltd', isSupplier: true } })).id;
  herons = (await business.owner.get(carriers.createCarrier, { body: { name: 'Heronway', partyId, connected: true } })).id;
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

interface Going {
  id: number;
  lineId: number;
}
/** An order that is picked and packed into parcels of so many each. */
async function packed(quantities: number[], shipTo = 'Copse Lane School\nCopse Lane\nLM14'): Promise<Going> {
  const many = String(quantities.reduce((all, one) => all + one, 0));
  const quote = await business.owner.get(outbound.createSale, {
    body: { customerId: business.customerId, siteId: business.siteId, shipBy: '2026-03-20', shipTo, lines: [{ itemId, quantity: many, price: '9.00' }] },
  });
  const params = { id: quote.id };
  await business.owner.get(outbound.confirmSale, { params, body: { version: quote.version } });
  const order = { id: quote.id, lineId: quote.lines[0]?.id as number };
  await business.owner.get(picking.pick, { body: pickBody(business, order, many) });
  const parcels = quantities.map((quantity) => ({ contents: [{ lineId: order.lineId, quantity: String(quantity) }] }));
  await business.owner.get(shipping.packOrder, { params, body: { siteId: business.siteId, seen: [], parcels } });
  return order;
}
const look = ({ id }: Going) => business.owner.get(shipping.getPacking, { params: { id } });
const idsOf = async (order: Going) => (await look(order)).parcels.map(({ id }) => id);
const offersFor = async (order: Going) =>
  (await business.owner.get(shipping.carrierOffers, { params: { id: order.id }, body: { parcelIds: await idsOf(order) } })).offers;
async function book(order: Going, part: object = {}) {
  const body = { parcelIds: await idsOf(order), carrierId: herons, service: 'Steady', charged: '7.00', ...part };
  return business.owner.ask(shipping.bookShipment, { params: { id: order.id }, body });
}
/** Does what the background would do with the shipment of an order. */
const tell = async (order: Going, by = desk, attempts = 1) => {
  const [shipment] = (await business.pool.query<{ id: number }>('SELECT id FROM shipment WHERE order_id = $1 ORDER BY id DESC LIMIT 1', [order.id])).rows;
  return carrierTeller(business.pool, by, now)({ shipmentId: shipment?.id ?? 0 }, { attempts, max_attempts: 8 });
};
const send = (order: Going, shipmentId: number) => business.owner.ask(shipping.dispatch, { body: { orderId: order.id, shipmentId } });
/** What stands on the accounts of these purposes, debit above zero. */
async function accounts(): Promise<Record<string, string>> {
  const { rows } = await business.owner.get(books.listAccounts);
  const of = (purpose: string) => rows.find((one) => one.purpose === purpose)?.balance ?? '';
  return { freight: of('outbound-freight'), clearing: of('carriage-clearing'), variance: of('carriage-variance'), payable: of('payable') };
}
const at = (moment: string) => void (business.clock.now = new Date(moment));

describe('the list', () => {
  test('has each name once, and only suppliers bill', async () => {
    const twice = await business.owner.ask(carriers.createCarrier, { body: { name: 'HERONWAY', partyId } });
    expect(twice.problem.errors).toMatchObject([{ field: 'name', sentence: 'There is a carrier HERONWAY already.' }]);
    const none = await business.owner.ask(carriers.createCarrier, { body: { name: 'Other', partyId: business.customerId } });
    expect(none.problem.errors).toMatchObject([{ field: 'partyId' }]);
    const floor = await business.as('Floor');
    expect((await floor.ask(carriers.createCarrier, { body: { name: 'Other', partyId } })).status).toBe(403);
  });

  test('a retired one is offered no more, and comes back', async () => {
    const order = await packed([1]);
    const retire = (retired: boolean) => business.owner.get(setupLists.retireListed, { params: { list: 'carriers', id: herons }, body: { retired } });
    await business.owner.get(carriers.editCarrier, { params: { id: herons }, body: { name: 'Heronway', partyId, connected: true } });
    await retire(true);
    expect(await offersFor(order)).toEqual([]);
    expect((await book(order)).problem.errors).toMatchObject([{ field: 'carrierId' }]);
    await retire(false);
    expect((await offersFor(order)).map(({ service }) => service)).toEqual(['Next van', 'Steady']);
  });
});

describe('what a carrier asks', () => {
  test('goes by zone and weight, for all parcels together', async () => {
    // 2 at 2.5 kg are 5 kg, 1 is 2.5 kg and counts as 3: (4.20 + 5 x 0.35) + (4.20 + 3 x 0.35) = 11.20; the fast one asks 1.55 of each.
    expect(await offersFor(await packed([2, 1]))).toMatchObject([
      { service: 'Next van', price: '17.36', arrivesOn: '2026-03-11', refusal: '' },
      { service: 'Steady', price: '11.20', arrivesOn: '2026-03-13', refusal: '' },
    ]);
  });

  test.each([
    ['too heavy', [13], 'LM14', 'A parcel of 32.5 kg is too heavy: it carries up to 30 kg.'],
    ['no such place', [1], 'Far Isle\nZZ9', 'It does not carry to ZZ9: there is no such place.'],
    ['no postcode', [1], 'behind the church', 'There is no postcode in the address, such as LM12.'],
  ])('%s is told before anything is booked, and when it is booked all the same', async (_, quantities, shipTo, refusal) => {
    const order = await packed(quantities, shipTo);
    expect(await offersFor(order)).toMatchObject([{ refusal, price: null }]);
    const booked = await book(order);
    expect(booked.status).toBe(200);
    await tell(order);
    expect((await look(order)).shipments).toMatchObject([{ state: 'refused', fault: `Heronway says no: ${refusal}`, nextTryAt: null }]);
    const { unbooked } = await business.owner.get(planning.today, { query: {} });
    expect(unbooked).toMatchObject([{ orderId: order.id, carrier: 'Heronway', fault: `Heronway says no: ${refusal}` }]);
    expect((await send(order, booked.data.id)).problem.title).toContain('has not said yes');
    await business.owner.get(shipping.cancelShipment, { params: { id: booked.data.id }, body: {} });
    expect(await look(order)).toMatchObject({ shipments: [], parcels: [{ shipmentId: null }] });
  });
});

describe('a booking', () => {
  test('gives each parcel a number and a price; what goes out is expected to be billed, and an undo takes that back', async () => {
    const order = await packed([2, 1]);
    const booked = await book(order);
    expect((await look(order)).shipments).toMatchObject([{ state: 'asking' }]);
    expect((await book(order)).problem.errors).toHaveLength(2);
    await tell(order);
    const { shipments, parcels } = await look(order);
    expect(shipments).toMatchObject([{ state: 'booked', expected: '11.20', charged: '7.00', service: 'Steady', carrier: 'Heronway' }]);
    expect(new Set(parcels.map(({ tracking }) => tracking)).size).toBe(2);
    expect((await business.owner.ask(shipping.packOrder, { params: { id: order.id }, body: { siteId: business.siteId, seen: [], parcels: [] } })).status).toBe(
      200,
    );
    expect((await look(order)).parcels).toHaveLength(2);

    const before = await accounts();
    const sent = await send(order, booked.data.id);
    expect(sent.status).toBe(200);
    expect(await accounts()).toMatchObject({ freight: added(before.freight, '11.20'), clearing: added(before.clearing, '-11.20') });
    expect((await send(order, booked.data.id)).problem.title).toContain('went out already');
    await tell(order);
    expect((await business.owner.ask(stock.undo, { body: { movementId: sent.data.movementId as number } })).status).toBe(200);
    expect(await accounts()).toEqual(before);
    expect((await look(order)).shipments).toMatchObject([{ state: 'booked', expected: '11.20' }]);
    // It goes again, and is expected once.
    expect((await send(order, booked.data.id)).status).toBe(200);
    expect(await accounts()).toMatchObject({ freight: added(before.freight, '11.20'), clearing: added(before.clearing, '-11.20') });
  });

  test('that was not answered is kept, asked again, and made once', async () => {
    const order = await packed([1]);
    const { number } = (await book(order)).data;
    const silent: CarrierDesk = {
      ...desk,
      book: async (...asked) => {
        await desk.book(...asked);
        throw new Error('Heronway did not answer.');
      },
    };
    await expect(tell(order, silent)).rejects.toThrow('did not answer');
    const [waiting] = (await look(order)).shipments;
    expect(waiting).toMatchObject({ state: 'unanswered', fault: 'Heronway did not answer.' });
    expect(waiting?.nextTryAt).not.toBeNull();
    await business.owner.get(shipping.askAgain, { params: { id: waiting?.id ?? 0 }, body: {} });
    expect((await look(order)).shipments).toMatchObject([{ state: 'asking' }]);
    await tell(order, desk, 2);
    expect((await look(order)).shipments).toMatchObject([{ state: 'booked', fault: '' }]);
    const { rows } = await business.pool.query('SELECT count(*)::int AS made FROM standin_parcel WHERE reference = $1', [number]);
    expect(rows).toEqual([{ made: 1 }]);
  });

  test('cancelled while the carrier thinks stays cancelled, there as here', async () => {
    const order = await packed([1]);
    const booked = await book(order);
    const slow: CarrierDesk = {
      ...desk,
      book: async (...asked) => {
        await business.owner.get(shipping.cancelShipment, { params: { id: booked.data.id }, body: {} });
        return desk.book(...asked);
      },
    };
    await tell(order, slow);
    await tell(order);
    expect(await look(order)).toMatchObject({ shipments: [], parcels: [{ tracking: '', shipmentId: null }] });
    const { rows } = await business.pool.query('SELECT cancelled_at IS NOT NULL AS off FROM standin_parcel WHERE reference = $1', [booked.data.number]);
    expect(rows).toEqual([{ off: true }]);
  });

  test('with one that is not asked over an interface takes what is typed', async () => {
    const { id: carrierId } = await business.owner.get(carriers.createCarrier, { body: { name: 'Mill Lane Cart', partyId } });
    const order = await packed([3]);
    const [parcelId] = await idsOf(order);
    expect(await offersFor(order)).toMatchObject([{}, {}, { carrier: 'Mill Lane Cart', connected: false, price: null, refusal: '' }]);
    const booked = await book(order, { carrierId, service: '', typed: [{ parcelId, expected: '6.25', tracking: 'CART 12' }] });
    const { shipments, parcels } = await look(order);
    expect([shipments[0]?.state, shipments[0]?.expected, parcels[0]?.tracking]).toEqual(['booked', '6.25', 'CART 12']);
    expect((await send(order, booked.data.id)).status).toBe(200);
  });

  test('the carrier’s desk itself keeps silent on some, and what it does not answer in time is no answer', async () => {
    const unanswered = desk.book('Heronway', 'SH-7', 'Steady', { address: 'LM1', parcels: [{ weight: '1', length: null, width: null, height: null }] });
    const first = await Promise.race([unanswered, new Promise((later) => setTimeout(() => later('silence'), 300))]);
    expect(first).toBe('silence');
    const again = await desk.book('Heronway', 'SH-7', 'Steady', { address: 'LM1', parcels: [{ weight: '1', length: null, width: null, height: null }] });
    expect(again).toMatchObject([{ price: '4.55' }]);
    await expect(desk.book('Heronway', 'SH-8', 'Express', { address: 'LM1', parcels: [] })).rejects.toThrow(CarrierRefusal);
  });
});

/** The sum of two amounts, in whole cents. */
function added(a: string | undefined, b: string): string {
  const cents = Math.round(Number(a || '0') * 100) + Math.round(Number(b) * 100);
  return (cents / 100).toFixed(2);
}

describe('what the carrier has', () => {
  test('is followed, no more undone, and billed by parcel: over and under is variance, nothing is billed twice, and an undone bill waits again', async () => {
    at('2026-03-12T10:00:00Z');
    const orders = [await packed([2, 1]), await packed([4])];
    const sent: number[] = [];
    for (const order of orders) {
      const booked = await book(order);
      await tell(order);
      const { data } = await send(order, booked.data.id);
      sent.push(data.movementId as number);
      await tell(order);
    }
    const [first, second] = orders as [Going, Going];
    await askCarriers(business.pool, desk, now);
    expect((await look(first)).parcels).toMatchObject([{ whereabouts: 'Waits for the driver' }, { whereabouts: 'Waits for the driver' }]);
    at('2026-03-12T17:30:00Z');
    await askCarriers(business.pool, desk, now);
    expect(await look(first)).toMatchObject({ shipments: [{ state: 'taken' }], parcels: [{ whereabouts: 'With the driver' }, {}] });
    expect((await business.owner.ask(stock.undo, { body: { movementId: sent[0] as number } })).problem.title).toContain('Heronway has taken');
    at('2026-03-17T13:00:00Z');
    await askCarriers(business.pool, desk, now);
    expect((await look(second)).shipments).toMatchObject([{ state: 'delivered' }]);
    expect(await askCarriers(business.pool, desk, now)).toBe(0);

    const offered = await business.owner.get(carriers.carriersBills, { query: { partyId } });
    const [bill] = offered.sent;
    expect(bill).toMatchObject({ billedOn: '2026-03-16' });
    const ours = (bill?.lines ?? []).filter(({ parcelId }) => parcelId !== null);
    expect(ours.length).toBeGreaterThanOrEqual(3);
    const before = await accounts();
    const expectedOf = (parcelId: number | null) => offered.parcels.find(({ id }) => id === parcelId)?.expected ?? '0';
    // Whatever it asks, each comes to something else here: over, under and as booked.
    const asks = ['1.10', '-0.35', '0.00'];
    const lines = ours.map(({ parcelId }, index) => ({
      kind: 'parcel' as const,
      parcelId: parcelId as number,
      amount: added(expectedOf(parcelId), asks[index] ?? '0.00'),
    }));
    const body = { partyId, reference: bill?.reference ?? '', billedOn: '2026-03-16', lines };
    const foreseen = await business.owner.ask(bills.createBill, { body }, { preview: true });
    const posted = await business.owner.get(bills.createBill, { body });
    expect(foreseen.data).toMatchObject({ words: posted.words, entry: posted.entry });
    expect(posted.lines.map(({ difference }) => difference).slice(0, 3)).toEqual(['1.10', '-0.35', '0.00']);
    const cleared = lines.reduce((all, { parcelId }) => added(all, expectedOf(parcelId)), '0');
    const owed = lines.reduce((all, { amount }) => added(all, amount), '0');
    expect(await accounts()).toEqual({
      freight: before.freight,
      clearing: added(before.clearing, cleared),
      variance: added(before.variance, '0.75'),
      payable: added(before.payable, `-${owed}`),
    });
    const rest = await business.owner.get(carriers.carriersBills, { query: { partyId } });
    expect(rest.sent).toEqual([]);
    expect(rest.parcels.some(({ id }) => lines.some(({ parcelId }) => parcelId === id))).toBe(false);
    const twice = await business.owner.ask(bills.createBill, { body: { ...body, reference: 'again' } });
    expect(twice.problem.errors[0]?.sentence).toContain('is billed already');
    await business.owner.get(bills.undoBill, { params: { id: posted.id as number }, body: {} });
    expect(await accounts()).toEqual(before);
    expect((await business.owner.get(carriers.carriersBills, { query: { partyId } })).sent).toHaveLength(1);
    expect(await business.broken()).toEqual([]);
    await business.owner.get(bills.createBill, { body: { ...body, knownReference: true } });
  });

  test('a bill for what was not sent, was sent with somebody else, or is a credit, is refused by its field', async () => {
    const order = await packed([1]);
    const [parcelId] = await idsOf(order);
    const line = { kind: 'parcel' as const, parcelId: parcelId as number, amount: '5.00' };
    const ask = (part: object) =>
      business.owner.ask(bills.createBill, { body: { partyId, reference: 'HW-X', billedOn: '2026-03-16', lines: [line], ...part } });
    expect((await ask({})).problem.errors).toMatchObject([{ field: 'lines.0.parcelId', sentence: 'There is no such parcel, or it has not gone out.' }]);
    const booked = await book(order);
    await tell(order);
    const sent = await send(order, booked.data.id);
    expect((await ask({ partyId: business.supplierId })).problem.errors).toMatchObject([{ field: 'lines.0.parcelId' }]);
    expect((await ask({ kind: 'credit' })).problem.errors).toMatchObject([{ field: 'lines.0.amount' }]);
    const posted = await ask({ billedOn: '2026-03-17' });
    expect(posted.status).toBe(200);
    const refused = await business.owner.ask(stock.undo, { body: { movementId: sent.data.movementId as number } });
    expect(refused.problem.title).toContain(`${posted.data.number ?? ''} rests on this`);
  });
});
