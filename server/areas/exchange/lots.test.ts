import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as attributes from '@larder/contract/attributes';
import * as bills from '@larder/contract/bills';
import * as receiving from '@larder/contract/receiving';
import * as lots from '@larder/contract/lots';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { cellsOf, filesOf } from '../../testing/files';
import { ordered, sold, stocked } from '../../testing/trade';

let business: Business;
let inspection: number;
const { check, rowsOf, run, bringIn, exported, refused } = filesOf(() => business);

/** Three extractors by serial, fondant of two lots: one to be used by May. */
beforeAll(async () => {
  business = await openBusiness();
  const { owner, bins } = business;
  const serial = await business.item('EX-9', { name: 'Extractor', tracking: 'serial' });
  const lot = await business.item('FD-1', { name: 'Fondant', tracking: 'lot' });
  const serials = ['LX-1', 'LX-2', 'LX-3'].map((code) => ({ code }));
  const lots = [
    { code: 'F-MAY', useBy: '2026-05-01', quantity: '4' },
    { code: 'F-JUL', useBy: '2026-07-01', quantity: '6' },
  ];
  await owner.get(stock.openStock, { body: { lines: [{ itemId: serial, binId: bins[0] as number, quantity: '3', unitValue: '600', lots: serials }] } });
  await owner.get(stock.openStock, { body: { lines: [{ itemId: lot, binId: bins[1] as number, quantity: '10', unitValue: '4', lots }] } });
  const added = await owner.get(attributes.createAttribute, {
    body: { name: 'Next inspection', subject: 'unit', kind: 'date', reminderDays: -14 },
  });
  inspection = added.id;
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const list = async (query: Record<string, unknown>) => (await business.owner.get(lots.listLots, { query })).rows;
const own = () => `attribute ${inspection}`;

describe('the list of lots and serial units', () => {
  test('says how much of each is here and where, found by code, item and tag', async () => {
    expect((await list({})).map(({ code, quantity, where }) => [code, quantity, where])).toEqual([
      ['F-JUL', '6', 'Barn store A-2'],
      ['F-MAY', '4', 'Barn store A-2'],
      ['LX-1', '1', 'Barn store A-1'],
      ['LX-2', '1', 'Barn store A-1'],
      ['LX-3', '1', 'Barn store A-1'],
    ]);
    expect((await list({ q: 'extractor lx-2' })).map(({ code }) => code)).toEqual(['LX-2']);
    expect((await list({ kind: 'lot', sort: 'useBy' })).map(({ code }) => code)).toEqual(['F-MAY', 'F-JUL']);
    expect(await list({ siteId: business.otherSiteId })).toEqual([]);
  });

  test('pages follow each other, either way round', async () => {
    const page = async (cursor?: string) => business.owner.get(lots.listLots, { query: { limit: 2, sort: 'code', direction: 'down', cursor } });
    const first = await page();
    const second = await page(first.next ?? '');
    const third = await page(second.next ?? '');
    expect([first, second, third].flatMap(({ rows }) => rows.map(({ code }) => code))).toEqual(['LX-3', 'LX-2', 'LX-1', 'F-MAY', 'F-JUL']);
    expect(third.next).toBeNull();
  });

  test('what has gone is found as gone', async () => {
    const { rows } = await business.pool.query<{ id: number; item: number }>(`SELECT id, item_id AS item FROM lot WHERE code = 'LX-3'`);
    const lines = [{ itemId: rows[0]?.item as number, binId: business.bins[0] as number, lotId: rows[0]?.id, quantity: '-1' }];
    const lost = await business.owner.get(stock.correct, { body: { way: 'plus-or-minus', reasonId: business.reasonId, lines } });
    expect((await list({ state: 'gone' })).map(({ code }) => code)).toEqual(['LX-3']);
    await business.owner.get(stock.undo, { body: { movementId: lost.movementId as number } });
    expect(await list({ state: 'gone' })).toEqual([]);
  });
});

describe('facts of units from a file', () => {
  const fields = () => ['sku', 'code', 'tag', 'condition', 'boughtOn', 'warrantyUntil', own()];

  test('a dry run tells what is wrong with each row; the refused are a file with the attribute by its name', async () => {
    const found = await check(
      'lots',
      [...fields(), 'useBy'],
      ['EX-9', 'LX-1', 'T-1', 'good', '2024-03-01', '2027-03-01', '2026-04-20', ''],
      ['EX-9', 'LX-9', '', '', '', '', '', ''],
      ['EX-9', 'LX-2', 'T-1', '', '', '', '', ''],
      ['EX-9', 'LX-3', '', '', '', '', 'soon', '2026-09-01'],
      ['FD-1', 'F-MAY', 'T-5', '', '', '', '', '2026-05-01'],
      ['NO-SUCH', 'X', '', '', '', '', '', ''],
    );
    expect(found.counts).toEqual({ new: 0, changed: 1, same: 0, refused: 5 });
    expect((await rowsOf(found.id)).map(({ reasons }) => reasons)).toEqual([
      [],
      ['EX-9 has no lot or serial “LX-9”. It comes in with a receipt or as opening stock.'],
      ['T-1 is on another row already.'],
      ['A serial has no use-by day.', 'Next inspection is a day.'],
      ['A lot has no tag, condition, purchase or warranty of its own.'],
      ['There is no item “NO-SUCH”.'],
    ]);
    expect((await refused(found.id))[0]).toEqual([
      'SKU',
      'Lot or serial',
      'Our tag',
      'Condition',
      'Bought on',
      'Warranty until',
      'Next inspection',
      'Use by',
      'Line',
      'Why',
    ]);
  });

  test('is written, is a column and a filter of the list, and comes back the same', async () => {
    expect(await bringIn('lots', fields(), ['EX-9', 'LX-1', 'T-1', 'good', '2024-03-01', '2027-03-01', '2026-04-20'])).toMatchObject({ state: 'done' });
    const [row] = await list({ attributeId: inspection, attributeValue: '2026-04-20' });
    expect(row).toMatchObject({ code: 'LX-1', tag: 'T-1', condition: 'good', warrantyUntil: '2027-03-01', attributes: { [inspection]: '2026-04-20' } });
    expect((await list({ q: 't-1' })).map(({ code }) => code)).toEqual(['LX-1']);
    const [headings, ...rows] = cellsOf(await exported('lots', fields().join(','), 'csv', '', { lots: { kind: 'serial', state: 'all' } }));
    expect(headings).toEqual(['SKU', 'Lot or serial', 'Our tag', 'Condition', 'Bought on', 'Warranty until', 'Next inspection']);
    expect(rows).toHaveLength(3);
    expect((await check('lots', fields(), ...rows)).counts).toEqual({ new: 0, changed: 0, same: 3, refused: 0 });
    const edited = rows.map((cells) => (cells[1] === 'LX-2' ? [...cells.slice(0, 3), 'dented', ...cells.slice(4)] : cells));
    const found = await check('lots', fields(), ...edited);
    expect(found.counts).toMatchObject({ changed: 1, same: 2 });
    await run(found.id);
    expect((await list({ q: 'lx-2' }))[0]).toMatchObject({ condition: 'dented', tag: null });
  });

  test('tags change places within one file', async () => {
    await bringIn('lots', ['sku', 'code', 'tag'], ['EX-9', 'LX-2', 'T-2']);
    const taken = await check('lots', ['sku', 'code', 'tag'], ['EX-9', 'LX-3', 'T-2']);
    expect((await rowsOf(taken.id))[0]?.reasons).toEqual(['T-2 is the tag of another unit already.']);
  });

  test('a use-by day that has passed takes the lot off what is on hand', async () => {
    await bringIn('lots', ['sku', 'code', 'useBy'], ['FD-1', 'F-MAY', '2026-03-01']);
    expect((await list({ state: 'past' })).map(({ code }) => code)).toEqual(['F-MAY']);
    const { rows } = await business.pool.query<{ onHand: string }>(
      `SELECT on_hand AS "onHand" FROM pool p JOIN item i ON i.id = p.item_id WHERE i.sku = 'FD-1'`,
    );
    expect(rows[0]?.onHand).toBe('6.0000');
  });
});

describe('lists go out as they are narrowed on screen', () => {
  test('bills to be paid, and all of them', async () => {
    const itemId = await business.item('B-1');
    const { order } = await stocked(business, itemId, '3', '2.00');
    const lines = [{ kind: 'goods' as const, purchaseLineId: order.lineId, quantity: '3', price: '2.00' }];
    const { id } = await business.owner.get(bills.createBill, {
      body: { partyId: business.supplierId, reference: '=R-77', billedOn: '2026-03-10', lines },
    });
    const fields = 'number,party,reference,billedOn,total,open';
    const open = cellsOf(await exported('bills', fields, 'csv', '', { show: 'open' }));
    expect(open[1]?.slice(1)).toEqual(['Hexley Joinery', "'=R-77", '2026-03-10', '6.00', '6.00']);
    await business.owner.get(bills.pay, { params: { id: id as number }, body: { paidOn: '2026-03-10', amount: '6.00' } });
    expect(cellsOf(await exported('bills', fields, 'csv', '', { show: 'open' }))).toHaveLength(1);
    expect(cellsOf(await exported('bills', fields, 'csv', 'r-77', { show: 'all' }))[1]?.at(-1)).toBe('0.00');
    const found = await business.owner.get(bills.listBills, { query: { q: '10/3 6.00', show: 'all' } });
    expect(found.rows.map((row) => row.id)).toEqual([id]);
  });

  test('stock that is out, orders that are open', async () => {
    await business.item('NONE-1');
    const out = cellsOf(await exported('stock', 'sku,onHand', 'csv', '', { stock: { state: 'out' } })).slice(1);
    expect(out.map(([sku]) => sku)).not.toContain('B-1');
    const order = await ordered(business, await business.item('PO-A'), '4');
    const openOrders = cellsOf(await exported('purchases', 'number,sku', 'csv', '', { show: 'open' })).slice(1);
    expect(openOrders).toEqual([[order.number, 'PO-A']]);
    await business.owner.get(receiving.receive, { body: { lines: [{ lineId: order.lineId, quantity: '4', binId: business.bins[0] as number }] } });
    expect(cellsOf(await exported('purchases', 'number,sku', 'csv', '', { show: 'open' }))).toHaveLength(1);
    const sale = await sold(business, order.lines[0]?.itemId as number, '2');
    expect(cellsOf(await exported('sales', 'number', 'csv', '', { show: 'open' })).slice(1)).toEqual([[sale.number]]);
    expect(cellsOf(await exported('sales', 'number', 'csv', '', { show: 'quotes' }))).toHaveLength(1);
  });
});
