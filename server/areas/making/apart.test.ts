import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import type { Asked } from '@larder/contract/endpoint';
import * as apart from '@larder/contract/takingApart';
import * as work from '@larder/contract/workOrders';
import { openBusiness, type Business } from '../../testing/business';
import * as picking from '@larder/contract/picking';
import * as receiving from '@larder/contract/receiving';
import { ordered, pickBody, sold, stocked } from '../../testing/trade';
import { Workshop } from '../../testing/workshop';

/** Taking apart: what comes of it, at which cost, and how it is turned round. */
let business: Business;
let owner: Business['owner'];
let shop: Workshop;
let binId: number;
beforeAll(async () => {
  business = await openBusiness();
  owner = business.owner;
  shop = await Workshop.of(business);
  binId = business.bins[0] as number;
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

let count = 0;
let hive: number, board: number, screw: number;
/** Three hives at 30.00 lie in A-1; by the bill one is of four boards, with 10 % waste, and eight screws. Boards cost 2.00, screws 0.05. */
beforeEach(async () => {
  await shop.begin({ waste: '10', hours: '0' });
  ({ count, hive, board, screw } = shop);
  await stocked(business, hive, '3', '30.00');
});

type Form = NonNullable<Asked<typeof apart.takeApart>['body']>;
const part = (itemId: number, planned: string, quantity = planned, more = {}) => ({ itemId, planned, quantity, ...more });
const form = (more: Partial<Form> = {}): Form => ({ itemId: hive, binId, quantity: '1', parts: [part(board, '4'), part(screw, '8')], ...more });
const take = (more: Partial<Form> = {}, options = {}) => owner.ask(apart.takeApart, { body: form(more) }, options);
const onHand = async (itemId: number) => (await shop.figures(itemId)).onHand;

test('what it gives is proposed by the bill without its waste, with where it goes', async () => {
  const { bill, parts } = await owner.get(apart.apartProposal, { query: { itemId: hive, siteId: business.siteId, quantity: '2' } });
  expect(bill).toBe('1');
  expect(parts.map(({ itemId, planned, worth }) => [itemId, planned, worth])).toEqual([
    [board, '8', '2.0000'],
    [screw, '16', '0.0500'],
  ]);
  expect(await owner.get(apart.apartProposal, { query: { itemId: board, siteId: business.siteId, quantity: '2' } })).toEqual({ bill: null, parts: [] });
});

test('what it had cost goes to the parts by what they cost now; seen before exactly as it is posted', async () => {
  const preview = await take({}, { preview: true });
  const { data } = await take();
  // 30.00 × 8.00 ÷ 8.40 and the rest.
  expect(data.outcome).toEqual({
    value: '30.00',
    lost: '0.00',
    parts: [
      { itemId: board, sku: `BOARD-${count}`, quantity: '4', value: '28.57', unitCost: '7.1425' },
      { itemId: screw, sku: `SCREW-${count}`, quantity: '8', value: '1.43', unitCost: '0.1788' },
    ],
  });
  expect(preview.data.outcome).toEqual(data.outcome);
  const inOrder = ({ rows }: typeof data.effects) => [...rows].sort((one, other) => one.itemId - other.itemId);
  expect(inOrder(preview.data.effects)).toEqual(inOrder(data.effects));
  expect([await onHand(hive), await onHand(board), await onHand(screw)]).toEqual(['2', '4', '8']);
  expect([await shop.value(hive), await shop.value(board), await shop.value(screw)]).toEqual(['60.00', '28.57', '1.43']);
  expect(await owner.get(apart.getApart, { params: { id: data.id as number } })).toMatchObject({
    number: data.number,
    quantity: '1',
    value: '30.00',
    lost: '0.00',
    undone: false,
    from: { bin: 'A-1', lot: null },
    came: [
      { itemId: board, planned: '4', good: '4', value: '28.57' },
      { itemId: screw, planned: '8', good: '8', value: '1.43' },
    ],
  });
});

test('with parts that are missing or no good their cost is lost, to making variance; nothing is in progress', async () => {
  const [lost, progress] = [await shop.balance('5240'), await shop.balance('1250')];
  const { data } = await take({ quantity: '2', parts: [part(board, '8', '6', { share: '3' }), part(screw, '16', '0', { share: '1' })] });
  // 60.00: three quarters to the boards, of which six of eight are good.
  expect(data.outcome).toMatchObject({ value: '60.00', lost: '26.25', parts: [{ itemId: board, quantity: '6', value: '33.75' }] });
  expect([(await shop.balance('5240')) - lost, (await shop.balance('1250')) - progress]).toEqual([26.25, 0]);
  const one = await owner.get(apart.getApart, { params: { id: data.id as number } });
  expect(one.came.map(({ planned, good }) => [planned, good])).toEqual([
    ['8', '6'],
    ['16', '0'],
  ]);
});

test('it is undone as it was done, and said to be; it is no work order to be gone on with', async () => {
  const { data } = await take({ parts: [part(board, '4', '3'), part(screw, '8')] });
  const id = data.id as number;
  const list = await owner.get(work.listWorkOrders, { query: { show: 'all' } });
  expect(list.rows.some((row) => row.id === id)).toBe(false);
  expect((await shop.undo(data.movementId)).status).toBe(200);
  expect([await onHand(hive), await onHand(board), await shop.value(hive), await shop.value(board)]).toEqual(['3', '0', '90.00', '0.00']);
  const { rows } = await owner.get(apart.listApart, { query: { itemId: hive } });
  expect(rows).toMatchObject([{ id, undone: true, value: '30.00', lost: '7.14' }]);
  const { version } = await owner.get(work.getWorkOrder, { params: { id } });
  expect((await owner.ask(work.reopenWorkOrder, { params: { id }, body: { version } })).problem.type).toBe('taken-apart');
  // Twice is refused.
  expect((await shop.undo(data.movementId)).status).toBe(409);
});

test('while its parts are used the posting stays', async () => {
  const { data } = await take({ parts: [part(board, '4', '4', { binId }), part(screw, '8')] });
  await owner.get(picking.pick, { body: pickBody(business, await sold(business, board, '4'), '4') });
  const { status, problem } = await shop.undo(data.movementId);
  expect(status).toBe(409);
  expect(problem.title).toContain(`BOARD-${count}`);
});

test('by lots and serials: the unit that is taken apart goes with its own cost, and its parts come with theirs', async () => {
  const kit = await business.item(`KIT-${count}`, { tracking: 'serial', costMethod: 'specific' });
  const wax = await business.item(`WAX-${count}`, { tracking: 'lot', purchasePrice: '4.00' });
  for (const [code, price] of [
    [`K1-${count}`, '11.00'],
    [`K2-${count}`, '17.50'],
  ] as const) {
    const { lineId } = await ordered(business, kit, '1', price);
    await owner.get(receiving.receive, { body: { lines: [{ lineId, quantity: '1', binId, lots: [{ code, useBy: null, quantity: '1' }] }] } });
  }
  const { rows } = await business.pool.query<{ id: number; code: string }>('SELECT id, code FROM lot WHERE item_id = $1', [kit]);
  const lotId = rows.find(({ code }) => code === `K2-${count}`)?.id as number;
  const parts = [part(wax, '2', '2', { lots: [{ code: 'W-7', useBy: '2027-05-01', quantity: '2' }] }), part(board, '2', '2')];
  expect((await take({ itemId: kit, parts })).problem.errors).toEqual([{ field: 'lotId', sentence: `Say which serial of KIT-${count}.` }]);
  const { data } = await take({ itemId: kit, lotId, parts });
  // Of 17.50 wax is 8 of 12, boards 4.
  expect(data.outcome).toMatchObject({ value: '17.50', lost: '0.00', parts: [{ value: '11.67' }, { value: '5.83' }] });
  expect(await shop.value(kit)).toBe('11.00');
  const one = await owner.get(apart.getApart, { params: { id: data.id as number } });
  expect(one.from.lot).toBe(`K2-${count}`);
  expect(one.came[0]?.places).toEqual([{ bin: expect.any(String), lot: 'W-7', quantity: '2' }]);
  expect((await shop.undo(data.movementId)).status).toBe(200);
  expect(await shop.value(kit)).toBe('28.50');
});

test('what cannot be is said by its field, and nothing is written', async () => {
  const errors = async (more: Partial<Form>) => (await take(more)).problem.errors;
  expect(await errors({ quantity: '4' })).toEqual([{ field: 'quantity', sentence: expect.stringContaining('3') }]);
  expect(await errors({ quantity: '0.5' })).toMatchObject([{ field: 'quantity' }]);
  expect(await errors({ parts: [part(hive, '1')] })).toEqual([{ field: 'parts.0.itemId', sentence: `HIVE-${count} is no part of itself.` }]);
  expect(await errors({ parts: [part(board, '4'), part(board, '1')] })).toEqual([{ field: 'parts.1.itemId', sentence: 'Line 1 has this part as well.' }]);
  expect(await errors({ parts: [part(board, '4', '4', { share: '1' }), part(screw, '8')] })).toEqual([
    { field: 'parts.1.share', sentence: 'Give each part a share of the cost, or none of them.' },
  ]);
  expect(await errors({ parts: [part(board, '0', '0')] })).toMatchObject([{ field: 'parts.0.planned' }]);
  expect(await errors({ parts: [part(board, '4', '0')] })).toMatchObject([{ field: 'parts.0.quantity' }]);
  expect(await errors({ parts: [] })).toMatchObject([{ field: 'parts' }]);
  expect(await errors({ binId: null })).toEqual([{ field: 'binId', sentence: 'Choose the bin it is taken from.' }]);
  expect([await onHand(hive), await onHand(board)]).toEqual(['3', '0']);
});

test('what is promised to customers is not taken apart', async () => {
  await sold(business, hive, '2');
  const { status, problem } = await take({ quantity: '2' });
  expect([status, problem.errors[0]?.field]).toEqual([409, 'quantity']);
});
