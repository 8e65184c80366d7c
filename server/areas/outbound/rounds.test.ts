import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as stock from '@larder/contract/stock';
import * as transfers from '@larder/contract/transfers';
import { transaction } from '../../db/database';
import { addPerson } from '../../db/found';
import { openBusiness, signIn, type Business, type Caller } from '../../testing/business';
import { pickBody, sold, stocked } from '../../testing/trade';

let business: Business;
let other: Caller;
beforeAll(async () => {
  business = await openBusiness();
  await transaction(business.pool, 'write', (tx) => addPerson(tx, { name: 'Second', email: 'second@test.example', password: 'only for tests' }, 'Floor'));
  other = await signIn(business.base, 'second@test.example');
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

let count = 0;
let itemId: number;
let sku: string;
beforeEach(async () => {
  count += 1;
  sku = `ROUND-${count}`;
  itemId = await business.item(sku);
});
const queued = async (caller: Caller, ids: readonly number[]) =>
  (await caller.get(picking.pickQueue, { query: {} })).rows
    .filter(({ orderId }) => ids.includes(orderId))
    .map(({ orderId, lines, pieces, round }) => [orderId, lines, pieces, round?.picker ?? null]);
const start = (caller: Caller, orderIds: number[]) => caller.ask(picking.startRound, { body: { siteId: business.siteId, orderIds } });
const look = (id: number) => business.owner.get(picking.getRound, { params: { id } });
const rowsOf = (round: Awaited<ReturnType<typeof look>>) => round.rows.map(({ slot, bin, take }) => `${take} from ${bin} into ${slot}`);
const taken = (round: Awaited<ReturnType<typeof look>>) => round.rows.map(({ lineId, binId, lotId, take }) => ({ lineId, binId, lotId, quantity: take }));

test('several orders are picked in one round, into slots by the day they ship; what was free goes to the first of them', async () => {
  await stocked(business, itemId, '10');
  const late = await sold(business, itemId, '4', '2026-03-15');
  const early = await sold(business, itemId, '3', '2026-03-11');
  const short = await sold(business, itemId, '9', '2026-03-20');
  const ids = [late.id, early.id, short.id];
  expect(await queued(business.owner, ids)).toEqual([
    [early.id, 1, '3', null],
    [late.id, 1, '4', null],
    [short.id, 1, '3', null],
  ]);
  const { data } = await start(business.owner, ids);
  const round = await look(data.id);
  expect(round.slots.map(({ slot, number }) => [slot, number])).toEqual([
    [1, early.number],
    [2, late.number],
    [3, short.number],
  ]);
  expect(rowsOf(round)).toEqual(['3 from A-1 into 1', '4 from A-1 into 2', '3 from A-1 into 3']);
  expect(round.missing).toEqual([{ lineId: short.lineId, sku, quantity: '6', number: short.number }]);
  const asked = { params: { id: data.id }, body: { lines: taken(round), ends: true } };
  const foreseen = await business.owner.ask(picking.pickRound, asked, { preview: true });
  expect((await look(data.id)).endedAt).toBeNull();
  const { movementId, effects } = await business.owner.get(picking.pickRound, asked);
  expect(effects).toEqual(foreseen.data.effects);
  const ended = await look(data.id);
  expect([ended.endedAt === null, ended.rows]).toEqual([false, []]);
  const picked = async () => Promise.all(ids.map(async (id) => (await business.owner.get(outbound.getSale, { params: { id } })).picked));
  expect(await picked()).toEqual(['4', '3', '3']);
  // One pick for all of them: it is undone as one, and they are to be picked again.
  await business.owner.get(stock.undo, { body: { movementId: movementId as number } });
  expect(await picked()).toEqual(['0', '0', '0']);
  expect((await queued(business.owner, ids)).map(([, , pieces]) => pieces)).toEqual(['3', '4', '3']);
  expect((await business.owner.ask(picking.pickRound, asked)).problem.type).toContain('ended');
});

test('two pickers never get the same order: who picks it is seen, and another is asked before they take of it', async () => {
  await stocked(business, itemId, '10');
  const [one, two] = [await sold(business, itemId, '2'), await sold(business, itemId, '2')];
  const both = await Promise.all([start(business.owner, [one.id, two.id]), start(other, [two.id, one.id])]);
  expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
  const mine = both[0]?.status === 200;
  const [holder, loser] = mine ? [business.owner, other] : [other, business.owner];
  const roundId = both.find(({ status }) => status === 200)?.data.id as number;
  const name = mine ? 'Owner' : 'Second';
  expect(both.find(({ status }) => status === 409)?.problem.errors[0]?.sentence).toMatch(new RegExp(`^${name} picks SO-\\d+ in round ${roundId}\\.$`));
  expect(await queued(loser, [one.id])).toEqual([[one.id, 1, '2', name]]);
  expect((await loser.get(picking.pickQueue, { query: {} })).rounds.filter(({ id }) => id === roundId)).toMatchObject([{ picker: name, orders: 2 }]);
  const round = await look(roundId);
  expect((await loser.ask(picking.pickRound, { params: { id: roundId }, body: { lines: taken(round) } })).problem.type).toContain('others-round');
  const alone = await loser.ask(picking.pick, { body: pickBody(business, one, '1') });
  expect([alone.status, alone.problem.asks]).toEqual([409, ['othersRound']]);
  expect((await loser.ask(picking.pick, { body: { ...pickBody(business, one, '1'), othersRound: true } })).status).toBe(200);
  expect((await holder.ask(picking.pick, { body: pickBody(business, two, '1') })).status).toBe(200);
  // Somebody else may end what was left lying.
  await loser.get(picking.endRound, { params: { id: roundId }, body: {} });
  expect((await start(loser, [one.id, two.id])).status).toBe(200);
});

test('a bin that gave less than it should is picked from last, until somebody has said what is there', async () => {
  const [first, second] = business.bins as [number, number];
  const opening = (binId: number) => ({ itemId, binId, quantity: '4', unitValue: '1.00' });
  await business.owner.get(stock.openStock, { body: { lines: [opening(first), opening(second)] } });
  const order = await sold(business, itemId, '4');
  const { data } = await start(business.owner, [order.id]);
  const before = await look(data.id);
  expect(rowsOf(before)).toEqual(['4 from A-1 into 1']);
  const { lineId, binId } = before.rows[0] as { lineId: number; binId: number };
  await business.owner.get(picking.pickRound, {
    params: { id: data.id },
    body: { lines: [{ lineId, binId, quantity: '1' }], short: [{ lineId, binId }], shortReason: 'an empty box' },
  });
  expect(rowsOf(await look(data.id))).toEqual(['3 from A-2 into 1']);
  expect((await look(data.id)).rows[0]?.doubtful).toBe(false);
  await business.owner.get(stock.correct, { body: { way: 'plus-or-minus', reasonId: business.reasonId, lines: [{ itemId, binId, quantity: '-1' }] } });
  expect(rowsOf(await look(data.id))).toEqual(['2 from A-1 into 1', '1 from A-2 into 1']);
});

test('a round is of orders of which something can be picked, and of a place where the person picks', async () => {
  const order = await sold(business, itemId, '2');
  const none = await start(business.owner, [order.id]);
  expect([none.status, none.problem.errors[0]?.field]).toEqual([409, 'orderIds']);
  expect((await business.owner.ask(picking.getRound, { params: { id: 999_999 } })).status).toBe(404);
});

test('an order and two transfers are picked in one round; what both want goes to what leaves first, and nobody else takes them without being asked', async () => {
  await stocked(business, itemId, '9');
  const sent = async (quantity: string, sendBy: string) => {
    const lines = [{ itemId, quantity }];
    const { id } = await business.owner.get(transfers.createTransfer, { body: { fromSiteId: business.siteId, toSiteId: business.otherSiteId, sendBy, lines } });
    return business.owner.get(transfers.getTransfer, { params: { id: id as number } });
  };
  const order = await sold(business, itemId, '2', '2026-03-12');
  const [first, last] = [await sent('3', '2026-03-11'), await sent('6', '2026-03-13')];
  const asked = { siteId: business.siteId, orderIds: [order.id], transferIds: [first.id, last.id] };
  const { data } = await business.owner.ask(picking.startRound, { body: asked });
  const round = await look(data.id);
  expect(round.slots.map(({ slot, kind, number, customer }) => [slot, kind, number, customer])).toEqual([
    [1, 'transfer', first.number, 'Harbour shop'],
    [2, 'sales', order.number, expect.any(String)],
    [3, 'transfer', last.number, 'Harbour shop'],
  ]);
  expect(rowsOf(round)).toEqual(['3 from A-1 into 1', '2 from A-1 into 2', '4 from A-1 into 3']);
  expect(round.missing).toEqual([{ lineId: last.lines[0]?.id, sku, quantity: '2', number: last.number }]);
  // Both are in this round, for whoever else would begin one or pick from the page of the transfer.
  expect((await other.ask(picking.startRound, { body: { siteId: business.siteId, transferIds: [last.id] } })).problem.errors).toEqual([
    { field: 'transferIds', sentence: `Owner picks ${last.number} in round ${data.id}.` },
  ]);
  const body = { lines: taken(round).filter(({ lineId }) => lineId === first.lines[0]?.id) };
  const theirs = await other.ask(transfers.pickTransfer, { params: { id: first.id }, body });
  expect([theirs.status, theirs.problem.title, theirs.problem.asks]).toEqual([
    409,
    `Owner picks ${first.number} in round ${data.id}. Pick it all the same?`,
    ['othersRound'],
  ]);
  const all = { params: { id: data.id }, body: { lines: taken(round), ends: true } };
  const foreseen = await business.owner.ask(picking.pickRound, all, { preview: true });
  const done = await business.owner.ask(picking.pickRound, all);
  expect(done.data.effects).toEqual(foreseen.data.effects);
  const picked = async (id: number) => (await business.owner.get(transfers.getTransfer, { params: { id } })).lines.map((line) => line.picked);
  expect([await picked(first.id), await picked(last.id)]).toEqual([['3'], ['4']]);
  expect((await look(data.id)).endedAt).not.toBeNull();
  // One undo puts all of it back on the shelf.
  await business.owner.get(stock.undo, { body: { movementId: done.data.movementId as number, note: 'the wrong trolley' } });
  expect([await picked(first.id), await picked(last.id)]).toEqual([['0'], ['0']]);
  expect(await queued(business.owner, [order.id])).toEqual([[order.id, 1, '2', null]]);
});
