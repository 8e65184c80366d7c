import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as catalog from '@larder/contract/catalog';
import * as levels from '@larder/contract/levels';
import * as planning from '@larder/contract/planning';
import * as receiving from '@larder/contract/receiving';
import { eq } from 'drizzle-orm';
import { transaction } from '../../db/database';
import { itemPolicy } from '../../db/schema/index';
import { openBusiness, type Business } from '../../testing/business';
import { ordered, sold, stocked } from '../../testing/trade';
import { dueLook } from './looks';
import { lookAtAll } from './look';

/** What items are wanted for months, and what is suggested of it. The clock goes from the autumn on to the day all else begins. */
let business: Business;
let steady: number;
let lumpy: number;
let plain: number;
const today = '2026-03-10';
const at = (day: string) => void (business.clock.now = new Date(`${day}T10:00:00Z`));
const dayBefore = (days: number) => new Date(Date.parse(`${today}T00:00:00Z`) - days * 86_400_000).toISOString().slice(0, 10);

beforeAll(async () => {
  business = await openBusiness();
  const { siteId, supplierId } = business;
  const policies = [{ siteId, reorderPoint: '4', orderUpTo: '6' }];
  steady = await business.item('ST-1', { policies, suppliers: [{ supplierId, packSize: '6', leadDays: 4 }] });
  lumpy = await business.item('LU-1', { suppliers: [{ supplierId }] });
  plain = await business.item('NO-1');
  at(dayBefore(140));
  await stocked(business, steady, '900');
  await stocked(business, lumpy, '900');
  for (let days = 140; days > 0; days -= 2) {
    at(dayBefore(days));
    await sold(business, steady, String(7 + (days % 3)), today);
    if (days % 28 === 0) await sold(business, lumpy, '20', today);
  }
  // Three receipts that took two, four and six days; the goods are of another item, so that the supplier is known by all it sent.
  for (const [days, took] of [
    [60, 2],
    [40, 4],
    [20, 6],
  ] as const) {
    at(dayBefore(days));
    const order = await ordered(business, plain, '1', '2.00', today);
    at(dayBefore(days - took));
    await business.owner.get(receiving.receive, { body: { lines: [{ lineId: order.lineId, quantity: '1', binId: business.bins[0] as number }] } });
  }
  at(today);
}, 60_000);
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const list = async (query: Partial<levels.LevelFilter> = {}) => (await business.owner.get(levels.listLevels, { query })).rows;
const rowOf = async (sku: string) => (await list()).find((row) => row.sku === sku);
const detail = (itemId: number) => business.owner.get(levels.getLevel, { params: { itemId, siteId: business.siteId } });
async function look() {
  const { look } = await business.owner.get(levels.startLook);
  for (;;) {
    const now = (await business.owner.get(levels.lastLook)).look;
    if (now?.endedAt && now.id === look.id) return now;
    await new Promise((later) => setTimeout(later, 20));
  }
}

describe('what the past says', () => {
  test('a look goes over all items, and says how it ended', async () => {
    expect(await rowOf('LU-1')).toBeUndefined();
    expect(await look()).toMatchObject({ state: 'done', done: 3, total: 3, fault: '', askedBy: 'Owner' });
    expect((await list({ state: 'unset' })).map(({ sku }) => sku)).toEqual(['LU-1']);
    expect((await list({ state: 'differs' })).map(({ sku }) => sku)).toEqual(['LU-1', 'ST-1']);
    expect(await rowOf('NO-1')).toBeUndefined();
    const row = await rowOf('ST-1');
    // 8 every other day, on average.
    expect(Number(row?.suggested?.perDay)).toBeCloseTo(4, 0);
    expect(row?.suggested).toMatchObject({ pattern: 'steady', decision: null });
    expect((await rowOf('LU-1'))?.suggested?.pattern).toBe('lumpy');
  });

  test('one sees how it was reckoned, from receipts that really came', async () => {
    const { past } = await detail(steady);
    expect(past?.weeks).toHaveLength(20);
    expect(past?.weeks.reduce((all, { wanted }) => all + wanted, 0)).toBeCloseTo(
      Array.from({ length: 70 }, (_, nth) => 140 - 2 * nth).reduce((all, days) => all + 7 + (days % 3), 0),
      9,
    );
    // Of the item itself one came, on the day it was ordered; of all its supplier sent five: 0, 0, 2, 4 and 6 days.
    expect(past?.lead).toMatchObject({ from: 'all', seen: 5, days: 2.4, source: 'Hexley Joinery' });
    expect(past?.lead.spread).toBeCloseTo(Math.sqrt((2 * 2.4 ** 2 + 0.4 ** 2 + 1.6 ** 2 + 3.6 ** 2) / 4), 9);
    expect(past?.service).toBe(90);
    const { perDay, spread, lead, quantile, safety } = past as NonNullable<typeof past>;
    expect(safety).toBeCloseTo(quantile * Math.sqrt(lead.days * spread ** 2 + perDay ** 2 * lead.spread ** 2), 9);
    expect(Number(past?.point)).toBe(Math.ceil(perDay * lead.days + safety));
    expect(past?.tried.map(({ weeks, said }) => [weeks, said.length])).toEqual([
      [6, 6],
      [6, 6],
      [6, 6],
    ]);
    // With so little as there is it would often have been out; as suggested, less often.
    expect(past?.now?.daysOut).toBeGreaterThan(past?.suggested.daysOut ?? 0);
  });

  test('an item that was never wanted says nothing, whatever lies there', async () => {
    expect((await detail(plain)).past).toBeNull();
  });

  test('days of a fair do not count, unless they are to', async () => {
    at(dayBefore(3));
    await sold(business, steady, '300', today);
    at(today);
    const usual = (await rowOf('ST-1'))?.suggested?.perDay;
    const loud = (await detail(steady)).past;
    expect(Math.max(...(loud?.weeks.map(({ wanted }) => wanted) ?? []))).toBeGreaterThan(300);
    const form: levels.EventForm = { name: 'Harbour fair', startsOn: dayBefore(3), endsOn: dayBefore(3), itemId: steady };
    const { id } = await business.owner.get(levels.createEvent, { body: form });
    const calm = await detail(steady);
    expect(calm.past?.apart).toBe(1);
    expect(Math.max(...(calm.past?.weeks.map(({ wanted }) => wanted) ?? []))).toBeLessThan(40);
    expect(calm.events).toEqual([{ id, name: 'Harbour fair', startsOn: dayBefore(3), endsOn: dayBefore(3), counts: false }]);
    await look();
    expect(Number((await rowOf('ST-1'))?.suggested?.perDay)).toBeCloseTo(Number(usual), 0);
    await business.owner.get(levels.changeEvent, { params: { id }, body: { ...form, counts: true } });
    expect((await detail(steady)).past).toMatchObject({ apart: 0 });
    await business.owner.get(levels.changeEvent, { params: { id }, body: form });
    expect((await business.owner.get(levels.listEvents)).rows.map(({ name, sku }) => [name, sku])).toEqual([['Harbour fair', 'ST-1']]);
    const bad = await business.owner.ask(levels.createEvent, { body: { ...form, endsOn: dayBefore(9) } });
    expect(bad.problem.errors).toEqual([{ field: 'endsOn', sentence: 'It ends before it begins.' }]);
    expect((await business.owner.ask(levels.createEvent, { body: { ...form, itemId: 9999 } })).problem.errors[0]?.field).toBe('itemId');
  });
});

describe('what is decided', () => {
  test('nothing changes by itself; taken as it is, it is the level, and no longer differs', async () => {
    const before = await rowOf('ST-1');
    expect([before?.reorderPoint, before?.orderUpTo]).toEqual(['4', '6']);
    const body = { decision: 'accept' as const, rows: [{ itemId: steady, siteId: business.siteId }] };
    expect(await business.owner.get(levels.decideLevels, { body })).toEqual({ count: 1 });
    const after = await rowOf('ST-1');
    expect([after?.reorderPoint, after?.orderUpTo, after?.suggested?.decision]).toEqual([before?.suggested?.point, before?.suggested?.upTo, 'accepted']);
    expect((await list({ state: 'differs' })).map(({ sku }) => sku)).toEqual(['LU-1']);
    const item = await business.owner.get(catalog.getItem, { params: { id: steady } });
    expect(item.policies[0]).toMatchObject({ reorderPoint: before?.suggested?.point });
  });

  test('changed it is taken so, and told; what does not go together is refused by its field', async () => {
    const row = { itemId: lumpy, siteId: business.siteId };
    const refused = await business.owner.ask(levels.decideLevels, { body: { decision: 'accept', rows: [{ ...row, point: '50', upTo: '40' }] } });
    expect(refused.problem.errors).toEqual([{ field: 'rows.0.upTo', sentence: 'Order up to more than the reorder point.' }]);
    await business.owner.get(levels.decideLevels, { body: { decision: 'accept', rows: [{ ...row, point: '20', upTo: '60' }] } });
    expect(await rowOf('LU-1')).toMatchObject({ reorderPoint: '20', orderUpTo: '60', suggested: { decision: 'changed' } });
  });

  test('refused with a reason it is asked no more while the past says the same', async () => {
    const rows = [{ itemId: lumpy, siteId: business.siteId }];
    const without = await business.owner.ask(levels.decideLevels, { body: { decision: 'refuse', rows, reason: ' ' } });
    expect(without.problem.errors[0]).toEqual({ field: 'reason', sentence: 'This must be filled.' });
    await business.owner.get(levels.decideLevels, { body: { decision: 'refuse', rows, reason: 'The school pays in autumn only.' } });
    await look();
    expect((await list({ state: 'refused' })).map(({ sku, suggested }) => [sku, suggested?.reason])).toEqual([['LU-1', 'The school pays in autumn only.']]);
    expect((await list({ state: 'differs' })).map(({ sku }) => sku)).not.toContain('LU-1');
    for (const days of [6, 5, 4, 3, 2, 1]) {
      at(dayBefore(days));
      await sold(business, lumpy, '90', today);
    }
    at(today);
    await look();
    expect((await rowOf('LU-1'))?.suggested?.decision).toBeNull();
  });

  test('all that differ in a list are taken at once; nothing left to take is said', async () => {
    const body = { decision: 'accept' as const, rows: null, filter: { q: 'LU' } };
    expect(await business.owner.get(levels.decideLevels, { body })).toEqual({ count: 1 });
    expect((await business.owner.ask(levels.decideLevels, { body })).problem.title).toBe('Nothing in this list is suggested otherwise than it is.');
    const nothing = await business.owner.ask(levels.decideLevels, { body: { decision: 'accept', rows: [{ itemId: plain, siteId: business.siteId }] } });
    expect(nothing.problem.errors[0]).toEqual({ field: 'rows.0', sentence: 'Nothing is suggested for NO-1 at Barn store.' });
  });
});

describe('levels for many', () => {
  test('what is given is set on all, what is not stays; a wrong one changes none', async () => {
    const { siteId, otherSiteId } = business;
    const rows = [
      { itemId: steady, siteId },
      { itemId: plain, siteId: otherSiteId },
    ];
    const before = await rowOf('ST-1');
    expect(await business.owner.get(levels.setLevels, { body: { rows, set: { coverDays: 21, way: 'buy' } } })).toEqual({ count: 2 });
    expect(await rowOf('ST-1')).toMatchObject({ reorderPoint: before?.reorderPoint, coverDays: 21, way: 'buy' });
    expect(await rowOf('NO-1')).toMatchObject({ siteId: otherSiteId, reorderPoint: null, coverDays: 21 });
    const one = await business.owner.ask(levels.setLevels, { body: { rows, set: { reorderPoint: '5' } } });
    expect(one.problem.errors.map(({ field, sentence }) => `${field}: ${sentence}`)).toEqual([
      'set.orderUpTo: NO-1 at Harbour shop: Give the reorder point and the order-up-to level together.',
    ]);
    const itself = await business.owner.ask(levels.setLevels, { body: { rows, set: { way: `bring ${siteId}` } } });
    expect(itself.problem.errors[0]?.sentence).toBe('ST-1 at Barn store: A site cannot bring from itself.');
    expect((await business.owner.ask(levels.setLevels, { body: { rows, set: { packSize: '0' } } })).problem.errors[0]).toEqual({
      field: 'set.packSize',
      sentence: 'The quantity must be more than zero.',
    });
    expect((await business.owner.ask(levels.setLevels, { body: { rows, set: {} } })).problem.errors[0]?.sentence).toBe('Say what to set.');
    expect((await rowOf('ST-1'))?.way).toBe('buy');
  });

  test('days to cover raise the point and the level alike, and top up goes by them', async () => {
    const row = await rowOf('ST-1');
    const cover = Math.ceil(21 * Number(row?.suggested?.perDay));
    expect(Number(row?.point)).toBe(Math.max(cover, Number(row?.reorderPoint)));
    expect(Number(row?.upTo) - Number(row?.point)).toBe(Number(row?.orderUpTo) - Number(row?.reorderPoint));
    await business.owner.get(levels.setLevels, { body: { rows: [{ itemId: steady, siteId: business.siteId }], set: { coverDays: 300 } } });
    const raised = await rowOf('ST-1');
    const proposal = (await business.owner.get(planning.topUpList, { query: {} })).rows.find(({ sku }) => sku === 'ST-1');
    expect(proposal).toMatchObject({ reorderPoint: raised?.point, orderUpTo: raised?.upTo });
  });

  test('an item form that is saved keeps what is known of its demand', async () => {
    const item = await business.owner.get(catalog.getItem, { params: { id: steady } });
    const { id: _id, family: _family, category: _category, unit: _unit, step: _step, policies, suppliers, barcodes, units, substitutes, ...rest } = item;
    const body = {
      ...rest,
      policies: policies.map(({ bin: _bin, ...policy }) => ({ ...policy, packSize: '4' })),
      suppliers: suppliers.map(({ supplier: _supplier, ...row }) => row),
      barcodes: barcodes.map(({ code }) => code),
      units: units.map(({ unit: _name, ...row }) => row),
      substitutes: substitutes.map(({ itemId }) => itemId),
    };
    const saved = await business.owner.get(catalog.editItem, { params: { id: steady }, body });
    expect(saved.policies[0]).toMatchObject({ coverDays: 300, packSize: '4', way: 'buy' });
    const [kept] = await transaction(business.pool, 'snapshot', (tx) =>
      tx.db.select({ perDay: itemPolicy.perDay }).from(itemPolicy).where(eq(itemPolicy.itemId, steady)),
    );
    expect(kept?.perDay).not.toBeNull();
    const wrong = await business.owner.ask(catalog.editItem, {
      params: { id: steady },
      body: { ...body, version: saved.version, policies: body.policies.map((policy) => ({ ...policy, way: 'buy 9999' as const })) },
    });
    expect(wrong.problem.errors[0]).toEqual({ field: 'policies.0.way', sentence: 'It is not bought from this supplier; choose one of its own.' });
  });
});

describe('looks at the past', () => {
  test('one at a time, and stopped it says so', async () => {
    const { look: first } = await business.owner.get(levels.startLook);
    expect((await business.owner.ask(levels.stopLook, { params: { id: first.id + 1 } })).problem.title).toBe('The past is not being looked at.');
    while (!(await business.owner.get(levels.lastLook)).look?.endedAt) await new Promise((later) => setTimeout(later, 20));
    // Stopped before it has begun, it ends with its first items.
    const runId = await transaction(business.pool, 'write', async () => dueLook(business.pool, new Date('2026-04-01T10:00:00Z')));
    expect(await dueLook(business.pool, new Date('2026-04-02T10:00:00Z'))).toBeNull();
    at('2026-04-01');
    const desk = await business.as('Stock controller');
    expect((await desk.ask(levels.startLook)).problem.title).toBe('The past is being looked at already.');
    await desk.get(levels.stopLook, { params: { id: runId as number } });
    await lookAtAll(business.pool, { runId: runId as number, now: business.clock.now });
    expect((await desk.get(levels.lastLook)).look).toMatchObject({ state: 'stopped', askedBy: null });
    // Two minutes without a word: its server has gone.
    await dueLook(business.pool, new Date('2026-04-20T10:00:00Z'));
    business.clock.now = new Date('2026-04-20T10:02:00Z');
    const later = await business.as('Stock controller');
    expect((await later.get(levels.lastLook)).look?.state).toBe('failed');
    expect((await later.ask(levels.startLook)).status).toBe(200);
  });

  test('who may only look sees levels and changes none', async () => {
    const looker = await business.as('Onlooker');
    expect((await looker.get(levels.listLevels, { query: {} })).rows.length).toBeGreaterThan(0);
    for (const denied of [
      looker.ask(levels.startLook),
      looker.ask(levels.setLevels, { body: { rows: [{ itemId: steady, siteId: business.siteId }], set: { coverDays: 1 } } }),
      looker.ask(levels.decideLevels, { body: { decision: 'accept', rows: null } }),
    ])
      expect((await denied).status).toBe(403);
  });
});
