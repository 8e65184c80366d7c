import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as bills from '@larder/contract/bills';
import * as books from '@larder/contract/books';
import * as inbound from '@larder/contract/inbound';
import * as receiving from '@larder/contract/receiving';
import * as lots from '@larder/contract/lots';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const line = (itemId: number, quantity: string, unitValue: string, lots: { code: string }[] = []) => ({
  itemId,
  binId: business.bins[0] as number,
  quantity,
  unitValue,
  lots,
});
const onHand = async (id: number) => (await business.owner.get(stock.itemStock, { params: { id } })).sites.map((site) => site.onHand);
const balanceOf = async (purpose: string) => (await business.owner.get(books.listAccounts)).rows.find((account) => account.purpose === purpose)?.balance;

test('goods that turn up come from nobody in particular and count as paid', async () => {
  const itemId = await business.item('LOOSE-1');
  const body = { lines: [line(itemId, '5', '2.40')], packingNote: 'till slip' };
  expect((await business.owner.ask(receiving.receiveUnordered, { body }, { preview: true })).data.movementId).toBeNull();
  const floor = await business.as('Floor');
  await floor.get(receiving.receiveUnordered, { body });
  expect(await onHand(itemId)).toEqual(['5']);
  expect([await balanceOf('purchases-paid'), await balanceOf('grni')]).toEqual(['-12.00', '0.00']);
});

test('equipment with its serials from a supplier whose bill will come: an order stands behind it, and the bill finds it', async () => {
  const itemId = await business.item('LOOSE-2', { tracking: 'serial' });
  const lines = [line(itemId, '2', '310.00', [{ code: 'EX-1' }, { code: 'EX-2' }])];
  const floor = await business.as('Floor');
  await floor.get(receiving.receiveUnordered, { body: { supplierId: business.supplierId, billComes: true, lines } });
  const [order] = (await business.owner.get(inbound.listPurchases, { query: { show: 'all' } })).rows;
  expect(order).toMatchObject({ state: 'received', received: '2' });
  expect(await balanceOf('grni')).toBe('-620.00');
  const { lines: open } = await business.owner.get(bills.billable, { query: { partyId: business.supplierId } });
  const body = {
    partyId: business.supplierId,
    reference: 'L-1',
    billedOn: '2026-03-10',
    lines: [{ kind: 'goods' as const, purchaseLineId: open[0]?.purchaseLineId ?? 0, quantity: '2', price: '310.00' }],
  };
  await business.owner.get(bills.createBill, { body });
  expect(await balanceOf('grni')).toBe('0.00');
  const again = await business.owner.ask(receiving.receiveUnordered, { body: { supplierId: business.supplierId, billComes: true, lines } });
  expect(again.status).toBe(409);
  expect((await business.owner.get(inbound.listPurchases, { query: { show: 'all' } })).rows.length).toBe(1);
});

test.each([true, false])('what is shown before is what is posted, whether a bill comes or not', async (billComes) => {
  const itemId = await business.item(`LOOSE-P${billComes}`);
  const other = await business.item(`LOOSE-Q${billComes}`);
  const body = { supplierId: business.supplierId, billComes, effectiveOn: '2026-03-09', lines: [line(itemId, '7', '0.333333'), line(other, '3', '1.005')] };
  const { data: shown } = await business.owner.ask(receiving.receiveUnordered, { body }, { preview: true });
  const orders = async () => (await business.owner.get(inbound.listPurchases, { query: { show: 'all' } })).rows.length;
  const before = await orders();
  const posted = await business.owner.get(receiving.receiveUnordered, { body });
  expect(posted.effects).toEqual(shown.effects);
  expect(shown.effects.rows.map(({ sku, measure, after }) => [sku, measure, after])).toContainEqual([`LOOSE-P${billComes}`, 'value', '2.33']);
  expect((await orders()) - before).toBe(billComes ? 1 : 0);
});

test('what cannot be: a bill from nobody, no such supplier, a customer as supplier, no such bin, two sites on one bill', async () => {
  const itemId = await business.item('LOOSE-3');
  const ask = async (more: object) => (await business.owner.ask(receiving.receiveUnordered, { body: { lines: [line(itemId, '1', '1.00')], ...more } })).problem;
  expect((await ask({ billComes: true })).errors[0]?.field).toBe('supplierId');
  expect((await ask({ supplierId: 99999 })).errors[0]?.sentence).toBe('There is no such supplier.');
  expect((await ask({ supplierId: business.customerId })).errors[0]?.field).toBe('supplierId');
  expect((await ask({ lines: [{ ...line(itemId, '1', '1.00'), binId: 99999 }] })).errors[0]?.field).toBe('lines.0.binId');
  expect((await ask({ lines: [line(itemId, '-1', '1.00')] })).errors[0]?.field).toBe('lines.0.quantity');
  const onlooker = await business.as('Onlooker');
  expect((await onlooker.ask(receiving.receiveUnordered, { body: { lines: [line(itemId, '1', '1.00')] } })).status).toBe(403);
});

test('equipment comes in with its tags; one that another unit has is refused, and a unit that comes again takes its new tag', async () => {
  const itemId = await business.item('LOOSE-4', { tracking: 'serial' });
  const other = await business.item('LOOSE-5', { tracking: 'serial' });
  const lotOf = async (code: string) => {
    const { rows } = await business.owner.get(lots.listLots, { query: { q: code, state: 'all' } });
    return rows.find((row) => row.code === code);
  };
  const come = (id: number, lots: { code: string; tag?: string }[]) =>
    business.owner.ask(receiving.receiveUnordered, { body: { lines: [line(id, String(lots.length), '90.00', lots)] } });
  const first = await come(itemId, [
    { code: 'HX-1', tag: 'T-901' },
    { code: 'HX-2', tag: 'T-902' },
  ]);
  expect(first.status).toBe(200);
  expect(await lotOf('HX-2')).toMatchObject({ tag: 'T-902', where: 'Barn store A-1' });
  const taken = await come(other, [{ code: 'HY-1', tag: 't-902' }]);
  expect(taken.problem.errors).toEqual([{ field: 'lines.0.lots.0.tag', sentence: 't-902 is the tag of LOOSE-4 HX-2 already.' }]);
  expect(await lotOf('HY-1')).toBeUndefined();
  const lotId = (await lotOf('HX-1'))?.id as number;
  const lost = { way: 'plus-or-minus' as const, reasonId: business.reasonId, lines: [{ itemId, binId: business.bins[0] as number, lotId, quantity: '-1' }] };
  const { movementId } = await business.owner.get(stock.correct, { body: lost });
  const again = [{ code: 'HX-1', tag: 'T-950' }];
  expect((await come(itemId, again)).problem.errors).toEqual([
    {
      field: 'lines.0.lots.0.code',
      sentence: 'LOOSE-4 HX-1 is known and lies at Found or lost. Bring it back from there: undo what took it there, or find it by a correction.',
    },
  ]);
  await business.owner.get(stock.undo, { body: { movementId: movementId as number } });
  await business.owner.get(stock.undo, { body: { movementId: first.data.movementId as number } });
  const body = { lines: [line(itemId, '1', '40.00', again)] };
  await business.owner.ask(receiving.receiveUnordered, { body }, { preview: true });
  expect((await lotOf('HX-1'))?.tag).toBe('T-901');
  await business.owner.get(receiving.receiveUnordered, { body });
  expect((await lotOf('HX-1'))?.tag).toBe('T-950');
});

test('who may not see cost leaves out what one is worth: it is the purchase price, and is asked for where there is none', async () => {
  const [known, unknown] = [await business.item('LOOSE-P', { purchasePrice: '3.10' }), await business.item('LOOSE-Q', { purchasePrice: null })];
  const { unitValue: _left, ...without } = line(known, '4', '');
  const floor = await business.as('Floor');
  await floor.get(receiving.receiveUnordered, { body: { lines: [without] } });
  expect(await business.owner.get(stock.itemStock, { params: { id: known } })).toMatchObject({ value: '12.40' });
  const refused = await floor.ask(receiving.receiveUnordered, { body: { lines: [without, { ...without, itemId: unknown }] } });
  expect(refused.problem.errors).toEqual([{ field: 'lines.1.unitValue', sentence: 'Say what one is worth: LOOSE-Q has no purchase price.' }]);
  expect(await business.owner.get(stock.itemStock, { params: { id: known } })).toMatchObject({ value: '12.40' });
  await floor.get(receiving.receiveUnordered, { body: { supplierId: business.supplierId, billComes: true, lines: [without] } });
  expect(await business.owner.get(stock.itemStock, { params: { id: known } })).toMatchObject({ value: '24.80' });
});
