import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import * as catalog from '@larder/contract/catalog';
import * as counts from '@larder/contract/counts';
import * as floor from '@larder/contract/floor';
import * as moves from '@larder/contract/moves';
import * as picking from '@larder/contract/picking';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { contentsOf, meantBy, whereItLies } from '@larder/core/floor/held';
import { newRequestKey } from '@larder/contract/requestKey';
import { openBusiness, type Business, type Caller } from '../../testing/business';
import { pickBody, sold, stocked } from '../../testing/trade';

/** What a phone holds of its site agrees with what it would be told, and what waited on it is done once, however late. */
let business: Business;
let phone: Caller;
const bin = (index = 0) => business.bins[index] as number;
beforeAll(async () => {
  business = await openBusiness();
  phone = await business.as('Floor');
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});
const held = () => phone.get(floor.heldSite, { params: { id: business.siteId } });

test('what is held gives a bin’s contents, the meaning of codes and where a thing lies as the server does', async () => {
  const plain = await business.item('HELD-1', { barcodes: [{ code: '4006381333931' }] });
  const byLot = await business.item('HELD-2', { tracking: 'lot' });
  const bySerial = await business.item('HELD-3', { tracking: 'serial' });
  await business.owner.get(stock.openStock, {
    body: {
      lines: [
        { itemId: plain, binId: bin(), quantity: '4', unitValue: '1.00' },
        { itemId: byLot, binId: bin(), quantity: '2', unitValue: '1.00', lots: [{ code: 'L-1', useBy: '2026-12-01', quantity: '2' }] },
        { itemId: bySerial, binId: bin(1), quantity: '1', unitValue: '9.00', lots: [{ code: 'S-1', quantity: '1' }] },
      ],
    } as never,
  });
  const has = await held();
  for (const binId of [bin(0), bin(1)]) {
    const told = await phone.get(stock.binContents, { params: { id: binId }, query: {} });
    const rows = contentsOf(has, binId)?.rows.map(({ seq: _seq, step: _step, tracking: _tracking, ...row }) => row);
    const sorted = <C extends { code: string }>(codes: C[]) => codes.toSorted((a, b) => (a.code < b.code ? -1 : 1));
    expect(rows?.map((row) => ({ ...row, codes: sorted(row.codes) }))).toEqual(told.rows.map((row) => ({ ...row, codes: sorted(row.codes) })));
  }
  for (const code of ['held-1', '4006381333931', 'S-1', '(01)04006381333931(10)X9', 'no such code']) {
    const query = { code };
    expect([code, meantBy(has, code)]).toEqual([code, await phone.get(catalog.readCode, { query })]);
  }
  const told = await phone.get(floor.whereItLies, { params: { id: byLot } });
  expect(told.rows).toMatchObject([{ site: 'Barn store', bin: 'A-1', lot: 'L-1', useBy: '2026-12-01', quantity: '2' }]);
  expect(whereItLies(has, byLot)?.rows.map(({ binId, lotId, quantity }) => [binId, lotId, quantity])).toEqual(
    told.rows.map(({ binId, lotId, quantity }) => [binId, lotId, quantity]),
  );
  expect((await phone.ask(floor.whereItLies, { params: { id: 999_999 } })).status).toBe(404);
  expect((await business.owner.ask(floor.heldSite, { params: { id: 999_999 } })).status).toBe(404);
});

test('of a count, the bins are held that this person may still count', async () => {
  const itemId = await business.item('HELD-4');
  await stocked(business, itemId, '5');
  const { id } = await business.owner.get(counts.createCount, { body: { siteId: business.siteId, plan: { binIds: [bin(0), bin(1)] } } });
  const bins = async (who: Caller) => (await who.get(floor.heldCount, { params: { id } })).bins.map(({ placeId }) => placeId);
  expect(await bins(phone)).toEqual([bin(0), bin(1)]);
  await business.owner.get(counts.takeBin, { params: { id, placeId: bin(1) }, body: {} });
  expect(await bins(phone)).toEqual([bin(0)]);
  const { bins: own } = await business.owner.get(floor.heldCount, { params: { id } });
  expect(own[0]).toEqual(await business.owner.get(counts.countBin, { params: { id, placeId: bin(0) } }));
  await business.owner.get(counts.closeCount, { params: { id } });
  expect(await bins(phone)).toEqual([]);
});

test('a phone that was offline for an hour: what it counted of goods that moved meanwhile is asked for again, the rest stands', async () => {
  const [moved, still] = [await business.item('HELD-5'), await business.item('HELD-6')];
  await stocked(business, moved, '10');
  await stocked(business, still, '10');
  const { id } = await business.owner.get(counts.createCount, {
    body: { siteId: business.siteId, plan: { itemIds: [moved, still] } },
  });
  const at = { params: { id, placeId: bin() } };
  const seq = async (itemId: number) => (await phone.get(counts.countBin, at)).rows.find((row) => row.itemId === itemId)?.seq ?? null;
  const counted = [
    { itemId: moved, quantity: '9', way: 'typed' as const, seq: await seq(moved) },
    { itemId: still, quantity: '9', way: 'typed' as const, seq: await seq(still) },
  ];
  const keys = { take: newRequestKey(), enter: newRequestKey(), finish: newRequestKey() };
  const sale = await sold(business, moved, '4');
  await business.owner.get(picking.pick, { body: pickBody(business, sale, '4') });
  business.clock.now = new Date(business.clock.now.getTime() + 3_600_000);
  const send = async () => [
    await phone.ask(counts.takeBin, { ...at, body: {} }, { key: keys.take }),
    await phone.ask(counts.enterCount, { ...at, body: { entries: counted } }, { key: keys.enter }),
    await phone.ask(counts.finishBin, { ...at, body: {} }, { key: keys.finish }),
  ];
  const first = await send();
  expect(first.map(({ status }) => status)).toEqual([200, 200, 200]);
  expect(first[2]?.data).toEqual({ recount: 1 });
  // Sent again long after, when no server remembers: the same answers, and nothing is counted twice.
  expect((await send()).map(({ data }) => data)).toEqual(first.map(({ data }) => data));
  const { rows } = await business.owner.get(counts.reviewCount, { params: { id }, query: { show: 'all' } });
  expect(rows.map(({ itemId, recount, rounds, entries }) => [itemId, recount, rounds, entries.length])).toEqual(
    expect.arrayContaining([
      [moved, 'late', 1, 1],
      [still, null, 1, 1],
    ]),
  );
  // The same key for something else is refused, and a key that is older than keys are kept.
  expect((await phone.ask(counts.finishBin, { ...at, body: { restIsNone: true } }, { key: keys.finish })).problem.type).toBe('key-used');
  const madeLongAgo = `${(business.clock.now.getTime() - 91 * 86_400_000)
    .toString(16)
    .padStart(12, '0')
    .replace(/^(.{8})/, '$1-')}-7${randomUUID().slice(15)}`;
  expect((await phone.ask(counts.takeBin, { ...at, body: {} }, { key: madeLongAgo })).problem.type).toBe('too-long-ago');
});

test('a move that waited on a phone while somebody else took the goods is refused with what is left, and nothing of it is done', async () => {
  const itemId = await business.item('HELD-7');
  await stocked(business, itemId, '5');
  const has = await held();
  expect(contentsOf(has, bin())?.rows.find((row) => row.itemId === itemId)?.quantity).toBe('5');
  const line = (quantity: string) => ({ itemId, quantity, fromBinId: bin(0), toBinId: bin(1) });
  await business.owner.get(moves.moveGoods, { body: { lines: [line('3')] } });
  const late = await phone.ask(moves.moveGoods, { body: { lines: [line('4')] } }, { key: newRequestKey() });
  expect([late.status, late.problem.errors[0]?.field]).toEqual([409, 'lines.0.quantity']);
  expect(whereItLies(await held(), itemId)?.rows.map(({ bin: code, quantity }) => [code, quantity])).toEqual([
    ['A-1', '2'],
    ['A-2', '3'],
  ]);
});

test('a site that one may not look at is not held', async () => {
  const { rows } = await business.owner.get(setup.createBins, { body: { siteId: business.otherSiteId, codes: ['H-9'] } });
  expect(rows).toHaveLength(1);
  expect((await held()).bins.some(({ code }) => code === 'H-9')).toBe(false);
});
