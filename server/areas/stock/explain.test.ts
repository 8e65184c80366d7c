import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { Explained } from '@larder/contract/explain';
import * as explain from '@larder/contract/explain';
import * as picking from '@larder/contract/picking';
import * as stock from '@larder/contract/stock';
import * as transfers from '@larder/contract/transfers';
import { openBusiness, type Business } from '../../testing/business';
import { deskOf, type Desk } from '../../testing/desk';
import { ordered, pickBody, sold, stocked } from '../../testing/trade';

/** The few lines of arithmetic behind each figure: they come to it, and lead to the documents that made it. */
let business: Business;
let desk: Desk;
beforeAll(async () => {
  business = await openBusiness();
  desk = deskOf(business);
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const told = (itemId: number, siteId?: number) => business.owner.get(explain.explained, { params: { id: itemId }, query: { siteId } });
const parts = (of: Explained, figure: string) =>
  [...of.quantities, ...of.costs]
    .find((one) => one.figure === figure)
    ?.parts.map(({ what, document, by, amount }) => [by, amount, what, document?.number ?? '']);

/** What the lines of a figure come to, reckoned one after the other in whole numbers of a hundred-thousandth. */
function comesTo({ parts: lines }: { parts: { by: string; amount: string }[] }): number {
  return lines.reduce((sum, { by, amount }) => (by === 'times' ? sum * Number(amount) : by === 'over' ? sum / Number(amount) : sum + Number(amount)), 0);
}

test('each figure comes to what it says, and names the documents', async () => {
  const itemId = await business.item('EXP-1');
  const { order } = await stocked(business, itemId, '30', '7.00');
  await desk.billed(order.lineId, '30', '7.40');
  const sale = await sold(business, itemId, '8');
  await business.owner.get(picking.pick, { body: pickBody(business, sale, '3') });
  const short = await sold(business, itemId, '40');
  const coming = await ordered(business, itemId, '12');
  const all = await told(itemId);
  expect(parts(all, 'onHand')).toEqual([
    ['plus', '30', 'receipt', order.number],
    ['plus', '-3', 'pick', sale.number],
  ]);
  expect(parts(all, 'reserved')).toEqual([
    ['plus', '5', 'reserved for', sale.number],
    ['plus', '22', 'reserved for', short.number],
  ]);
  expect(parts(all, 'free')).toEqual([
    ['plus', '27', 'On hand', ''],
    ['plus', '-27', 'Reserved', ''],
  ]);
  expect(parts(all, 'short')).toEqual([['plus', '18', 'short for', short.number]]);
  expect(parts(all, 'onOrder')).toEqual([['plus', '12', 'still to come', coming.number]]);
  expect(parts(all, 'value')?.map(([, amount, what]) => [amount, what])).toEqual([
    ['210.00', 'receipt'],
    ['12.00', expect.stringContaining('bill')],
  ]);
  const bill = all.costs.find(({ figure }) => figure === 'value')?.parts.at(-1)?.document;
  expect(bill).toMatchObject({ kind: 'bill', number: expect.stringMatching(/\d/) });
  expect(parts(all, 'unitCost')).toEqual([
    ['plus', '222.00', 'Worth of all that is ours', ''],
    ['over', '30', 'How many are ours', ''],
  ]);
  for (const one of [...all.quantities, ...all.costs]) expect([one.figure, comesTo(one).toFixed(4)]).toEqual([one.figure, Number(one.total).toFixed(4)]);
});

test('a site’s worth is its part of the whole; what is in transit names the transfer', async () => {
  const itemId = await business.item('EXP-2');
  await stocked(business, itemId, '3', '3.33');
  const made = await business.owner.get(transfers.createTransfer, {
    body: { fromSiteId: business.siteId, toSiteId: business.otherSiteId, sendBy: '2026-03-11', lines: [{ itemId, quantity: '1' }] },
  });
  const { id, number, lines } = await business.owner.get(transfers.getTransfer, { params: { id: made.id as number } });
  await business.owner.get(transfers.sendTransfer, {
    params: { id },
    body: { lines: [{ lineId: lines[0]?.id as number, binId: business.bins[0] as number, quantity: '1' }] },
  });
  const there = await told(itemId, business.otherSiteId);
  expect(parts(there, 'inTransit')).toEqual([['plus', '1', 'in transit', number]]);
  expect(parts(there, 'onHand')).toEqual([['plus', '0', 'Never any', '']]);
  expect(parts(there, 'value')).toEqual([
    ['plus', '9.99', 'Worth of all that is ours', ''],
    ['times', '1', 'Of them at Harbour shop', ''],
    ['over', '3', 'How many are ours', ''],
  ]);
  expect(there.costs.find(({ figure }) => figure === 'value')?.total).toBe('3.33');
});

test('many changes are the last ones and all before; a lot past its day is taken off', async () => {
  const itemId = await business.item('EXP-3', { tracking: 'lot' });
  const binId = business.bins[0] as number;
  await business.owner.get(stock.openStock, {
    body: {
      lines: [
        {
          itemId,
          binId,
          quantity: '20',
          unitValue: '1.00',
          lots: [
            { code: 'E-1', quantity: '15', useBy: '2027-01-01' },
            { code: 'E-2', quantity: '5', useBy: '2026-03-09' },
          ],
        },
      ],
    },
  });
  const [lot] = (await business.pool.query<{ id: number }>(`SELECT id FROM lot WHERE code = 'E-1'`)).rows;
  for (let n = 0; n < 8; n += 1) await desk.correct(itemId, '-1', {}, lot?.id);
  await business.pool.query(`UPDATE lot SET past_use = true WHERE code = 'E-2' AND NOT past_use`);
  const all = await told(itemId);
  expect(parts(all, 'onHand')?.map(([, amount, what]) => [amount, what])).toEqual([
    ['18', 'All before'],
    ...Array.from({ length: 6 }, () => ['-1', 'correction']),
    ['-5', 'Past its use-by day'],
  ]);
  expect(all.quantities[0]?.total).toBe('7');
});

test('who may not see cost is told nothing of it; what is not kept in stock has nothing to explain', async () => {
  const itemId = await business.item('EXP-4');
  const floor = await business.as('Floor');
  expect((await floor.get(explain.explained, { params: { id: itemId } })).costs).toEqual([]);
  const service = await business.item('EXP-5', { kind: 'service' });
  expect((await business.owner.ask(explain.explained, { params: { id: service } })).status).toBe(404);
});
