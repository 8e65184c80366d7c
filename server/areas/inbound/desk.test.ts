import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import * as inbound from '@larder/contract/inbound';
import * as receiving from '@larder/contract/receiving';
import * as outbound from '@larder/contract/outbound';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business, type Caller } from '../../testing/business';
import { ordered, sold } from '../../testing/trade';

let business: Business;
let quarantineId: number;
beforeAll(async () => {
  business = await openBusiness();
  const made = await business.owner.get(setup.createBins, { body: { siteId: business.siteId, codes: ['Q-1'], sellable: false } });
  quarantineId = made.rows[0]?.id as number;
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const binId = () => business.bins[0] as number;
const scanOf = (lineId: number, quantity: string, key: string = randomUUID()) => ({
  key,
  what: 'scan' as const,
  said: `${quantity} of it`,
  parts: [{ lineId, binId: binId(), quantity, lots: [] }],
});
const desk = async (who: Caller) => who.get(receiving.receivingDesk, { query: {} });
const lineAt = async (who: Caller, lineId: number) => (await desk(who)).rows.find((row) => row.lineId === lineId);

test('what was counted waits on the server; the same batch sent twice counts once; it is the same on another machine', async () => {
  const { lineId } = await ordered(business, await business.item('DESK-1'), '10');
  const batch = { changes: [scanOf(lineId, '1'), scanOf(lineId, '3')] };
  await business.owner.get(receiving.changeDesk, { body: batch });
  const again = await business.owner.get(receiving.changeDesk, { body: { changes: [...batch.changes, scanOf(lineId, '2')] } });
  expect(again.tally.lines[lineId]?.quantity).toBe('6');
  expect((await desk(business.owner)).tally).toEqual(again.tally);
  await business.owner.get(receiving.receive, { body: { fromDesk: true, lines: [{ lineId, quantity: '6', binId: binId() }] } });
  expect((await desk(business.owner)).tally.lines).toEqual({});
});

test('two batches at once lose nothing', async () => {
  const { lineId } = await ordered(business, await business.item('DESK-2'), '50');
  await Promise.all(
    Array.from({ length: 12 }, () => business.owner.get(receiving.changeDesk, { body: { changes: [scanOf(lineId, '1'), scanOf(lineId, '1')] } })),
  );
  expect((await desk(business.owner)).tally.lines[lineId]?.quantity).toBe('24');
  await business.owner.get(receiving.changeDesk, { body: { changes: [{ key: randomUUID(), what: 'start-over' }] } });
});

test('two people on one delivery see what the other has counted; received twice, the second is asked', async () => {
  const { lineId } = await ordered(business, await business.item('DESK-3'), '5');
  const floor = await business.as('Floor');
  await floor.get(receiving.changeDesk, { body: { changes: [scanOf(lineId, '4')] } });
  expect((await lineAt(business.owner, lineId))?.others).toEqual([{ person: 'Floor', quantity: '4' }]);
  expect((await lineAt(floor, lineId))?.others).toEqual([]);
  const both = await Promise.all(
    [business.owner, floor].map((who) => who.ask(receiving.receive, { body: { fromDesk: true, lines: [{ lineId, quantity: '4', binId: binId() }] } })),
  );
  expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
  expect(both.find(({ status }) => status === 409)?.problem.asks).toEqual(['over-receipt']);
});

test('damaged goods go into quarantine, what will not come is called off, and the order is done', async () => {
  const itemId = await business.item('DESK-4');
  const { lineId, id } = await ordered(business, itemId, '10');
  await business.owner.get(receiving.receive, {
    body: {
      lines: [
        { lineId, quantity: '6', binId: binId(), noMore: true },
        { lineId, quantity: '2', binId: quarantineId, noMore: true },
      ],
    },
  });
  const order = await business.owner.get(inbound.getPurchase, { params: { id } });
  expect(order.lines[0]).toMatchObject({ received: '8', cancelled: '2', outstanding: '0' });
  expect(order.state).toBe('received');
  expect(order.changes[0]).toMatchObject({ field: 'line 1 called off', was: '0', is: '2', person: 'Owner' });
  expect((await business.owner.get(stock.itemStock, { params: { id: itemId } })).sites[0]).toMatchObject({ onHand: '6' });
});

test('the orders that wait are named, and the goods go straight to the bench for them', async () => {
  const itemId = await business.item('DESK-5');
  const first = await sold(business, itemId, '3', '2026-03-11');
  const second = await sold(business, itemId, '4', '2026-03-20');
  const { lineId } = await ordered(business, itemId, '5');
  expect((await lineAt(business.owner, lineId))?.waiting.map(({ number, short }) => [number, short])).toEqual([
    [first.number, '3'],
    [second.number, '4'],
  ]);
  const body = { lines: [{ lineId, quantity: '5', binId: binId(), toBench: true }] };
  const foreseen = await business.owner.ask(receiving.receive, { body }, { preview: true });
  const { effects } = await business.owner.get(receiving.receive, { body });
  expect(effects).toEqual(foreseen.data.effects);
  // They come in and are on the bench: nothing more is on hand or reserved than before.
  expect(effects.rows.map(({ measure, before, after }) => [measure, before, after])).toEqual([
    ['short', '7', '2'],
    ['on the bench', '0', '5'],
    ['value', '0.00', '10.00'],
    ['unit cost', '0.0000', '2.0000'],
  ]);
  expect(effects.notes.at(-1)).toMatch(/^5 of DESK-5 go straight to the bench of /);
  const picked = async (id: number) => (await business.owner.get(outbound.getSale, { params: { id } })).lines[0]?.picked;
  expect([await picked(first.id), await picked(second.id)]).toEqual(['3', '2']);
});

test('a use-by day that has passed is asked about', async () => {
  const { lineId } = await ordered(business, await business.item('DESK-6', { tracking: 'lot' }), '5');
  const body = { lines: [{ lineId, quantity: '5', binId: binId(), lots: [{ code: 'L1', useBy: '2026-03-01', quantity: '5' }] }] };
  const asked = await business.owner.ask(receiving.receive, { body });
  expect(asked.problem).toMatchObject({ asks: ['past-use-by'], errors: [{ field: 'lines.0.lots.0.useBy' }] });
  expect((await business.owner.ask(receiving.receive, { body: { ...body, pastUseBy: true } })).status).toBe(200);
});

test('a part is called off; more than is still to come is refused by its line; a cancelled order takes no goods', async () => {
  const { owner } = business;
  const order = await ordered(business, await business.item('DESK-7'), '10');
  const params = { id: order.id };
  const tooMuch = await owner.ask(inbound.amendPurchase, {
    params,
    body: { version: order.version, expectedOn: null, lines: [{ lineId: order.lineId, callOff: '11' }] },
  });
  expect(tooMuch.problem).toMatchObject({ errors: [{ field: 'lines.0.callOff', sentence: 'Only 10 of DESK-7 are still to come.' }] });
  const twice = [1, 2].map(() => ({ lineId: order.lineId, callOff: '8' }));
  const both = await owner.ask(inbound.amendPurchase, { params, body: { version: order.version, expectedOn: null, lines: twice } });
  expect(both.problem).toMatchObject({ errors: [{ field: 'lines.1.lineId', sentence: 'This line is given twice.' }] });
  const added = [{ itemId: await business.item('DESK-8'), quantity: '3', price: '1.00' }];
  const part = await owner.get(inbound.amendPurchase, {
    params,
    body: { version: order.version, expectedOn: '2026-03-20', lines: [{ lineId: order.lineId, callOff: '4', expectedOn: '2026-04-01' }], added },
  });
  expect(part.lines[0]).toMatchObject({ cancelled: '4', outstanding: '6', expectedOn: '2026-04-01' });
  expect(part.lines[1]).toMatchObject({ position: 2, outstanding: '3' });
  expect(part.changes.map(({ field, was, is }) => [field, was, is])).toEqual(
    expect.arrayContaining([
      ['expected', '2026-03-12', '2026-03-20'],
      ['line 1 called off', '0', '4'],
      ['line 2', null, '3 of DESK-8'],
    ]),
  );
  await owner.get(inbound.decidePurchase, { params, body: { decision: 'cancel', version: part.version } });
  const late = await owner.ask(receiving.receive, { body: { lines: [{ lineId: order.lineId, quantity: '1', binId: binId() }] } });
  expect(late.problem.errors[0]?.sentence).toContain('is not open');
});
