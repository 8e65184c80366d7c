import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as receiving from '@larder/contract/receiving';
import * as lots from '@larder/contract/lots';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../testing/business';
import { ordered, sold } from '../testing/trade';
import { changeDay } from './pastUse';

let business: Business;
let itemId: number;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const today = '2026-03-10';
let count = 0;
/** Fondant of two lots: ten to be used by tomorrow, six by summer. */
beforeEach(async () => {
  business.clock.now = new Date(`${today}T10:00:00Z`);
  count += 1;
  itemId = await business.item(`FD-${count}`, { tracking: 'lot' });
  const order = await ordered(business, itemId, '16');
  const lots = [
    { code: 'EARLY', useBy: '2026-03-11', quantity: '10' },
    { code: 'LATE', useBy: '2026-08-01', quantity: '6' },
  ];
  await business.owner.get(receiving.receive, { body: { lines: [{ lineId: order.lineId, quantity: '16', binId: business.bins[0] as number, lots }] } });
});

const standing = async () => {
  const { sites } = await business.owner.get(stock.itemStock, { params: { id: itemId } });
  const { onHand, reserved, free, short } = sites.find(({ siteId }) => siteId === business.siteId) as (typeof sites)[number];
  return { onHand, reserved, free, short };
};
const lotId = async (code: string): Promise<number> => {
  const { rows } = await business.pool.query<{ id: number }>('SELECT id FROM lot WHERE item_id = $1 AND code = $2', [itemId, code]);
  return rows[0]?.id as number;
};
const onDay = (day: string) => (business.clock.now = new Date(`${day}T06:00:00Z`));

describe('a lot that passes its use-by day', () => {
  test('is on hand on its last day, and no longer on the next; doing it again finds nothing', async () => {
    expect(await standing()).toMatchObject({ onHand: '16', free: '16' });
    expect(await changeDay(business.pool, onDay('2026-03-11'))).toBe(0);
    expect(await changeDay(business.pool, onDay('2026-03-12'))).toBe(1);
    expect(await standing()).toMatchObject({ onHand: '6', free: '6' });
    expect(await changeDay(business.pool, business.clock.now)).toBe(0);
    const lot = await business.owner.get(lots.getLot, { params: { id: await lotId('EARLY') } });
    expect(lot).toMatchObject({ pastUse: true, places: [{ quantity: '10' }] });
  });

  test('lets go of what was promised of it, the last order to be served first', async () => {
    const first = await sold(business, itemId, '5', '2026-03-13');
    const second = await sold(business, itemId, '7', '2026-03-20');
    expect(await standing()).toMatchObject({ reserved: '12', short: '0' });
    await changeDay(business.pool, onDay('2026-03-12'));
    expect(await standing()).toMatchObject({ onHand: '6', reserved: '6', free: '0', short: '6' });
    const short = async (id: number) => (await business.owner.get(outbound.getSale, { params: { id } })).lines[0]?.short;
    expect([await short(first.id), await short(second.id)]).toEqual(['0', '6']);
    for (const { id } of [first, second]) {
      const { version } = await business.owner.get(outbound.getSale, { params: { id } });
      await business.owner.get(outbound.endSale, { params: { id }, body: { decision: 'cancel', version } });
    }
  });

  test('is not picked, whether it is flagged yet or not', async () => {
    const order = await sold(business, itemId, '4');
    onDay('2026-03-12');
    const early = await lotId('EARLY');
    const lines = [{ lineId: order.lineId, binId: business.bins[0] as number, lotId: early, quantity: '4' }];
    const refused = await business.owner.ask(picking.pick, { body: { orderId: order.id, lines } });
    expect(refused.problem).toMatchObject({
      status: 422,
      errors: [{ field: 'lines.0.lotId', sentence: 'Lot EARLY passed its use-by day on 2026-03-11; it is not sold any more.' }],
    });
    const { rows } = await business.owner.get(picking.pickList, { params: { id: order.id } });
    expect(rows.map(({ lot, take }) => [lot, take])).toEqual([['LATE', '4']]);
  });

  test('is on hand again when its day turns out to have been wrong, and serves who was short', async () => {
    const order = await sold(business, itemId, '9');
    await changeDay(business.pool, onDay('2026-03-12'));
    expect(await standing()).toMatchObject({ onHand: '6', short: '3' });
    const id = await lotId('EARLY');
    const { version } = await business.owner.get(lots.getLot, { params: { id } });
    const put = await business.owner.get(lots.editLot, { params: { id }, body: { version, useBy: '2026-05-01' } });
    expect(put.pastUse).toBe(false);
    expect(await standing()).toMatchObject({ onHand: '16', reserved: '9', short: '0' });
    const back = await business.owner.get(lots.editLot, { params: { id }, body: { version: put.version, useBy: '2026-03-11' } });
    expect(back.pastUse).toBe(true);
    expect(await standing()).toMatchObject({ onHand: '6', short: '3' });
    const { version: now } = await business.owner.get(outbound.getSale, { params: { id: order.id } });
    await business.owner.get(outbound.endSale, { params: { id: order.id }, body: { decision: 'cancel', version: now } });
  });

  test('changes nothing on hand when it is found, lost or put into quarantine, and its worth stays in the pool', async () => {
    await changeDay(business.pool, onDay('2026-03-12'));
    const lot = await lotId('EARLY');
    const loss = await business.owner.get(stock.correct, {
      body: {
        way: 'plus-or-minus',
        reasonId: business.reasonId,
        lines: [{ itemId, binId: business.bins[0] as number, lotId: lot, quantity: '-4' }],
      },
    });
    expect(loss.effects.rows.map(({ measure }) => measure)).not.toContain('on hand');
    expect(await standing()).toMatchObject({ onHand: '6' });
    const { rows } = await business.pool.query<{ quantity: string; value: string }>('SELECT quantity, value FROM pool WHERE item_id = $1', [itemId]);
    expect(rows[0]).toEqual({ quantity: '12.0000', value: '24.00' });
    await business.owner.get(stock.undo, { body: { movementId: loss.movementId as number } });
    expect(await standing()).toMatchObject({ onHand: '6' });
  });
});

test('goods taken in past their day are there, but not on hand and not for the bench', async () => {
  const sale = await sold(business, itemId, '18');
  expect(await standing()).toMatchObject({ reserved: '16', short: '2' });
  const order = await ordered(business, itemId, '5');
  const lines = [
    {
      lineId: order.lineId,
      quantity: '5',
      binId: business.bins[0] as number,
      toBench: true,
      lots: [
        { code: 'GONE', useBy: '2026-03-01', quantity: '4' },
        { code: 'FRESH', useBy: '2026-09-01', quantity: '1' },
      ],
    },
  ];
  const body = { pastUseBy: true, lines };
  const foreseen = await business.owner.ask(receiving.receive, { body }, { preview: true });
  const posted = await business.owner.get(receiving.receive, { body });
  expect(foreseen.data.effects).toEqual(posted.effects);
  const row = (wanted: string) => posted.effects.rows.find(({ measure }) => measure === wanted);
  expect([row('on hand'), row('on the bench')]).toMatchObject([undefined, { before: '0', after: '1' }]);
  const { lines: after } = await business.owner.get(outbound.getSale, { params: { id: sale.id } });
  expect(after[0]).toMatchObject({ picked: '1', reserved: '16', short: '1' });
  const gone = await business.owner.get(lots.getLot, { params: { id: await lotId('GONE') } });
  expect(gone).toMatchObject({ pastUse: true, places: [{ quantity: '4' }] });
});

test('two servers change the day at once: each lot is flagged once', async () => {
  onDay('2026-03-12');
  const { rows } = await business.pool.query<{ lots: string }>(`SELECT count(*) AS lots FROM lot WHERE use_by < '2026-03-12' AND NOT past_use`);
  const flagged = await Promise.all([1, 2, 3].map(() => changeDay(business.pool, business.clock.now)));
  expect(flagged.reduce((a, b) => a + b, 0)).toBe(Number(rows[0]?.lots));
  expect(await standing()).toMatchObject({ onHand: '6' });
});
