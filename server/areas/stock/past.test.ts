import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as exchange from '@larder/contract/exchange';
import * as setup from '@larder/contract/setup';
import * as shipping from '@larder/contract/shipping';
import * as picking from '@larder/contract/picking';
import * as stock from '@larder/contract/stock';
import * as transfers from '@larder/contract/transfers';
import { addDays } from '@larder/core/day';
import { closeMonths } from '../../ledger/months';
import { openBusiness, type Business } from '../../testing/business';
import { deskOf, type Desk } from '../../testing/desk';
import { cents, quotient } from '../../testing/fraction';
import { pickBody, sold } from '../../testing/trade';

/** How things stood at the end of a day, against a reckoning from the lines alone. */
let business: Business;
let desk: Desk;
let harbourBin: number;
let coldBin: number;
beforeAll(async () => {
  business = await openBusiness();
  desk = deskOf(business);
  const { rows } = await business.owner.get(setup.createBins, { body: { siteId: business.otherSiteId, codes: ['H-1'] } });
  harbourBin = rows[0]?.id as number;
  const cold = await business.owner.get(setup.createBins, { body: { siteId: business.siteId, codes: ['Q-1'], sellable: false, zone: 'Cold room' } });
  coldBin = cold.rows[0]?.id as number;
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const bin = (index: number) => business.bins[index] as number;
const open = (
  itemId: number,
  quantity: string,
  unitValue: string,
  effectiveOn: string,
  more: { binId?: number; lots?: { code: string; quantity: string; useBy?: string }[] } = {},
) => business.owner.get(stock.openStock, { body: { effectiveOn, lines: [{ itemId, binId: bin(0), quantity, unitValue, ...more }] } });
const row = async (asOf: string, q: string, siteId?: number) => (await business.owner.get(stock.pastStock, { query: { asOf, q, siteId } })).rows[0];

interface Line {
  day: string;
  item: number;
  lot: number | null;
  quantity: number;
  cents: number;
  from: number | null;
  to: number | null;
}
/** What is written in the ledger, in ten-thousandths and whole cents; a place that is not ours is none. */
async function ledger(): Promise<Line[]> {
  const { rows } = await business.pool.query<Line>(`
    SELECT l.effective_on::text AS day, l.item_id AS item, l.lot_id AS lot, (l.quantity * 10000)::int AS quantity, (l.value * 100)::int AS cents,
      CASE WHEN f.owned THEN f.site_id END AS from, CASE WHEN t.owned THEN t.site_id END AS to
    FROM movement_line l JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id
    UNION ALL SELECT effective_on::text, item_id, NULL, 0, (amount * 100)::int, NULL, NULL FROM cost_change`);
  return rows;
}
/** How many of an item each site had, and what all were worth, from the lines alone. */
function reckoned(lines: readonly Line[], item: number, day: string) {
  const held = new Map<number, number>();
  let worth = 0;
  for (const line of lines.filter((one) => one.item === item && one.day <= day)) {
    worth += line.cents;
    if (line.from !== null) held.set(line.from, (held.get(line.from) ?? 0) - line.quantity);
    if (line.to !== null) held.set(line.to, (held.get(line.to) ?? 0) + line.quantity);
  }
  return { held, worth, all: [...held.values()].reduce((sum, one) => sum + one, 0) };
}
const tenThousandths = (text: string | undefined) => Math.round(Number(text ?? '0') * 10000);
const inCents = (text: string | undefined) => Math.round(Number(text ?? '0') * 100);

test('a day is as it was, whatever came after; a posting that is dated back is in it, also when the month was kept before', async () => {
  const itemId = await business.item('PAST-1', { purchasePrice: '3.00' });
  await open(itemId, '10', '3.00', '2025-12-20');
  await desk.correct(itemId, '-4', { effectiveOn: '2026-01-15' });
  expect([await row('2025-12-19', 'past-1'), await row('2025-12-20', 'past-1'), await row('2026-01-31', 'past-1')]).toMatchObject([
    { onHand: '0', value: '0.00', unitCost: '0' },
    { onHand: '10', value: '30.00', unitCost: '3' },
    { onHand: '6', value: '18.00' },
  ]);
  const kept = await closeMonths(business.pool, business.clock.now);
  expect(kept).toEqual(['2025-12-31', '2026-01-31', '2026-02-28']);
  expect(await closeMonths(business.pool, business.clock.now)).toEqual([]);
  await open(itemId, '2', '4.50', '2025-12-24');
  expect([await row('2025-12-23', 'past-1'), await row('2025-12-31', 'past-1'), await row('2026-02-10', 'past-1')]).toMatchObject([
    { onHand: '10', value: '30.00' },
    { onHand: '12', value: '39.00' },
    { onHand: '8' },
  ]);
  expect(await business.broken()).toEqual([]);
});

test('today is what the stock table says, in every figure, at every site and over all', async () => {
  const asOf = '2026-03-10';
  const lotted = await business.item('PAST-2', { tracking: 'lot' });
  await open(lotted, '5', '1.25', '2026-02-01', {
    lots: [
      { code: 'OLD', quantity: '2', useBy: '2026-03-01' },
      { code: 'NEW', quantity: '3', useBy: '2027-03-01' },
    ],
  });
  await business.pool.query(`UPDATE lot SET past_use = true WHERE code = 'OLD'`);
  for (const siteId of [undefined, business.siteId, business.otherSiteId]) {
    const now = await business.owner.get(stock.stockTable, { query: { siteId } });
    const then = await business.owner.get(stock.pastStock, { query: { siteId, asOf } });
    const figures = ({ sku, onHand, inTransit, quarantine, onLoan, value }: (typeof then.rows)[number] | (typeof now.rows)[number]) => [
      sku,
      onHand,
      inTransit,
      quarantine,
      onLoan,
      Number(value),
    ];
    if (siteId === undefined) expect(then.rows.map(figures)).toEqual(now.rows.map(figures));
    else expect(then.rows.filter(({ value }) => Number(value) !== 0).map(figures)).toEqual(now.rows.map(figures));
  }
  expect(await row('2026-02-28', 'past-2')).toMatchObject({ onHand: '5', quarantine: '0' });
  expect(await row('2026-03-02', 'past-2')).toMatchObject({ onHand: '3', quarantine: '2' });
});

test('an item and a bin stand as they stood, with their lots', async () => {
  const itemId = await business.item('PAST-3', { tracking: 'lot' });
  await open(itemId, '4', '2.00', '2026-02-01', { lots: [{ code: 'L-9', quantity: '4', useBy: '2027-01-01' }] });
  await open(itemId, '1', '2.00', '2026-02-03', { binId: coldBin, lots: [{ code: 'L-8', quantity: '1' }] });
  const before = await business.owner.get(stock.pastItem, { params: { id: itemId }, query: { asOf: '2026-02-02' } });
  expect(before).toMatchObject({ value: '8.00', unitCost: '2', sites: [{ siteId: business.siteId, onHand: '4', quarantine: '0', value: '8.00' }] });
  expect(before.sites[0]?.bins).toMatchObject([{ bin: 'A-1', quantity: '4', sellable: true, lots: [{ code: 'L-9', quantity: '4', pastUse: false }] }]);
  const after = await business.owner.get(stock.pastItem, { params: { id: itemId }, query: { asOf: '2026-02-03' } });
  expect(after.sites[0]).toMatchObject({ onHand: '4', quarantine: '1', value: '10.00' });
  expect((await business.owner.get(stock.binContents, { params: { id: coldBin }, query: { asOf: '2026-02-02' } })).rows).toEqual([]);
  expect((await business.owner.get(stock.binContents, { params: { id: coldBin }, query: { asOf: '2026-02-03' } })).rows).toMatchObject([
    { sku: 'PAST-3', lot: 'L-8', quantity: '1' },
  ]);
  const zone = async (asOf: string) => (await business.owner.get(stock.pastStock, { query: { asOf, zone: 'Cold room' } })).rows.map(({ sku }) => sku);
  expect([await zone('2026-02-02'), await zone('2026-02-03')]).toEqual([[], ['PAST-3']]);
});

test('a day to come is refused by its field, and so is what is no day', async () => {
  const itemId = await business.item('PAST-4');
  for (const asked of [
    await business.owner.ask(stock.pastStock, { query: { asOf: '2026-03-11' } }),
    await business.owner.ask(stock.pastInAll, { query: { asOf: '2026-03-11' } }),
    await business.owner.ask(stock.pastItem, { params: { id: itemId }, query: { asOf: '2026-03-11' } }),
    await business.owner.ask(stock.binContents, { params: { id: coldBin }, query: { asOf: '2026-03-11' } }),
  ]) {
    expect(asked.status).toBe(422);
    expect(asked.problem.errors).toEqual([{ field: 'asOf', sentence: 'Give today or a day before it.' }]);
  }
  expect((await business.owner.ask(stock.pastStock, { query: { asOf: '2026-02-30' } })).status).toBe(422);
});

test('where each unit keeps its own cost, a site is worth the very units that lay there', async () => {
  const itemId = await business.item('PAST-5', { tracking: 'serial', costMethod: 'specific' });
  await open(itemId, '1', '100.00', '2026-02-01', { lots: [{ code: 'U-1', quantity: '1' }] });
  await open(itemId, '1', '250.00', '2026-02-01', { lots: [{ code: 'U-2', quantity: '1' }], binId: harbourBin });
  expect([
    await row('2026-02-10', 'past-5', business.siteId),
    await row('2026-02-10', 'past-5', business.otherSiteId),
    await row('2026-02-10', 'past-5'),
  ]).toMatchObject([
    { onHand: '1', value: '100.00' },
    { onHand: '1', value: '250.00' },
    { onHand: '2', value: '350.00' },
  ]);
});

test('it is sorted by any figure as a number, page by page', async () => {
  for (const [sku, quantity] of [
    ['SORT-1', '9'],
    ['SORT-2', '100'],
    ['SORT-3', '25'],
  ] as const)
    await open(await business.item(sku), quantity, '1.10', '2026-02-01');
  for (const sort of stock.pastSorts)
    for (const direction of ['up', 'down'] as const) {
      const query = { asOf: '2026-02-02', q: 'sort-', sort, direction, limit: 2 };
      const first = await business.owner.get(stock.pastStock, { query });
      const rest = await business.owner.get(stock.pastStock, { query: { ...query, cursor: first.next ?? undefined } });
      const skus = [...first.rows, ...rest.rows].map(({ sku }) => sku.slice(-1)).join('');
      const byFigure = ['onHand', 'value'].includes(sort) ? '132' : '123';
      expect([sort, direction, skus]).toEqual([sort, direction, direction === 'up' ? byFigure : [...byFigure].reverse().join('')]);
    }
});

test('the table is narrowed and taken out as a file as it stood', async () => {
  await business.item('PAST-6A', { purchasePrice: '1.00' });
  const itemId = await business.item('PAST-6B', { purchasePrice: '1.00' });
  await open(itemId, '7', '1.00', '2026-02-01');
  const skus = async (query: object) => (await business.owner.get(stock.pastStock, { query: { asOf: '2026-02-02', ...query } })).rows.map(({ sku }) => sku);
  expect(await skus({ fromSku: 'past-6', toSku: 'PAST-6' })).toEqual(['PAST-6A', 'PAST-6B']);
  expect(await skus({ fromSku: 'past-6b', q: 'past-' })).toEqual(['PAST-6B']);
  expect(await skus({ toSku: 'past-6', fromSku: 'past-6', state: 'in-stock' })).toEqual(['PAST-6B']);
  const file = await business.owner.ask(exchange.exportFile, {
    params: { list: 'past' },
    body: { fields: 'sku,site,asOf,onHand,value', q: 'past-6', past: { asOf: '2026-02-02' } },
  });
  expect(String(file.data).trim().split('\r\n')).toEqual(['SKU,Site,As of,On hand,Value', 'PAST-6B,Barn store,2026-02-02,7,7.00']);
});

describe('months of openings, corrections, sales, transfers and bills, dated forth and back', () => {
  test('any day is what the lines say, with months kept at any moment', async () => {
    const items = [await business.item('WALK-1'), await business.item('WALK-2', { costMethod: 'fifo' }), await business.item('WALK-3')];
    let seed = 20260310;
    const dice = (n: number) => {
      seed = (seed * 1103515245 + 12345) % 2147483648;
      return Math.floor((seed / 2147483648) * n);
    };
    business.clock.now = new Date('2026-01-05T10:00:00Z');
    const posted: number[] = [];
    for (let turn = 0; turn < 70; turn += 1) {
      const item = items[dice(items.length)] as number;
      const today = business.clock.now.toISOString().slice(0, 10);
      const effectiveOn = addDays(today, -dice(3) * dice(25));
      const what = dice(7);
      if (what <= 1) {
        const made = await business.owner.ask(stock.openStock, {
          body: {
            effectiveOn,
            lines: [{ itemId: item, binId: dice(4) === 0 ? harbourBin : bin(dice(2)), quantity: String(3 + dice(9)), unitValue: `${1 + dice(4)}.${dice(9)}7` }],
          },
        });
        if (made.status === 200) posted.push(made.data.movementId as number);
      } else if (what === 2) {
        const made = await desk.correct(item, dice(2) === 0 ? '-2' : '1', { effectiveOn, countedSince: true });
        if (made.status === 200 && made.data.movementId !== null) posted.push(made.data.movementId);
      } else if (what === 3) {
        const order = await sold(business, item, '2', addDays(today, 1));
        const picked = await business.owner.ask(picking.pick, { body: pickBody(business, order, '2') });
        if (picked.status === 200)
          await business.owner.ask(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '2' }] } });
      } else if (what === 4) {
        const { lineId } = await desk.order([{ itemId: item, quantity: '4', price: '2.35' }]);
        posted.push(await desk.receive([{ lineId, quantity: '4' }]));
        await desk.billed(lineId, '4', '2.90', { billedOn: today });
      } else if (what === 5) {
        const made = await business.owner.ask(transfers.createTransfer, {
          body: { fromSiteId: business.siteId, toSiteId: business.otherSiteId, sendBy: today, lines: [{ itemId: item, quantity: '1' }] },
        });
        if (made.status === 200) {
          const { id, lines } = await business.owner.get(transfers.getTransfer, { params: { id: made.data.id as number } });
          await business.owner.ask(transfers.sendTransfer, {
            params: { id },
            body: { lines: [{ lineId: lines[0]?.id as number, binId: bin(0), quantity: '1' }] },
          });
        }
      } else {
        const last = posted.pop();
        if (last !== undefined) await desk.undo(last, { countedSince: true });
      }
      if (dice(6) === 0) await closeMonths(business.pool, business.clock.now);
      business.clock.now = new Date(business.clock.now.getTime() + 86_400_000);
    }
    const lines = await ledger();
    const today = business.clock.now.toISOString().slice(0, 10);
    let compared = 0;
    for (let day = '2025-12-28'; day < today; day = addDays(day, 5)) {
      for (const siteId of [undefined, business.siteId, business.otherSiteId]) {
        const { rows } = await business.owner.get(stock.pastStock, { query: { asOf: day, q: 'walk', siteId } });
        for (const [at, item] of items.entries()) {
          const { held, worth, all } = reckoned(lines, item, day);
          const found = rows[at];
          const here = siteId === undefined ? all : (held.get(siteId) ?? 0);
          expect([day, siteId, tenThousandths(found?.onHand) + tenThousandths(found?.bench) + tenThousandths(found?.inTransit)]).toEqual([day, siteId, here]);
          expect([day, siteId, inCents(found?.value)]).toEqual([day, siteId, siteId === undefined ? worth : cents(quotient(worth * here, all))]);
          compared += here > 0 ? 1 : 0;
        }
      }
    }
    expect(compared).toBeGreaterThan(60);
    expect(await business.broken()).toEqual([]);
  }, 120_000);
});
