import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as books from '@larder/contract/books';
import * as corrections from '@larder/contract/corrections';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { deskOf, type Desk } from '../../testing/desk';

/** Corrections added up: what stands, by why, what, who, where and when, and what it came to in the books. */
let business: Business;
let desk: Desk;
let items: number[];
let reasons: { id: number; name: string }[];
beforeAll(async () => {
  business = await openBusiness();
  desk = deskOf(business);
  reasons = (await business.owner.get(setup.reference)).reasons;
  items = [await business.item('COR-1'), await business.item('COR-2')];
  const binId = business.bins[0] as number;
  for (const [at, itemId] of items.entries())
    await business.owner.get(stock.openStock, {
      body: { effectiveOn: '2026-01-02', lines: [{ itemId, binId, quantity: '20', unitValue: at === 0 ? '1.50' : '4.00' }] },
    });
  const by = (at: number) => ({ reasonId: reasons[at]?.id as number });
  await desk.correct(items[0] as number, '-3', { ...by(0), effectiveOn: '2026-02-10' });
  await desk.correct(items[1] as number, '2', { ...by(0), effectiveOn: '2026-03-03' });
  await desk.correct(items[1] as number, '-1', { ...by(1), effectiveOn: '2026-03-04' });
  const undone = await desk.correct(items[1] as number, '-5', { ...by(1), effectiveOn: '2026-03-05' });
  await desk.undo(undone.data.movementId as number);
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const rows = async (query: object) => (await business.owner.get(corrections.correctionReport, { query })).rows;

test('are added up by reason, with what was found and lost; what was undone is not among them', async () => {
  const told = (await rows({ by: 'reason', sort: 'net' })).map(({ name, lines, found, lost, net, more }) => [name, lines, found, lost, net, more]);
  expect(told.sort()).toEqual(
    [
      [reasons[0]?.name, 2, '8.00', '-4.50', '3.50', ''],
      [reasons[1]?.name, 1, '0.00', '-4.00', '-4.00', ''],
    ].sort(),
  );
  const inAll = await business.owner.get(corrections.correctionsInAll, { query: {} });
  expect(inAll).toEqual({ count: 2, lines: 3, found: '8.00', lost: '-8.50', net: '-0.50' });
});

test('by item they say how many more and fewer; by month, person and site each line is in one row', async () => {
  expect((await rows({ by: 'item' })).map(({ name, detail, more, fewer }) => [name, detail, more, fewer])).toEqual([
    ['COR-1', 'Item COR-1', '0', '3'],
    ['COR-2', 'Item COR-2', '2', '1'],
  ]);
  expect((await rows({ by: 'month' })).map(({ name, net }) => [name, net])).toEqual([
    ['2026-02', '-4.50'],
    ['2026-03', '4.00'],
  ]);
  expect((await rows({ by: 'person' })).map(({ name, lines }) => [name, lines])).toEqual([['Owner', 3]]);
  expect((await rows({ by: 'site' })).map(({ name, lines }) => [name, lines])).toEqual([['Barn store', 3]]);
});

test('they are held to days, a reason, a site and words', async () => {
  expect((await rows({ from: '2026-03-01', to: '2026-03-03' })).map(({ net }) => net)).toEqual(['8.00']);
  expect((await rows({ by: 'item', reasonId: reasons[1]?.id })).map(({ name }) => name)).toEqual(['COR-2']);
  expect(await rows({ siteId: business.otherSiteId })).toEqual([]);
  expect((await rows({ by: 'item', q: 'cor-1' })).map(({ name }) => name)).toEqual(['COR-1']);
});

test('what they come to is what stands on the accounts of the reasons', async () => {
  const { rows: accounts } = await business.owner.get(books.listAccounts);
  const inventory = accounts.filter(({ type }) => type === 'inventory').reduce((sum, { balance }) => sum + Math.round(Number(balance) * 100), 0);
  const opening = accounts.filter(({ purpose }) => purpose === 'opening').reduce((sum, { balance }) => sum + Math.round(Number(balance) * 100), 0);
  const { net } = await business.owner.get(corrections.correctionsInAll, { query: {} });
  expect(inventory + opening).toBe(Math.round(Number(net) * 100));
});

test('who may not see cost is told how many, and cannot sort by what they were worth', async () => {
  const floor = await business.as('Floor');
  expect((await floor.get(corrections.correctionReport, { query: {} })).rows.map(({ lines, net }) => [lines, net])).toEqual(
    expect.arrayContaining([
      [1, ''],
      [2, ''],
    ]),
  );
  expect((await floor.ask(corrections.correctionReport, { query: { sort: 'net' } })).status).toBe(403);
});
