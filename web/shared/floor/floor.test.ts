/** @jest-environment <rootDir>/web/testing/browser.mjs */
import 'fake-indexeddb/auto';
import { beforeEach, expect, test } from '@jest/globals';
import { countBin, enterCount, finishBin, getCount, takeBin } from '@larder/contract/counts';
import { heldSite } from '@larder/contract/floor';
import { moveGoods } from '@larder/contract/moves';
import { me, signOut } from '@larder/contract/people';
import { getRound, pickRound } from '@larder/contract/picking';
import { binContents } from '@larder/contract/stock';
import { find, readCode } from '@larder/contract/catalog';
import { changeDesk, receive } from '@larder/contract/receiving';
import { configureStore } from '@reduxjs/toolkit';
import { waitFor } from '@testing-library/react';
import { refused, standInServer } from '../../testing/server';
import { api, floorWrite, read, write } from '../api';
import { ownedBy } from './answers';
import { connection } from './connection';
import { database } from './database';
import { sendWaiting, whenSent } from './sending';
import { unsentOn } from './unsent';
import { waiting } from './waiting';

/** A phone: what is asked on it is held, and what is done waits for a connection. */
Object.assign(window, {
  matchMedia: (asked: string) => ({ matches: asked.includes('max-width'), addEventListener: () => undefined, removeEventListener: () => undefined }),
});
AbortSignal.timeout = () => new AbortController().signal;

const phone = api.injectEndpoints({
  endpoints: (build) => ({
    who: read(build, me),
    site: read(build, heldSite),
    bin: read(build, binContents),
    meaning: read(build, readCode),
    words: read(build, find),
    round: read(build, getRound),
    counted: read(build, countBin),
    sheet: read(build, getCount),
    move: floorWrite(build, moveGoods),
    pick: floorWrite(build, pickRound),
    take: floorWrite(build, takeBin),
    enter: floorWrite(build, enterCount),
    finish: floorWrite(build, finishBin),
    receipt: floorWrite(build, receive),
    leave: write(build, signOut),
  }),
}).endpoints;

const barn = {
  siteId: 1,
  site: 'Barn store',
  at: '2026-11-24T10:00:00Z',
  items: [
    { id: 7, sku: 'SM-STD', name: 'Smoker', unit: 'each', step: '1', tracking: 'none', seq: 3, codes: [{ code: 'SM-STD', factor: '1' }], supplierCodes: [] },
  ],
  lots: [],
  bins: [
    { id: 4, code: 'B-1', sellable: true },
    { id: 5, code: 'B-2', sellable: true },
  ],
  lying: [{ itemId: 7, lotId: null, binId: 4, quantity: '5' }],
};
const posted = { movementId: 9, effects: { rows: [], notes: [], costNotes: null } };

async function onPhone() {
  const server = standInServer();
  server.on(me, () => ({ id: 3, name: 'Tom Aldous', grants: [] }));
  server.on(heldSite, () => barn);
  server.on(signOut, () => ({}));
  const store = configureStore({
    reducer: { api: api.reducer },
    middleware: (usual) => usual({ immutableCheck: false, serializableCheck: false }).concat(api.middleware),
  });
  const ask = async (what: unknown) => (await store.dispatch(what as never)) as { data?: never; error?: { type: string; title: string } };
  await ask(phone.who.initiate({}, { forceRefetch: true }));
  await ask(phone.site.initiate({ params: { id: 1 } }, { forceRefetch: true }));
  return { server, ask };
}
type Phone = Awaited<ReturnType<typeof onPhone>>;
const fresh = { forceRefetch: true, subscribe: false } as const;
const move = (quantity: string, [fromBinId, toBinId]: [number, number] = [4, 5]) => {
  const lines = [{ itemId: 7, lotId: null, quantity, fromBinId, toBinId }];
  return phone.move.initiate({ body: { lines }, kept: { words: `Move ${quantity}`, to: '/stock/move', moves: lines } });
};
const inBin = async ({ ask }: Phone, id: number) =>
  ((await ask(phone.bin.initiate({ params: { id }, query: {} }, fresh))).data as unknown as { rows: { sku: string; quantity: string }[] }).rows.map(
    ({ sku, quantity }) => `${quantity} ${sku}`,
  );
const moves = ({ server }: Phone) =>
  server.asked.filter(({ endpoint }) => endpoint.endsWith(moveGoods.path)).map(({ body }) => (body as { lines: { quantity: string }[] }).lines[0]?.quantity);

beforeEach(async () => {
  connection.back();
  for (const { key } of waiting.rows()) await waiting.remove(key);
  await ownedBy(null);
  localStorage.clear();
});

test('without a connection a move is kept, shows at once, and goes once, in order, when the connection is back', async () => {
  const it = await onPhone();
  it.server.cut();
  expect((await it.ask(move('2'))).data).toEqual({ kept: expect.any(String) });
  expect((await it.ask(move('1', [5, 4]))).data).toEqual({ kept: expect.any(String) });
  expect([await inBin(it, 4), await inBin(it, 5)]).toEqual([['4 SM-STD'], ['1 SM-STD']]);
  expect(connection.lostSince()).not.toBeNull();
  // Nothing is sent before there is one.
  expect([await sendWaiting(), moves(it)]).toEqual([false, []]);
  const told: string[] = [];
  const end = whenSent((changes) => void told.push(...changes));
  it.server.back();
  it.server.on(moveGoods, () => posted);
  expect([await sendWaiting(), moves(it)]).toEqual([true, ['2', '1']]);
  expect(told).toContain('stock');
  expect(waiting.rows()).toEqual([]);
  end();
});

test('more than lies there after what waits is refused at once, in the words of the server; an unknown code means nothing', async () => {
  const it = await onPhone();
  it.server.cut();
  await it.ask(move('3'));
  expect((await it.ask(move('3'))).error).toMatchObject({ type: 'not-enough-stock', title: 'B-1 holds 2 of SM-STD, not 3.' });
  expect(waiting.rows()).toHaveLength(1);
  const meant = async (code: string) => (await it.ask(phone.meaning.initiate({ query: { code } }, fresh))).data as unknown as { items: { sku: string }[] };
  expect((await meant('sm-std')).items.map(({ sku }) => sku)).toEqual(['SM-STD']);
  expect((await meant('NOTHING')).items).toEqual([]);
  expect((await it.ask(phone.words.initiate({ query: { q: 'b-2' } }, fresh))).data).toEqual({
    rows: [{ kind: 'bin', id: 5, code: 'B-2', name: 'Barn store', exact: true }],
  });
});

test('what is done while something older waits goes behind it, with a connection too', async () => {
  const it = await onPhone();
  it.server.cut();
  await it.ask(move('1'));
  it.server.back();
  connection.back();
  it.server.on(moveGoods, () => posted);
  expect((await it.ask(move('2'))).data).toEqual(posted);
  expect(moves(it)).toEqual(['1', '2']);
});

test('what the server refuses is set apart with its reason and holds up nothing; a busy server is asked again', async () => {
  const it = await onPhone();
  it.server.cut();
  for (const quantity of ['1', '2', '0.5', '1.5']) await it.ask(move(quantity));
  it.server.back();
  let busy = true;
  it.server.on(moveGoods, ({ lines }: { lines: { quantity: string }[] }) => {
    if (busy) return refused(503, 'busy', 'Try again.');
    if (lines[0]?.quantity === '0.5') return refused(500, 'failed', 'Something went wrong here.');
    return lines[0]?.quantity === '2' ? refused(409, 'not-enough-stock', 'B-1 holds 1 of SM-STD, not 2.') : posted;
  });
  expect(await sendWaiting()).toBe(false);
  expect(waiting.rows().map(({ refused: why }) => why)).toEqual([null, null, null, null]);
  busy = false;
  expect(await sendWaiting()).toBe(true);
  expect(waiting.rows().map(({ words, refused: why }) => [words, why])).toEqual([
    ['Move 2', 'B-1 holds 1 of SM-STD, not 2.'],
    ['Move 0.5', 'Something went wrong here.'],
  ]);
  // It is not sent again, and is no longer thought to be done.
  it.server.cut();
  expect(await sendWaiting()).toBe(true);
  expect(await inBin(it, 4)).toEqual(['5 SM-STD']);
});

test('what is older than keys are kept is shown, never sent', async () => {
  const it = await onPhone();
  const old = '01900000-0000-7000-8000-000000000000';
  const asked = { endpoint: `POST ${moveGoods.path}`, path: moveGoods.path, params: {}, body: { lines: [] }, words: 'Move 9', to: '/', moves: [], changes: [] };
  await waiting.add({ ...asked, key: old, personId: 3, refused: null });
  it.server.on(moveGoods, () => posted);
  await sendWaiting();
  expect(moves(it)).toEqual([]);
  expect(waiting.rows()[0]?.refused).toMatch(/^This was begun more than three months ago/);
});

test('somebody else’s work waits until they sign in, and what was held for one is not shown to another', async () => {
  const it = await onPhone();
  it.server.cut();
  await it.ask(move('1'));
  it.server.back();
  connection.back();
  await it.ask(phone.leave.initiate({}));
  it.server.on(me, () => ({ id: 8, name: 'Wim Achter', grants: [] }));
  await it.ask(phone.who.initiate({}, fresh));
  it.server.on(moveGoods, () => posted);
  expect([await sendWaiting(), moves(it), waiting.rows().length]).toEqual([true, [], 1]);
  it.server.cut();
  expect((await it.ask(phone.bin.initiate({ params: { id: 4 }, query: {} }, fresh))).error?.type).toBe('connection-lost');
});

test('a round asks no more for what was picked, and an ended one is over', async () => {
  const it = await onPhone();
  const row = { lineId: 1, itemId: 7, binId: 4, lotId: null, take: '3', inBin: '5', kind: 'sales', orderId: 2, number: 'SO-1', slot: 1 };
  it.server.on(getRound, () => ({ id: 6, startedAt: '2026-11-24T09:00:00Z', endedAt: null, rows: [row], missing: [], slots: [] }));
  await it.ask(phone.round.initiate({ params: { id: 6 } }, fresh));
  it.server.cut();
  const lines = [{ lineId: 1, binId: 4, lotId: null, quantity: '2' }];
  const taken = [{ itemId: 7, lotId: null, quantity: '2', fromBinId: 4, toBinId: null }];
  await it.ask(phone.pick.initiate({ params: { id: 6 }, body: { lines, ends: true }, kept: { words: 'Pick', to: '/', moves: taken } }));
  const now = (await it.ask(phone.round.initiate({ params: { id: 6 } }, fresh))).data as unknown as { rows: { take: string }[]; endedAt: string | null };
  expect([now.rows.map(({ take }) => take), now.endedAt !== null, await inBin(it, 4)]).toEqual([['1'], true, ['3 SM-STD']]);
});

test('a bin is counted: it is one’s own, shows what was counted, says what the phone knew, and leads to the next; a line to be counted again is told', async () => {
  const it = await onPhone();
  const bin = (placeId: number, code: string) => ({
    placeId,
    bin: code,
    retired: false,
    heldById: null,
    heldBy: null,
    done: false,
    doneBy: null,
    counted: 0,
    recount: 0,
  });
  it.server.on(getCount, () => ({ id: 2, binRows: [bin(4, 'B-1'), bin(5, 'B-2')] }));
  it.server.on(countBin, () => ({ ...bin(4, 'B-1'), siteId: 1, blind: false, rows: [], next: null }));
  await it.ask(phone.sheet.initiate({ params: { id: 2 } }, fresh));
  await it.ask(phone.counted.initiate({ params: { id: 2, placeId: 4 } }, fresh));
  it.server.cut();
  const params = { id: 2, placeId: 4 };
  const kept = { words: 'Count', to: '/stock/counts/2/4' };
  const entry = { itemId: 7, lotId: null, quantity: '4', way: 'scanned' as const };
  await it.ask(phone.take.initiate({ params, body: {}, kept }));
  await it.ask(phone.enter.initiate({ params, body: { entries: [entry] }, kept: { ...kept, body: { entries: [{ ...entry, seq: 3 }] } } }));
  const look = async () => (await it.ask(phone.counted.initiate({ params }, fresh))).data as unknown as Record<string, unknown>;
  expect(await look()).toMatchObject({
    heldBy: 'Tom Aldous',
    rows: [{ sku: 'SM-STD', counted: '4', seq: 3, listed: false }],
    next: { placeId: 5, bin: 'B-2' },
  });
  await it.ask(phone.finish.initiate({ params, body: {}, kept: { ...kept, words: 'B-1 is counted' } }));
  expect(await look()).toMatchObject({ done: true, doneBy: 'Tom Aldous' });
  it.server.back();
  it.server.on(takeBin, () => ({}));
  it.server.on(enterCount, () => ({}));
  it.server.on(finishBin, () => ({ recount: 1 }));
  await sendWaiting();
  expect(it.server.sent(enterCount)).toEqual({ entries: [{ ...entry, seq: 3 }] });
  expect(waiting.rows().map(({ words, refused: why }) => [words, why])).toEqual([
    ['B-1 is counted', 'Goods moved meanwhile, or it differs much: a line is to be counted again.'],
  ]);
});

test('a receipt that waited goes after what was counted before it, and before what was counted after', async () => {
  const it = await onPhone();
  const scan = (key: string) => ({ key, what: 'scan' as const, said: key, parts: [{ lineId: 1, binId: 4, quantity: '1', lots: [] }] });
  const desk = unsentOn(3);
  it.server.cut();
  desk.add(scan('00000000-before'));
  await it.ask(phone.receipt.initiate({ body: { lines: [{ lineId: 1, quantity: '1', binId: 4 }] }, kept: { words: 'Receive', to: '/inbound/desk' } }));
  desk.add(scan('ffffffff-after'));
  it.server.back();
  const order: string[] = [];
  it.server.on(changeDesk, ({ changes }: { changes: { key: string }[] }) => {
    order.push(...changes.map(({ key }) => key));
    return { tally: {}, version: 1 };
  });
  it.server.on(receive, () => {
    order.push('receipt');
    return posted;
  });
  expect(await sendWaiting()).toBe(true);
  expect(order).toEqual(['00000000-before', 'receipt', 'ffffffff-after']);
  expect(desk.waiting()).toEqual([]);
});

test('what waits is in the browser’s database, and is there for another window', async () => {
  const it = await onPhone();
  it.server.cut();
  await it.ask(move('1'));
  await waitFor(async () => expect((await (await database()).getAll('waiting')).map(({ words }) => words)).toEqual(['Move 1']));
});
