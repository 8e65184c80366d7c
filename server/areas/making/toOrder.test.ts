import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import * as catalog from '@larder/contract/catalog';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as setup from '@larder/contract/setup';
import * as work from '@larder/contract/workOrders';
import { openBusiness, type Business } from '../../testing/business';
import { stocked } from '../../testing/trade';
import { lineOf, of, Workshop } from '../../testing/workshop';

/** What is put together when it is ordered: the sales order has it made, and what it had made follows it. */
let business: Business;
let owner: Business['owner'];
let shop: Workshop;
beforeAll(async () => {
  business = await openBusiness();
  owner = business.owner;
  shop = await Workshop.of(business);
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});
beforeEach(async () => {
  business.clock.now = new Date('2026-03-10T10:00:00Z');
  await shop.begin();
  await shop.stock();
  const hive = await owner.get(catalog.getItem, of(shop.hive));
  await owner.get(catalog.editItem, {
    ...of(shop.hive),
    body: { sku: hive.sku, name: hive.name, unitId: hive.unitId, version: hive.version, madeToOrder: true },
  });
});

const quoted = (quantity: string, more: object = {}) =>
  owner.get(outbound.createSale, {
    body: {
      ...{ customerId: business.customerId, siteId: business.siteId, shipBy: '2026-03-16' },
      lines: [{ itemId: shop.hive, quantity, price: '90.00', ...more }],
    },
  });
const sale = (id: number) => owner.get(outbound.getSale, of(id));
async function confirmed(quantity: string, more: object = {}) {
  const { id, version } = await quoted(quantity, more);
  const posted = await owner.ask(outbound.confirmSale, { ...of(id), body: { version } });
  expect(posted.problem.title).toBeUndefined();
  return { ...(await sale(id)), effects: posted.data.effects };
}
type Sale = Awaited<ReturnType<typeof sale>>;
const amended = async (order: Sale, quantity: string, more: object = {}, options = {}) => {
  const now = await sale(order.id);
  return owner.ask(
    outbound.amendSale,
    {
      ...of(order.id),
      body: {
        ...{ version: now.version, shipBy: '2026-03-16', reference: '', shipTo: '', whole: false, note: '' },
        lines: now.lines.map((line) => ({ lineId: line.id, quantity, price: line.price, discount: '0', shipBy: null, siteId: null, promisedOn: null })),
        added: [],
        ...more,
      },
    },
    options,
  );
};
const decide = async (order: Sale, decision: 'cancel' | 'close' | 'reopen' | 'withdraw', options = {}) =>
  owner.ask(outbound.endSale, { ...of(order.id), body: { decision, version: (await sale(order.id)).version } }, options);
/** The work orders of hives, of this test alone: how many each is for, and how it stands. */
const made = async () => {
  const { rows } = await owner.get(work.listWorkOrders, { query: { itemId: shop.hive, show: 'all' } });
  return Promise.all(rows.reverse().map(({ id }) => shop.look(id)));
};
const standing = async () => (await made()).map(({ quantity, cancelled }) => `${quantity}${cancelled ? ' off' : ''}`);

test('a confirmed order has made what it is short of: released, due with it, pinned to its line; seen before just as it is posted', async () => {
  await stocked(business, shop.hive, '1', '30.00');
  const { id, version } = await quoted('3');
  const body = { version };
  const preview = await owner.ask(outbound.confirmSale, { ...of(id), body }, { preview: true });
  expect(await made()).toEqual([]);
  const posted = await owner.ask(outbound.confirmSale, { ...of(id), body });
  const [order] = await made();
  const { number } = await sale(id);
  expect(order).toMatchObject({ quantity: '2', state: 'released', startsOn: '2026-03-10', dueOn: '2026-03-16', sale: { orderId: id, number } });
  expect(lineOf(order as NonNullable<typeof order>, shop.board)).toMatchObject({ needed: '8', reserved: '8' });
  expect(posted.data.effects.notes).toContain(`${order?.number} puts 2 HIVE-${shop.count} together.`);
  expect(preview.data.effects.notes).toContain(`A work order puts 2 HIVE-${shop.count} together.`);
  expect(preview.data.effects.rows).toEqual(posted.data.effects.rows);
  expect(preview.data.effects.rows.filter(({ itemId, measure }) => itemId === shop.board && measure === 'reserved')).toMatchObject([
    { before: '0', after: '8' },
  ]);
});

test('what it made is served to the order first, which is then all there', async () => {
  const order = await confirmed('2');
  const [wo] = await made();
  if (!wo) throw new Error('nothing is made');
  await shop.take(wo);
  expect((await shop.record(wo.id, '2')).problem.title).toBeUndefined();
  expect((await sale(order.id)).lines).toMatchObject([{ reserved: '2', short: '0' }]);
});

test('what is added to an order is made too; what is wanted no more is called off, while nobody began it', async () => {
  const order = await confirmed('2');
  await amended(order, '5');
  expect(await standing()).toEqual(['2', '3']);
  const preview = await amended(order, '4', {}, { preview: true });
  const posted = await amended(order, '4');
  expect(await standing()).toEqual(['2', '3 off', '2']);
  expect(posted.data.effects.notes.filter((note) => note.includes('called off'))).toHaveLength(1);
  expect(preview.data.effects.notes.filter((note) => note.includes('called off'))).toEqual(
    posted.data.effects.notes.filter((note) => note.includes('called off')),
  );
  // It is due with its order.
  await amended(order, '4', { shipBy: '2026-03-20' });
  expect((await made()).filter(({ cancelled }) => !cancelled).map(({ dueOn }) => dueOn)).toEqual(['2026-03-20', '2026-03-20']);
  const [first] = await made();
  await shop.take(first as NonNullable<typeof first>);
  const cancelled = await decide(order, 'cancel');
  expect(cancelled.problem.title).toBeUndefined();
  expect(await standing()).toEqual(['2', '3 off', '2 off']);
  expect((await shop.figures(shop.board)).reserved).toBe('0');
  // Opened again, only what is not under way is made anew.
  await decide(order, 'reopen');
  expect(await standing()).toEqual(['2', '3 off', '2 off', '2']);
});

test('a line that is added, taken off, or comes from another site takes its work along', async () => {
  const order = await confirmed('2');
  const yard = await owner.get(setup.createSite, { body: { code: `Y${shop.count}`, name: `Yard ${shop.count}` } });
  const added = { itemId: shop.hive, quantity: '1', price: '90.00' };
  const preview = await amended(order, '2', { added: [added] }, { preview: true });
  expect(preview.data.effects.notes).toContain(`A work order puts 1 HIVE-${shop.count} together.`);
  await amended(order, '2', { added: [added] });
  expect(await standing()).toEqual(['2', '1']);
  const now = await sale(order.id);
  const lines = now.lines.map((line, index) => ({
    ...{ lineId: line.id, quantity: index === 0 ? '2' : '0', price: line.price, discount: '0', shipBy: null, promisedOn: null },
    siteId: index === 0 ? yard.id : null,
  }));
  const moved = await amended(order, '2', { lines });
  expect(moved.problem.title).toBeUndefined();
  expect(await standing()).toEqual(['2 off', '1 off', '2']);
  expect((await made()).at(-1)).toMatchObject({ siteId: yard.id });
  // A quote again, nothing is made for it.
  await decide(order, 'withdraw');
  expect(await standing()).toEqual(['2 off', '1 off', '2 off']);
});

test('what somebody changed goes its own way; what somebody planned by hand counts as under way', async () => {
  const order = await confirmed('2');
  const [wo] = await made();
  if (!wo) throw new Error('nothing is made');
  const components = wo.lines.map((line) => ({ id: line.id, itemId: line.itemId, quantity: line.needed }));
  const costs = wo.costs.map(({ name, per, quantity, rate, accountId }) => ({ name, per, quantity, rate, accountId }));
  const body = { version: wo.version, quantity: '6', startsOn: wo.startsOn, dueOn: wo.dueOn, note: '', steps: '', components, costs };
  expect((await owner.ask(work.changeWorkOrder, { ...of(wo.id), body })).problem.title).toBeUndefined();
  await amended(order, '1');
  await amended(order, '4');
  expect(await standing()).toEqual(['6']);
});

test('nothing is made of what no bill says how, nor of what comes from elsewhere, nor of other items', async () => {
  const itemId = await business.item(`BARE-${shop.count}`, { madeToOrder: true });
  const bare = await confirmed('2', { itemId });
  expect(bare.effects.notes).toContain(`2 BARE-${shop.count} cannot be put together: no bill of BARE-${shop.count} is in use.`);
  await stocked(business, shop.hive, '3', '30.00');
  await confirmed('3');
  await confirmed('2', { itemId: shop.board });
  expect(await made()).toEqual([]);
});

test('what cannot be made does not stand in the way of selling it: why is said', async () => {
  await shop.begin();
  const part = await owner.get(catalog.getItem, of(shop.screw));
  const hive = await owner.get(catalog.getItem, of(shop.hive));
  const facts = ({ sku, name, unitId, version }: typeof part) => ({ sku, name, unitId, version });
  await owner.get(catalog.editItem, { ...of(shop.hive), body: { ...facts(hive), madeToOrder: true } });
  await owner.get(catalog.editItem, { ...of(shop.screw), body: { ...facts(part), retired: true, retiredInUse: true } });
  const order = await confirmed('2');
  expect(order.effects.notes).toContain(`2 HIVE-${shop.count} cannot be put together: SCREW-${shop.count} is retired.`);
  expect(order.lines).toMatchObject([{ short: '2' }]);
  expect(await made()).toEqual([]);
});

test('work that was begun, or put on another day by hand, stays as it is', async () => {
  const order = await confirmed('2');
  const [wo] = await made();
  if (!wo) throw new Error('nothing is made');
  await owner.get(work.moveWorkOrder, { ...of(wo.id), body: { version: wo.version, startsOn: '2026-03-12' } });
  const day = (await shop.look(wo.id)).dueOn;
  await amended(order, '2', { note: 'by the side gate' });
  expect((await shop.look(wo.id)).dueOn).toBe(day);
  await shop.take(wo, { [shop.board]: '4' });
  const ended = await decide(order, 'cancel');
  expect(ended.data.effects.notes).toContain(`${wo.number} goes on: what it makes is nobody’s yet.`);
  expect(await standing()).toEqual(['2']);
});

test('many who order kits and their parts at once, and take that back, are served one after the other', async () => {
  const quotes = await Promise.all(Array.from({ length: 12 }, (_, n) => quoted('1', n % 2 === 0 ? {} : { itemId: n % 4 === 1 ? shop.board : shop.screw })));
  const confirmed = await Promise.all(quotes.map(({ id, version }) => owner.ask(outbound.confirmSale, { ...of(id), body: { version } })));
  expect(confirmed.map(({ status }) => status)).toEqual(quotes.map(() => 200));
  expect(await standing()).toEqual(Array.from({ length: 6 }, () => '1'));
  const kits = await Promise.all(quotes.filter((_, n) => n % 2 === 0).map(({ id }) => sale(id)));
  const [one, other] = kits as [Sale, Sale, ...Sale[]];
  const done = await Promise.all([...kits.map((order) => decide(order, 'cancel')), amended(one, '3'), amended(other, '2')]);
  for (const { status } of done) expect([200, 409]).toContain(status);
  const going = (await made()).filter(({ cancelled }) => !cancelled).map((wo) => wo.sale?.orderId);
  const open = (await Promise.all(kits.map(({ id }) => sale(id)))).filter((order) => order.open).map(({ id }) => id);
  expect([...new Set(going)].sort()).toEqual(open.sort());
});

test('whoever sells has it made without the right to plan work', async () => {
  const { id, version } = await quoted('1');
  const seller = await business.as('sales desk');
  expect((await seller.ask(outbound.confirmSale, { ...of(id), body: { version } })).status).toBe(200);
  expect(await standing()).toEqual(['1']);
  expect(
    (
      await seller.ask(work.createWorkOrder, {
        body: { itemId: shop.hive, siteId: business.siteId, quantity: '1', startsOn: '2026-03-10', dueOn: '2026-03-10' },
      })
    ).status,
  ).toBe(403);
});

test('who picks the order sees what is put together for it, and in the queue what the work is for', async () => {
  const order = await confirmed('2');
  const [wo] = await made();
  const list = await owner.get(picking.pickList, of(order.id));
  expect(list).toMatchObject({
    rows: [],
    made: [{ id: wo?.id, number: wo?.number, sku: `HIVE-${shop.count}`, quantity: '2', toTake: true, atWork: false }],
  });
  const { rows } = await owner.get(picking.pickQueue, { query: {} });
  expect(rows.find(({ number }) => number === wo?.number)).toMatchObject({
    kind: 'work',
    forSale: { orderId: order.id, number: order.number, customer: order.customer },
  });
});
