import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as exchange from '@larder/contract/exchange';
import * as low from '@larder/contract/runningLow';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { watchAll } from '../alerts/service';
import { openBusiness, type Business } from '../../testing/business';
import { ordered, sold, stocked } from '../../testing/trade';

/** What runs low, is out or short: by how much, since when, narrowed down and as a file. */
let business: Business;
let hive: number;
beforeAll(async () => {
  business = await openBusiness();
  const { siteId, supplierId } = business;
  const levels = [{ siteId, reorderPoint: '8', orderUpTo: '24' }];
  hive = await business.item('RL-HIVE', { policies: levels, suppliers: [{ supplierId }] });
  await stocked(business, hive, '13');
  await sold(business, hive, '7');
  await ordered(business, hive, '1');
  await business.item('RL-NONE', { policies: levels });
  const plenty = await business.item('RL-WELL', { policies: levels });
  await stocked(business, plenty, '30');
  await sold(business, await business.item('RL-SHORT'), '4');
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});
const list = async (query: low.LowFilter & { sort?: (typeof low.lowSorts)[number]; direction?: 'up' | 'down' } = {}) =>
  (await business.owner.get(low.listLow, { query: query as never })).rows;
const skus = async (query: low.LowFilter = {}) => (await list(query)).map(({ sku }) => sku);

test('what is at or below its point, out or short, with what it takes', async () => {
  // 6 free and 1 on order are 7, one below the point of 8 and 17 below the level of 24.
  expect((await list()).map(({ sku, state, position, below, toLevel }) => [sku, state, position, below, toLevel])).toEqual([
    ['RL-HIVE', 'low', '7', '1', '17'],
    ['RL-NONE', 'out', '0', '8', '24'],
    ['RL-SHORT', 'short', '-4', '0', '0'],
  ]);
  expect([await skus({ state: 'low' }), await skus({ state: 'out' }), await skus({ state: 'short' })]).toEqual([
    ['RL-HIVE', 'RL-NONE'],
    ['RL-NONE'],
    ['RL-SHORT'],
  ]);
  expect(await business.owner.get(low.lowInAll, { query: {} })).toEqual({ count: 3 });
});

test('narrowed down by site, supplier, range, words and category; sorted by what one asks', async () => {
  const { siteId, otherSiteId, supplierId, owner } = business;
  expect([await skus({ siteId }), await skus({ siteId: otherSiteId })]).toEqual([['RL-HIVE', 'RL-NONE', 'RL-SHORT'], []]);
  expect([await skus({ supplierId }), await skus({ fromSku: 'RL-N' }), await skus({ q: 'short' })]).toEqual([
    ['RL-HIVE'],
    ['RL-NONE', 'RL-SHORT'],
    ['RL-SHORT'],
  ]);
  const { id } = await owner.get(setup.createCategory, { body: { name: 'Hives' } });
  expect(await skus({ categoryId: id })).toEqual([]);
  expect((await list({ sort: 'toLevel', direction: 'down' })).map(({ sku }) => sku)).toEqual(['RL-NONE', 'RL-HIVE', 'RL-SHORT']);
});

test('since when is known once somebody has looked, and stays', async () => {
  expect((await list())[0]?.since).toBeNull();
  const watching = (now: string) => ({ pool: business.pool, now: new Date(now), address: '' });
  await watchAll(watching('2026-03-10T11:00:00Z'));
  await watchAll(watching('2026-03-12T11:00:00Z'));
  expect((await list()).map(({ since }) => since)).toEqual(['2026-03-10T11:00:00.000Z', '2026-03-10T11:00:00.000Z', null]);
});

test('what is not sold from counts only where that is asked', async () => {
  const { siteId, owner } = business;
  const { rows } = await owner.get(setup.createBins, { body: { siteId, codes: ['QUAR-1'], sellable: false } });
  const lines = [{ itemId: hive, binId: rows[0]?.id as number, quantity: '3', unitValue: '2.00' }];
  await owner.get(stock.openStock, { body: { lines } as never });
  expect([await skus({ state: 'low' }), await skus({ state: 'low', counts: 'everything' })]).toEqual([['RL-HIVE', 'RL-NONE'], ['RL-NONE']]);
});

test('as a file it has the chosen fields of what is shown; the choice is kept', async () => {
  const body = { fields: 'sku,state,toLevel', format: 'csv' as const, low: { state: 'low' as const } };
  const file = await business.owner.get(exchange.exportFile, { params: { list: 'low' }, body });
  expect(String(file).replace('\ufeff', '').trim().split(/\r?\n/)).toEqual(['SKU,State,To the level', 'RL-HIVE,low,17', 'RL-NONE,out,24']);
  expect((await business.owner.get(exchange.exportFields, { params: { list: 'low' } })).chosen).toEqual(['sku', 'state', 'toLevel']);
});
