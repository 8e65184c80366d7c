import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as catalog from '@larder/contract/catalog';
import * as moves from '@larder/contract/moves';
import * as outbound from '@larder/contract/outbound';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { sold } from '../../testing/trade';

/** Goods go from bin to bin at once: what they are worth stays, and what leaves the bins that are sold from is no longer free. */
let business: Business;
let unplaced: number;
let quarantine: number;
let elsewhere: number;
beforeAll(async () => {
  business = await openBusiness();
  const { rows } = await business.owner.get(setup.listBins, { query: { siteId: business.siteId } });
  unplaced = rows.find((one) => one.unplaced)?.id as number;
  quarantine = (await business.owner.get(setup.createBins, { body: { siteId: business.siteId, codes: ['Q-1'], sellable: false } })).rows[0]?.id as number;
  elsewhere = (await business.owner.get(setup.createBins, { body: { siteId: business.otherSiteId, codes: ['H-1'] } })).rows[0]?.id as number;
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const bin = (index: number) => business.bins[index] as number;
const open = (itemId: number, quantity: string, binId = bin(0), lots: { code: string; quantity: string }[] = []) =>
  business.owner.get(stock.openStock, { body: { lines: [{ itemId, binId, quantity, unitValue: '2.50', lots }] } });
const move = (lines: moves.MoveForm['lines'], how: { preview?: boolean; key?: string } = {}) =>
  business.owner.ask(moves.moveGoods, { body: { note: '', lines } }, how);
const line = (itemId: number, quantity: string, fromBinId: number, toBinId: number, lotId: number | null = null) => ({
  itemId,
  quantity,
  fromBinId,
  toBinId,
  lotId,
});
const lying = async (itemId: number) => {
  const { sites, value } = await business.owner.get(stock.itemStock, { params: { id: itemId } });
  return { value, bins: Object.fromEntries(sites.flatMap((site) => site.bins.map((one) => [one.bin, one.quantity]))), free: sites[0]?.free };
};

test('goods lie where they were moved to, at what they cost; an undo takes them back, and a whole bin goes at once', async () => {
  const [one, two] = [await business.item('MOVE-1'), await business.item('MOVE-2')];
  await open(one, '7');
  await open(two, '3');
  const moved = await move([line(one, '2', bin(0), bin(1)), line(two, '3', bin(0), bin(1))]);
  expect(moved.status).toBe(200);
  expect(await lying(one)).toEqual({ value: '17.50', bins: { 'A-1': '5', 'A-2': '2' }, free: '7' });
  expect((await business.owner.get(stock.binContents, { params: { id: bin(1) }, query: {} })).rows.map(({ sku, quantity }) => [sku, quantity])).toEqual([
    ['MOVE-1', '2'],
    ['MOVE-2', '3'],
  ]);
  await business.owner.get(stock.undo, { body: { movementId: moved.data.movementId as number } });
  expect((await lying(one)).bins).toEqual({ 'A-1': '7' });
  const trail = await business.owner.get(stock.trail, { query: { itemId: one } });
  expect(trail.rows.map(({ kind, change, value }) => [kind, change, Number(value)])).toEqual([
    ['undo', '0', 0],
    ['shelf-move', '0', 0],
    ['opening', '7', 17.5],
  ]);
});

test('what is moved out of sale is no longer free, releases what was reserved beyond it, and serves again when it comes back', async () => {
  const itemId = await business.item('MOVE-3');
  await open(itemId, '4');
  const order = await sold(business, itemId, '4');
  const seen = await move([line(itemId, '3', bin(0), quarantine)], { preview: true });
  expect(seen.data.effects.notes.join(' ')).toContain(order.number);
  await move([line(itemId, '3', bin(0), quarantine)]);
  const short = async () => (await business.owner.get(outbound.getSale, { params: { id: order.id } })).lines[0]?.short;
  expect(await short()).toBe('3');
  await move([line(itemId, '3', quarantine, bin(1))]);
  expect(await short()).toBe('0');
});

test('a lot goes as itself; who says none is asked which', async () => {
  const itemId = await business.item('MOVE-4', { tracking: 'lot' });
  await open(itemId, '5', bin(0), [{ code: 'L-1', quantity: '5' }]);
  const refused = await move([line(itemId, '2', bin(0), bin(1))]);
  expect(refused.problem.errors).toEqual([{ field: 'lines.0.lotId', sentence: 'Say which lot of MOVE-4.' }]);
  const { rows } = await business.owner.get(stock.binContents, { params: { id: bin(0) }, query: {} });
  const lot = rows.find(({ itemId: id }) => id === itemId);
  expect((await move([line(itemId, '2', bin(0), bin(1), lot?.lotId)])).status).toBe(200);
  expect((await lying(itemId)).bins).toEqual({ 'A-1': '3', 'A-2': '2' });
});

test('what cannot be moved is refused by its field, and nothing of the rest is', async () => {
  const itemId = await business.item('MOVE-5');
  const service = await business.item('MOVE-6', { kind: 'service' });
  await open(itemId, '2');
  const faults = async (...lines: moves.MoveForm['lines']) => {
    const { status, problem } = await move(lines);
    return [status, ...(problem.errors ?? []).map(({ field, sentence }) => `${field}: ${sentence}`)];
  };
  expect(await faults(line(itemId, '3', bin(0), bin(1)))).toEqual([409, 'lines.0.quantity: A-1 holds 2 of MOVE-5, not 3.']);
  expect(await faults(line(itemId, '1', bin(0), elsewhere))).toEqual([422, 'lines.0.toBinId: That bin is at another site: goods go there by a transfer.']);
  expect(await faults(line(itemId, '1', bin(0), bin(0)))).toEqual([422, 'lines.0.toBinId: MOVE-5 lies in this bin already.']);
  expect(await faults(line(itemId, '1', bin(0), bin(1)), line(itemId, '0.5', bin(0), bin(1)))).toEqual([422, expect.stringMatching(/^lines\.1\.quantity/)]);
  expect(await faults(line(service, '1', bin(0), bin(1)))).toEqual([422, expect.stringMatching(/^lines\.0\.itemId/)]);
  expect(await faults(line(itemId, '1', bin(0), 999_999))).toEqual([422, 'lines.0.toBinId: There is no such bin.']);
  expect((await lying(itemId)).bins).toEqual({ 'A-1': '2' });
});

test('two who move the same goods at once: one is told that they are gone', async () => {
  const itemId = await business.item('MOVE-7');
  await open(itemId, '3');
  const both = await Promise.all([move([line(itemId, '2', bin(0), bin(1))]), move([line(itemId, '2', bin(0), bin(2))])]);
  expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
});

test('what has no bin is listed with the bin where it should go: its own, else where it lies already', async () => {
  const own = await business.item('MOVE-8', { policies: [{ siteId: business.siteId, binId: bin(2) }] as never });
  const usual = await business.item('MOVE-9');
  const nowhere = await business.item('MOVE-10');
  await open(usual, '6', bin(1));
  for (const itemId of [own, usual, nowhere]) await open(itemId, '2', unplaced);
  await business.owner.get(catalog.giveBarcode, { params: { id: own }, body: {} } as never);
  const { rows } = await business.owner.get(moves.toPutAway, { query: { siteId: business.siteId } });
  const told = rows.filter(({ sku }) => /^MOVE-(8|9|10)$/.test(sku));
  expect(told.map(({ sku, quantity, to, fromBinId }) => [sku, quantity, to, fromBinId])).toEqual([
    ['MOVE-9', '2', 'A-2', unplaced],
    ['MOVE-8', '2', 'B-1', unplaced],
    ['MOVE-10', '2', null, unplaced],
  ]);
  expect(told.find(({ sku }) => sku === 'MOVE-8')?.codes.length).toBeGreaterThan(0);
  await move([line(own, '2', unplaced, bin(2))]);
  expect((await business.owner.get(moves.toPutAway, { query: {} })).rows.some(({ sku }) => sku === 'MOVE-8')).toBe(false);
});

test('who may not move goods does not', async () => {
  const itemId = await business.item('MOVE-11');
  await open(itemId, '1');
  const asked = { body: { note: '', lines: [line(itemId, '1', bin(0), bin(1))] } };
  expect((await (await business.as('Onlooker')).ask(moves.moveGoods, asked)).status).toBe(403);
  expect((await (await business.as('Floor')).ask(moves.moveGoods, asked)).status).toBe(200);
});
