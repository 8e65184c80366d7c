import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as catalog from '@larder/contract/catalog';
import * as picking from '@larder/contract/picking';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import type { StockFilter } from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { ordered, pickBody, sold, stocked } from '../../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const bin = (index = 0): number => business.bins[index] as number;
const correct = (lines: object[], part: object = {}) =>
  business.owner.ask(stock.correct, { body: { way: 'plus-or-minus', reasonId: business.reasonId, lines, ...part } as never });
const seqOf = async (itemId: number) => (await business.owner.get(stock.itemStock, { params: { id: itemId } })).seq;

describe('the stock table', () => {
  const ids: Record<string, number> = {};
  let categoryId: number;
  beforeAll(async () => {
    categoryId = (await business.owner.get(setup.createCategory, { body: { name: 'Jars' } })).id;
    const suppliers = [{ supplierId: business.supplierId, code: 'HX-77' }];
    ids.full = await business.item('T-FULL', { categoryId });
    ids.low = await business.item('T-LOW', { categoryId, policies: [{ siteId: business.siteId, reorderPoint: '5', orderUpTo: '9' }] });
    ids.out = await business.item('T-OUT', { suppliers });
    ids.short = await business.item('T-SHORT');
    await stocked(business, ids.full, '10', '3.00');
    await stocked(business, ids.low, '4', '7.50');
    await sold(business, ids.short, '2');
    await ordered(business, ids.out, '6');
  });
  const table = async (query: StockFilter & { q?: string; sort?: (typeof stock.stockSorts)[number]; direction?: 'up' | 'down'; siteId?: number } = {}) =>
    (await business.owner.get(stock.stockTable, { query: { q: 't-', ...query } })).rows;
  const skus = async (...asked: Parameters<typeof table>) => (await table(...asked)).map(({ sku }) => sku);

  test('says of each item what lies, is promised, is free, comes, and is worth', async () => {
    const rows = await table();
    expect(rows.map(({ sku, onHand, reserved, free, onOrder, short, value }) => [sku, onHand, reserved, free, onOrder, short, value])).toEqual([
      ['T-FULL', '10', '0', '10', '0', '0', '30.00'],
      ['T-LOW', '4', '0', '4', '0', '0', '30.00'],
      ['T-OUT', '0', '0', '0', '6', '0', '0.00'],
      ['T-SHORT', '0', '0', '0', '0', '2', '0.00'],
    ]);
    expect(rows[1]).toMatchObject({ reorderPoint: '5', orderUpTo: '9', unitCost: '7.5' });
  });

  test('is held to a state, a category, a supplier and a site, and sorted either way', async () => {
    expect(await skus({ state: 'in-stock' })).toEqual(['T-FULL', 'T-LOW']);
    expect(await skus({ state: 'low' })).toEqual(['T-LOW']);
    expect(await skus({ state: 'out' })).toEqual(['T-OUT', 'T-SHORT']);
    expect(await skus({ state: 'short' })).toEqual(['T-SHORT']);
    expect(await skus({ categoryId })).toEqual(['T-FULL', 'T-LOW']);
    expect(await skus({ supplierId: business.supplierId })).toEqual(['T-OUT']);
    for (const sort of stock.stockSorts) {
      const [up, down] = [await skus({ sort, q: 't-' }), await skus({ sort, direction: 'down', q: 't-' })];
      expect([sort, down]).toEqual([sort, [...up].reverse()]);
    }
    expect(await skus({ sort: 'free', direction: 'down', state: 'in-stock' })).toEqual(['T-FULL', 'T-LOW']);
    expect(await table({ siteId: business.otherSiteId, state: 'in-stock' })).toEqual([]);
    expect((await table({ siteId: business.siteId, q: 'T-FULL' }))[0]).toMatchObject({ onHand: '10', value: '30.00' });
    expect((await business.owner.get(stock.stockTable, { query: { q: 'hx-77' } })).rows.map(({ sku }) => sku)).toEqual(['T-OUT']);
  });

  test('what a site has is worth its part of the whole, to the cent; an undo takes back what it had put in', async () => {
    const itemId = await business.item('T-WORTH');
    await stocked(business, itemId, '3', '3.34');
    const { rows } = await business.owner.get(setup.createBins, { body: { siteId: business.otherSiteId, codes: ['H-1'] } });
    const there = (rows[0] as { id: number }).id;
    const found = await correct([{ itemId, binId: there, quantity: '4' }]);
    await stocked(business, itemId, '2', '1.11');
    const worth = async () => {
      const at = async (siteId?: number) => (await table({ q: 't-worth', siteId }))[0]?.value;
      return [await at(), await at(business.siteId), await at(business.otherSiteId)];
    };
    // 10.02 + 13.36 + 2.22 for nine: 5/9 and 4/9 of it.
    expect(await worth()).toEqual(['25.60', '14.22', '11.38']);
    await business.owner.get(stock.undo, { body: { movementId: found.data.movementId as number } });
    expect(await worth()).toEqual(['12.24', '12.24', '0.00']);
  });

  test('an item opens into its sites and bins, what is expected, and who waits', async () => {
    const full = await business.owner.get(stock.itemStock, { params: { id: ids.full as number } });
    expect(full.sites[0]).toMatchObject({ site: 'Barn store', onHand: '10', bins: [{ bin: 'A-1', quantity: '10', sellable: true }] });
    expect(full.past.at(-1)).toMatchObject({ day: '2026-03-10', quantity: '10' });
    const out = await business.owner.get(stock.itemStock, { params: { id: ids.out as number } });
    expect(out.expected).toMatchObject([{ day: '2026-03-12', quantity: '6', kind: 'purchase order' }]);
    const short = await business.owner.get(stock.itemStock, { params: { id: ids.short as number } });
    expect(short.reservedFor).toMatchObject([{ customer: 'Copse Lane School', reserved: '0', short: '2' }]);
    expect((await business.owner.ask(stock.itemStock, { params: { id: 99_999 } })).status).toBe(404);
  });
});

describe('the trail', () => {
  test('has every movement with who, why, document and change; by item, bin and measure', async () => {
    const itemId = await business.item('TR-1');
    const { order } = await stocked(business, itemId, '6', '2.00');
    const sale = await sold(business, itemId, '4');
    await business.owner.get(picking.pick, { body: pickBody(business, sale, '4') });
    await correct([{ itemId, binId: bin(), quantity: '-1' }], { note: 'one was cracked' });
    const trail = async (query: object) => (await business.owner.get(stock.trail, { query: { itemId, ...query } })).rows;
    const all = await trail({});
    expect(all.map(({ kind, change, value, document }) => [kind, change, value, document?.number ?? null])).toEqual([
      ['correction', '-1', '-2.00', null],
      ['pick', '0', '0.00', sale.number],
      ['receipt', '6', '12.00', order.number],
    ]);
    expect(all[0]).toMatchObject({ why: expect.stringContaining('one was cracked'), person: 'Owner', from: expect.stringContaining('A-1') });
    expect((await trail({ measure: 'bench' })).map(({ kind }) => kind)).toEqual(['pick']);
    expect((await trail({ measure: 'on-hand' })).map(({ kind }) => kind)).toEqual(['correction', 'pick', 'receipt']);
    expect(await trail({ placeId: bin(1) })).toEqual([]);
    const { rows, next } = await business.owner.get(stock.trail, { query: { itemId, limit: 2 } });
    expect(rows).toHaveLength(2);
    expect((await trail({ limit: 2, cursor: next })).map(({ kind }) => kind)).toEqual(['receipt']);
  });
});

describe('a correction', () => {
  test('foresees what it changes, posts the difference to the reason’s account, and is undone', async () => {
    const itemId = await business.item('CO-1');
    await stocked(business, itemId, '10', '1.50');
    const body = { way: 'there-are-now' as const, reasonId: business.reasonId, lines: [{ itemId, binId: bin(), quantity: '8', seq: await seqOf(itemId) }] };
    const foreseen = await business.owner.ask(stock.correct, { body }, { preview: true });
    expect(foreseen.data.movementId).toBeNull();
    expect(foreseen.data.effects.rows.map(({ measure, before, after }) => [measure, before, after])).toEqual([
      ['on hand', '10', '8'],
      ['free', '10', '8'],
      ['value', '15.00', '12.00'],
    ]);
    const posted = await business.owner.get(stock.correct, { body });
    expect(posted.effects).toEqual(foreseen.data.effects);
    await business.owner.get(stock.undo, { body: { movementId: posted.movementId as number } });
    expect((await business.owner.get(stock.itemStock, { params: { id: itemId } })).value).toBe('15.00');
  });

  test('two who saw the same at the same moment put it right once; what was seen before a later count is asked about', async () => {
    const itemId = await business.item('CO-TWICE');
    await stocked(business, itemId, '20', '1.00');
    const seq = await seqOf(itemId);
    const seen = (quantity: string, at: number, part: object = {}) => correct([{ itemId, binId: bin(), quantity, seq: at }], { way: 'there-are-now', ...part });
    const held = async () => (await business.owner.get(stock.itemStock, { params: { id: itemId } })).sites[0]?.onHand;
    const first = await seen('18', seq);
    expect([first.status, await held()]).toEqual([200, '18']);
    // The other saw 18 as well: the two that are missing are the same two.
    expect((await seen('18', seq)).data.movementId).toBeNull();
    expect(await held()).toBe('18');
    // Four are picked, and what was seen before that is still what was there then.
    const sale = await sold(business, itemId, '4');
    await business.owner.get(picking.pick, { body: pickBody(business, sale, '4') });
    expect((await seen('17', seq)).status).toBe(200);
    expect(await held()).toBe('13');
    // Undone, the first count puts nothing right any more.
    await business.owner.get(stock.undo, { body: { movementId: first.data.movementId as number, countedSince: true } });
    expect(await held()).toBe('15');
    await seen('15', await seqOf(itemId));
    const late = await seen('20', seq);
    expect([late.status, late.problem.type, late.problem.errors[0]?.field]).toEqual([409, 'counted-since', 'lines.0.quantity']);
    expect((await seen('20', seq, { countedSince: true })).status).toBe(200);
  });

  test('what has no bin is swept into the one that is put right, and is among what there are now; all of it is undone together', async () => {
    const itemId = await business.item('CO-SWEEP');
    const { rows: bins } = await business.owner.get(setup.listBins, { query: { siteId: business.siteId } });
    const unplaced = bins.find((one) => one.unplaced)?.id as number;
    await stocked(business, itemId, '5', '2.00');
    await business.owner.get(stock.openStock, { body: { lines: [{ itemId, binId: unplaced, quantity: '3', unitValue: '2.00' }] } });
    const sweeping = async (quantity: string, part: object = {}) =>
      correct([{ itemId, binId: bin(), quantity, seq: await seqOf(itemId), sweep: true }], { way: 'there-are-now', ...part });
    const lying = async () => {
      const { sites, value } = await business.owner.get(stock.itemStock, { params: { id: itemId } });
      return [value, ...sites.flatMap((site) => site.bins.map(({ bin: code, quantity }) => `${code} ${quantity}`))];
    };
    const posted = await sweeping('7');
    expect(await lying()).toEqual(['14.00', 'A-1 7']);
    await business.owner.get(stock.undo, { body: { movementId: posted.data.movementId as number, countedSince: true } });
    expect(await lying()).toEqual(['16.00', 'A-1 5', 'UNPLACED 3']);
    await sweeping('8');
    expect(await lying()).toEqual(['16.00', 'A-1 8']);
    const refused = await correct([{ itemId, binId: bin(), quantity: '1', sweep: true }]);
    expect(refused.problem.errors[0]).toEqual({ field: 'lines.0.sweep', sentence: expect.stringMatching(/^What has no bin is swept in only/) });
  });

  test('of what agrees nothing is posted; what cannot be is told by its field', async () => {
    const itemId = await business.item('CO-2');
    await stocked(business, itemId, '5');
    const seq = await seqOf(itemId);
    const now = (quantity: string, part: object = {}) => correct([{ itemId, binId: bin(), quantity, seq, ...part }], { way: 'there-are-now' });
    expect((await now('5')).data).toEqual({
      movementId: null,
      effects: { rows: [], notes: ['Everything agrees: nothing is posted, and the bins count as looked at.'], costNotes: [] },
    });
    const said = async (answer: ReturnType<typeof correct>) => (await answer).problem.errors[0];
    expect(await said(now('-1'))).toEqual({ field: 'lines.0.quantity', sentence: 'There cannot be fewer than none.' });
    expect(await said(now('3', { seq: null }))).toMatchObject({ field: 'lines.0.seq' });
    expect(await said(correct([{ itemId, binId: bin(), quantity: '0.5' }]))).toMatchObject({ field: 'lines.0.quantity' });
    expect(await said(correct([{ itemId, binId: bin(), quantity: '-6' }]))).toEqual({
      field: 'lines.0.quantity',
      sentence: 'A-1 holds 5 of CO-2, not 6.',
    });
    expect(await said(correct([{ itemId, binId: 99_999, quantity: '1' }]))).toEqual({ field: 'lines.0.binId', sentence: 'There is no such bin.' });
    expect(await said(correct([{ itemId: 99_999, binId: bin(), quantity: '1' }]))).toEqual({ field: 'lines.0.itemId', sentence: 'There is no such item.' });
    expect(await said(correct([{ itemId, binId: bin(), quantity: '1' }], { reasonId: 99_999 }))).toMatchObject({ field: 'reasonId' });
    const twice = { itemId, binId: bin(), quantity: '1' };
    expect(await said(correct([twice, twice]))).toEqual({ field: 'lines.1.binId', sentence: 'CO-2 in this bin is on the sheet already.' });
    expect(await said(correct([{ itemId, binId: bin(), quantity: '1', lotId: 1 }]))).toEqual({
      field: 'lines.0.lotId',
      sentence: 'CO-2 is kept without lots or serials.',
    });
  });

  test('takes what is promised from the order that would be served last, and says which', async () => {
    const itemId = await business.item('CO-3');
    await stocked(business, itemId, '5');
    const first = await sold(business, itemId, '3', '2026-03-11');
    const last = await sold(business, itemId, '2', '2026-03-15');
    const lost = await correct([{ itemId, binId: bin(), quantity: '-3' }]);
    expect(lost.data.effects.notes).toEqual([`${last.number} line 1 becomes short of 2.`, `${first.number} line 1 becomes short of 1.`]);
  });

  test('needs the right where the bin is', async () => {
    const itemId = await business.item('CO-4');
    const desk = await business.as('Sales desk');
    const asked = { body: { way: 'plus-or-minus' as const, reasonId: business.reasonId, lines: [{ itemId, binId: bin(), quantity: '1' }] } };
    expect((await desk.ask(stock.correct, asked)).status).toBe(403);
    expect((await (await business.as('Stock controller')).ask(stock.correct, asked)).status).toBe(200);
  });

  test('of something nobody knows the cost of asks for a price first', async () => {
    const itemId = await business.item('CO-5', { purchasePrice: null });
    expect((await correct([{ itemId, binId: bin(), quantity: '2' }])).problem.title).toBe(
      'Nothing says yet what one CO-5 costs. Give the item a purchase price first.',
    );
  });
});

test('what lies in a bin is told with its lots; a bin that is none is told too', async () => {
  const { rows } = await business.owner.get(stock.binContents, { params: { id: bin() } });
  expect(rows.map(({ sku }) => sku)).toEqual([...rows.map(({ sku }) => sku)].sort());
  expect(rows.find(({ sku }) => sku === 'T-FULL')).toMatchObject({ quantity: '10', lotId: null, lot: null, pastUse: false });
  expect((await business.owner.ask(stock.binContents, { params: { id: 99_999 } })).problem.title).toBe('There is no such bin.');
});

test('retired goods stay in the stock table as long as some lie here', async () => {
  const itemId = await business.item('T-OLD');
  await stocked(business, itemId, '1');
  await business.owner.get(catalog.editItems, { body: { ids: [itemId], retired: true, retiredInUse: true } });
  const { rows } = await business.owner.get(stock.stockTable, { query: { q: 't-old' } });
  expect(rows).toMatchObject([{ sku: 'T-OLD', onHand: '1' }]);
});
