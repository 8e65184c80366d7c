import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import * as books from '@larder/contract/books';
import * as inbound from '@larder/contract/inbound';
import * as lots from '@larder/contract/lots';
import * as making from '@larder/contract/making';
import * as picking from '@larder/contract/picking';
import * as post from '@larder/contract/post';
import * as recalls from '@larder/contract/recalls';
import * as shipping from '@larder/contract/shipping';
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as receiving from '@larder/contract/receiving';
import * as setup from '@larder/contract/setup';
import * as work from '@larder/contract/workOrders';
import * as workRecords from '@larder/contract/workRecords';
import { openBusiness, type Business } from '../../testing/business';
import { ordered, sold, stocked } from '../../testing/trade';
import { lineOf, of, Workshop, type Order, type WorkPart } from '../../testing/workshop';

/** Work from its planning to what was made: what is reserved, taken, used and made, what it costs, and how each step is turned round. */
let business: Business;
let owner: Business['owner'];
let shop: Workshop;
beforeAll(async () => {
  business = await openBusiness();
  owner = business.owner;
  shop = await Workshop.of(business);
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

let count = 0;
let hive: number, board: number, screw: number;
/** A hive of four boards and eight screws, half an hour of a joiner at 20.00; 40 boards at 2.00 and 80 screws at 0.05 lie in A-1. */
beforeEach(async () => {
  business.clock.now = new Date('2026-03-10T10:00:00Z');
  await shop.begin();
  await shop.stock();
  ({ count, hive, board, screw } = shop);
});

describe('planning', () => {
  test('takes what the bill says; released, its parts are reserved and its output is to come', async () => {
    const order = await shop.planned({ release: false });
    expect(order).toMatchObject({ state: 'planned', quantity: '5', dueOn: '2026-03-13', costs: [{ name: 'Joiner', quantity: '2.5', rate: '20' }] });
    expect(order.lines.map(({ itemId, needed, reserved }) => [itemId, needed, reserved])).toEqual([
      [board, '20', '0'],
      [screw, '40', '0'],
    ]);
    expect(await shop.figures(hive)).toMatchObject({ onOrder: '0' });
    const preview = await owner.ask(work.releaseWorkOrder, { ...of(order.id), body: { version: order.version } }, { preview: true });
    expect(preview.data.effects.rows.filter(({ itemId }) => itemId === board).map(({ measure, after }) => [measure, after])).toEqual([
      ['reserved', '20'],
      ['free', '20'],
    ]);
    await owner.get(work.releaseWorkOrder, { ...of(order.id), body: { version: order.version } });
    expect(await shop.figures(board)).toMatchObject({ reserved: '20', free: '20' });
    expect(await shop.figures(hive)).toMatchObject({ onOrder: '5' });
    expect(await shop.look(order.id)).toMatchObject({ state: 'released', released: true });
  });

  test('what is short says when it will have come, and is served as it comes', async () => {
    const order = await shop.planned({ quantity: '12' });
    expect(lineOf(order, board)).toMatchObject({ reserved: '40', short: '8', comesOn: null });
    const { lineId } = await ordered(business, board, '30', '2.00', '2026-03-14');
    expect(lineOf(await shop.look(order.id), board).comesOn).toBe('2026-03-14');
    await owner.get(receiving.receive, { body: { lines: [{ lineId, quantity: '30', binId: business.bins[0] as number }] } });
    expect(lineOf(await shop.look(order.id), board)).toMatchObject({ reserved: '48', short: '0' });
  });

  test('another version of the bill changes nothing of what was ordered by the old one', async () => {
    const order = await shop.planned();
    await owner.get(making.createBom, { body: { itemId: hive, startsOn: '2026-03-10', parts: [{ itemId: board, quantity: '9' }] } });
    expect(lineOf(await shop.look(order.id), board).needed).toBe('20');
    expect(lineOf(await shop.planned({ release: false }), board).needed).toBe('45');
  });

  test('lines, quantity and days can be changed as far as nothing happened; a part that was taken stays', async () => {
    const order = await shop.planned();
    const roof = await business.item(`ROOF-${count}`, { purchasePrice: '8.00' });
    await shop.take(order, { [screw]: '8' });
    const components = (lines: { id: number | null; itemId: number; quantity: string }[]) => ({
      ...of(order.id),
      body: { version: order.version, quantity: '4', startsOn: '2026-03-12', dueOn: '2026-03-16', steps: '', note: '', components: lines, costs: [] },
    });
    const without = await owner.ask(work.changeWorkOrder, components([{ id: lineOf(order, board).id, itemId: board, quantity: '16' }]));
    expect(without.problem.title).toMatch(/8 of SCREW-\d+ are taken already/);
    await owner.get(
      work.changeWorkOrder,
      components([
        { id: lineOf(order, screw).id, itemId: screw, quantity: '32' },
        { id: null, itemId: roof, quantity: '4' },
      ]),
    );
    const now = await shop.look(order.id);
    expect(now.lines.map(({ itemId, needed, taken, short }) => [itemId, needed, taken, short])).toEqual([
      [screw, '32', '8', '0'],
      [roof, '4', '0', '4'],
    ]);
    expect(await shop.figures(board)).toMatchObject({ reserved: '0' });
    expect([now.quantity, now.startsOn, now.dueOn]).toEqual(['4', '2026-03-12', '2026-03-16']);
    await owner.get(work.moveWorkOrder, { ...of(order.id), body: { version: now.version, startsOn: '2026-03-20' } });
    expect(await shop.look(order.id)).toMatchObject({ startsOn: '2026-03-20', dueOn: '2026-03-24' });
  });

  test('what else comes of it follows how many are made, as far as it was not made already', async () => {
    const [sheet, offcut] = [await business.item(`CUT-${count}`, { purchasePrice: null }), await business.item(`OFF-${count}`, { purchasePrice: null })];
    await owner.get(making.createBom, {
      body: { itemId: sheet, startsOn: '2026-03-01', parts: [{ itemId: board, quantity: '1' }], byProducts: [{ itemId: offcut, quantity: '3' }] },
    });
    const order = await shop.planned({ itemId: sheet, quantity: '4' });
    expect(order.products.map(({ quantity }) => quantity)).toEqual(['4', '12']);
    const body = (version: number, quantity: string) => ({
      ...{ version, quantity, startsOn: '2026-03-11', dueOn: '2026-03-14', steps: '', note: '' },
      ...{ components: [{ id: lineOf(order, board).id, itemId: board, quantity }], costs: [] },
    });
    await owner.get(work.changeWorkOrder, { ...of(order.id), body: body(order.version, '5') });
    const now = await shop.look(order.id);
    expect(now.products.map(({ quantity }) => quantity)).toEqual(['5', '15']);
    expect(await shop.figures(offcut)).toMatchObject({ onOrder: '15' });
    await shop.take(now);
    const made = now.products.map(({ id }, index) => ({ lineId: id, quantity: index === 0 ? '2' : '9' }));
    await owner.get(workRecords.recordWork, {
      ...of(order.id),
      body: { version: (await shop.look(order.id)).version, used: [{ lineId: lineOf(now, board).id, quantity: '2' }], made, otherCost: true },
    });
    await owner.get(work.changeWorkOrder, { ...of(order.id), body: body((await shop.look(order.id)).version, '3') });
    const less = await shop.look(order.id);
    expect(less.products.map(({ quantity, made: done }) => [quantity, done])).toEqual([
      ['3', '2'],
      ['9', '9'],
    ]);
    // Five boards are taken, three are needed: it is moved all the same.
    await owner.get(work.moveWorkOrder, { ...of(order.id), body: { version: less.version, startsOn: '2026-03-12' } });
    expect(lineOf(await shop.look(order.id), board)).toMatchObject({ needed: '3', taken: '5', reserved: '0', short: '0' });
  });

  test('refuses what cannot be: nothing to make, no parts, a part that is what is made, a day that has passed', async () => {
    const fields = async (part: WorkPart) => (await shop.create(part)).problem.errors.map(({ field }) => field);
    expect(await fields({ quantity: '0' })).toEqual(['quantity']);
    expect(await fields({ quantity: '-2' })).toContain('quantity');
    expect(await fields({ itemId: board })).toEqual(['components']);
    expect(await fields({ components: [{ itemId: hive, quantity: '1' }] })).toEqual(['components.0.itemId']);
    const cost = { name: 'Saw', per: 'hour' as const, quantity: '1', rate: '9.00', accountId: shop.labour };
    expect(await fields({ costs: [cost, { ...cost, name: 'saw' }] })).toEqual(['costs.1.name']);
    expect(await fields({ costs: [{ ...cost, accountId: 1200 }] })).toEqual(['costs.0.accountId']);
    expect(await fields({ startsOn: '2026-03-09' })).toEqual(['startsOn']);
    expect(await fields({ dueOn: '2026-03-10' })).toEqual(['dueOn']);
  });

  test('its release is taken back while nothing was taken, and a cancelled one brings back what was', async () => {
    const order = await shop.planned();
    await owner.get(work.holdWorkOrder, { ...of(order.id), body: { version: order.version } });
    expect(await shop.figures(board)).toMatchObject({ reserved: '0' });
    await owner.get(work.releaseWorkOrder, { ...of(order.id), body: { version: order.version + 1 } });
    const picked = await shop.take(order, { [board]: '12' });
    const held = await owner.ask(work.holdWorkOrder, { ...of(order.id), body: { version: order.version + 2 } });
    expect(held.problem.title).toContain('Bring them back first');
    await owner.get(work.cancelWorkOrder, { ...of(order.id), body: { version: order.version + 2 } });
    expect(await shop.figures(board)).toEqual({ onHand: '40', reserved: '0', free: '40', short: '0', onOrder: '0' });
    expect(await shop.look(order.id)).toMatchObject({ state: 'cancelled', atWork: '0' });
    expect((await shop.undo(picked.data.movementId)).problem.title).toContain('cancelled');
    await owner.get(work.reopenWorkOrder, { ...of(order.id), body: { version: order.version + 3 } });
    expect(await shop.figures(board)).toMatchObject({ reserved: '20' });
  });
});

describe('taking parts', () => {
  test('stands in the common queue and goes in a round beside orders; brought back, it is reserved again', async () => {
    const order = await shop.planned();
    const sale = await sold(business, screw, '5');
    const { rows } = await owner.get(picking.pickQueue, { query: { siteId: business.siteId, kind: 'work' } });
    expect(rows.find(({ orderId }) => orderId === order.id)).toMatchObject({ kind: 'work', number: order.number, customer: `HIVE-${count}`, pieces: '60' });
    const round = await owner.get(picking.startRound, { body: { siteId: business.siteId, orderIds: [sale.id], workOrderIds: [order.id] } });
    const found = await owner.get(picking.getRound, of(round.id));
    expect(found.slots.map(({ kind, number }) => [kind, number])).toEqual(
      expect.arrayContaining([
        ['sales', sale.number],
        ['work', order.number],
      ]),
    );
    const lines = found.rows.map(({ lineId, binId, take: quantity }) => ({ lineId, binId, quantity }));
    await owner.get(picking.pickRound, { ...of(round.id), body: { lines, ends: true } });
    expect(await shop.look(order.id)).toMatchObject({ state: 'picked', atWork: '60' });
    expect(await shop.figures(board)).toMatchObject({ onHand: '20', reserved: '0' });
    await owner.get(work.bringBack, {
      ...of(order.id),
      body: { lines: [{ lineId: lineOf(order, board).id, binId: business.bins[1] as number, quantity: '3' }] },
    });
    expect(lineOf(await shop.look(order.id), board)).toMatchObject({ taken: '17', atWork: '17', reserved: '3' });
    const more = await owner.ask(work.bringBack, {
      ...of(order.id),
      body: { lines: [{ lineId: lineOf(order, board).id, binId: business.bins[1] as number, quantity: '18' }] },
    });
    expect(more.problem.errors).toMatchObject([{ field: 'lines.0.quantity', sentence: `Only 17 of BOARD-${count} are at the work of ${order.number}.` }]);
  });

  test('takes more than the order says, and a part it does not say; undone, it wants what it wanted', async () => {
    const order = await shop.planned({ quantity: '1' });
    const glue = await business.item(`GLUE-${count}`, { purchasePrice: '3.00' });
    await stocked(business, glue, '2', '3.00');
    const boards = { lineId: lineOf(order, board).id, quantity: '6' };
    const { rows } = await owner.get(work.workTaking, { ...of(order.id), body: { lines: [boards] } });
    expect(rows.map(({ bin, take: many }) => [bin, many])).toEqual([['A-1', '6']]);
    const body = { lines: [{ ...boards, binId: business.bins[0] as number }] };
    const preview = await owner.ask(work.pickWorkOrder, { ...of(order.id), body }, { preview: true });
    const posted = await owner.get(work.pickWorkOrder, { ...of(order.id), body });
    expect(preview.data.effects).toEqual(posted.effects);
    expect(lineOf(await shop.look(order.id), board)).toMatchObject({ needed: '4', taken: '6', wanted: '0', short: '0' });
    // Two boards more are no screws.
    expect(await shop.look(order.id)).toMatchObject({ state: 'released', taken: '4', needed: '12' });
    const back = await shop.undo(posted.movementId);
    expect([back.status, back.problem.title]).toEqual([200, undefined]);
    expect(lineOf(await shop.look(order.id), board)).toMatchObject({ taken: '0', wanted: '4', reserved: '4' });
    const { lineId } = await owner.get(work.addComponent, { ...of(order.id), body: { itemId: glue, quantity: '1' } });
    expect(lineOf(await shop.look(order.id), glue)).toMatchObject({ id: lineId, needed: '0', wanted: '0' });
    await owner.get(work.pickWorkOrder, { ...of(order.id), body: { lines: [{ lineId: lineId as number, binId: business.bins[0] as number, quantity: '1' }] } });
    expect(lineOf(await shop.look(order.id), glue)).toMatchObject({ taken: '1', atWork: '1' });
  });
});

describe('recording', () => {
  test('values what was made by what was used and the work; all of it leaves work in progress', async () => {
    const before = [await shop.balance('1250'), await shop.balance('5400')];
    const order = await shop.planned();
    await shop.take(order);
    const preview = await owner.ask(
      workRecords.recordWork,
      {
        ...of(order.id),
        body: {
          version: order.version,
          used: order.lines.map((line) => ({ lineId: line.id, quantity: line.needed })),
          made: [{ lineId: order.products[0]?.id as number, quantity: '5' }],
          charges: [{ name: 'Joiner', per: 'hour', quantity: '2.5', rate: '20.00', accountId: shop.labour }],
        },
      },
      { preview: true },
    );
    // 20 boards at 2.00, 40 screws at 0.05 and 2.5 hours at 20.00 are 92.00.
    expect(preview.data.outcome).toMatchObject({
      ends: true,
      after: '0.00',
      variance: '0.00',
      charged: '50.00',
      outputs: [{ quantity: '5', value: '92.00', unitCost: '18.4000', rolledUp: '18.4000' }],
    });
    expect((await shop.look(order.id)).records).toEqual([]);
    const done = await shop.record(order.id, '5');
    expect([done.status, done.problem.title]).toEqual([200, undefined]);
    expect(done.data.outcome).toEqual(preview.data.outcome);
    expect(await shop.look(order.id)).toMatchObject({
      state: 'made',
      ended: true,
      made: '5',
      inProgress: '0.00',
      records: [{ made: '5', value: '92.00', hours: '2.5' }],
    });
    expect([await shop.value(hive), await shop.value(board), await shop.value(screw)]).toEqual(['92.00', '40.00', '2.00']);
    expect(await shop.figures(hive)).toMatchObject({ onHand: '5', onOrder: '0' });
    expect([await shop.balance('1250'), await shop.balance('5400')]).toEqual([before[0], (before[1] ?? 0) - 50]);
    expect((await shop.record(order.id, '5')).problem.title).toContain('is completed');
  });

  test('a part of it leaves in proportion; the last takes the rest: 3 made from 10.00 are 3.33, 3.34 and 3.33', async () => {
    const [toy, block] = [await business.item(`TOY-${count}`, { purchasePrice: null }), await business.item(`BLOCK-${count}`, { purchasePrice: '2.00' })];
    await stocked(business, block, '5', '2.00');
    const order = await shop.planned({ itemId: toy, quantity: '3', components: [{ itemId: block, quantity: '5' }], costs: [] });
    await shop.take(order);
    const values: (string | undefined)[] = [];
    for (const many of ['1', '1', '1']) {
      const { data, problem } = await shop.record(order.id, many, { charges: [] }, { [block]: values.length === 0 ? '5' : '0' });
      if (problem.title) throw new Error(problem.title);
      values.push(data.outcome.outputs[0]?.value);
    }
    expect(values).toEqual(['3.33', '3.34', '3.33']);
    expect(await shop.look(order.id)).toMatchObject({ inProgress: '0.00', ended: true });
  });

  test('what is in progress opens into its work orders, to the cent, and is none of those that are completed', async () => {
    const [one, other] = [await shop.planned({ quantity: '2' }), await shop.planned({ quantity: '1' })];
    await shop.take(one);
    await shop.take(other);
    await shop.record(one.id, '1', { made: [], charges: [] });
    expect((await shop.record(other.id, '1')).status).toBe(200);
    const { rows } = await owner.get(books.listAccounts);
    const account = await owner.get(books.getAccount, of(rows.find(({ purpose }) => purpose === 'work-in-progress')?.id as number));
    const open = account.openItems ?? [];
    expect(
      open
        .map(({ document, amount }) => [document?.kind, document?.number, amount])
        .filter(([, number]) => [one.number, other.number].includes(number as string)),
    ).toEqual([['work order', one.number, '8.40']]);
    expect(open.reduce((sum, { amount }) => sum + Math.round(Number(amount) * 100), 0)).toBe(Math.round(Number(account.balance) * 100));
  });

  test('is undone from the last, with what it charged and the order going on; refused once what was made has left', async () => {
    const before = await shop.balance('5400');
    const order = await shop.planned();
    await shop.take(order);
    const first = await shop.record(order.id, '2');
    const last = await shop.record(order.id, '3');
    const early = await shop.undo(first.data.movementId);
    expect(early.problem.title).toContain('More was recorded');
    expect((await shop.undo(last.data.movementId)).status).toBe(200);
    expect(await shop.look(order.id)).toMatchObject({ state: 'part made', ended: false, made: '2', inProgress: '0.00' });
    expect((await shop.undo(first.data.movementId)).status).toBe(200);
    expect(await shop.look(order.id)).toMatchObject({ state: 'picked', made: '0', inProgress: '0.00' });
    expect([await shop.value(hive), await shop.value(board), await shop.balance('5400')]).toEqual(['0.00', '80.00', before]);
    const again = await shop.record(order.id, '5');
    const sale = await sold(business, hive, '1');
    await owner.get(picking.pick, {
      body: { orderId: sale.id, lines: [{ lineId: sale.lineId, binId: (await shop.look(order.id)).products[0]?.binId as number, quantity: '1' }] },
    });
    const refused = await shop.undo(again.data.movementId);
    expect(refused.problem.title).toContain('cannot be undone');
  });

  test('scrapped output bears no value, and counts as made; more than was ordered is asked about', async () => {
    const order = await shop.planned({ quantity: '4' });
    await shop.take(order);
    const product = order.products[0]?.id as number;
    const over = await shop.record(order.id, '4', { made: [{ lineId: product, quantity: '4', scrapped: '1' }] });
    expect([over.problem.type, over.problem.errors[0]?.field]).toEqual(['more-than-ordered', 'made.0.quantity']);
    const done = await shop.record(order.id, '3', { made: [{ lineId: product, quantity: '3', scrapped: '1' }] }, { [board]: '16', [screw]: '32' });
    expect(done.data.outcome.outputs[0]).toMatchObject({ quantity: '3', value: '63.60' });
    expect(await shop.look(order.id)).toMatchObject({ state: 'made', made: '3', scrapped: '1', quantity: '4' });
    expect((await shop.undo(done.data.movementId)).status).toBe(200);
    expect(await shop.look(order.id)).toMatchObject({ made: '0', scrapped: '0', quantity: '4', ended: false });
    const more = await shop.record(order.id, '5', { moreThanOrdered: true }, { [board]: '16', [screw]: '32' });
    expect(more.data.outcome.ends).toBe(true);
    expect(await shop.look(order.id)).toMatchObject({ made: '5', quantity: '5' });
    expect((await shop.undo(more.data.movementId)).status).toBe(200);
    expect(await shop.look(order.id)).toMatchObject({ made: '0', quantity: '4' });
  });

  test('the same sheet from two machines is recorded once; nothing recorded is refused', async () => {
    const order = await shop.planned({ quantity: '1' });
    await shop.take(order);
    const body = {
      version: order.version,
      used: order.lines.map((line) => ({ lineId: line.id, quantity: line.needed })),
      made: [{ lineId: order.products[0]?.id as number, quantity: '1' }],
      otherCost: true,
    };
    const both = await Promise.all([
      owner.ask(workRecords.recordWork, { ...of(order.id), body }),
      owner.ask(workRecords.recordWork, { ...of(order.id), body }),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(await shop.figures(hive)).toMatchObject({ onHand: '1' });
    const other = await shop.planned({ quantity: '1' });
    const empty = await owner.ask(workRecords.recordWork, { ...of(other.id), body: { version: other.version } });
    expect(empty.problem.type).toBe('nothing-recorded');
    const negative = await shop.record(other.id, '-1');
    expect(negative.problem.errors.map(({ field }) => field)).toContain('made.0.quantity');
    await shop.take(other);
    const unused = await shop.record(other.id, '1', { used: [] });
    expect([unused.problem.type, unused.problem.errors[0]?.field]).toEqual(['nothing-used', 'used']);
  });
});

test('hours are charged at the rate of the order, by whoever may not see it; others say their rate and account', async () => {
  const floor = await business.as('Floor');
  const order = await shop.planned({ quantity: '1' });
  await shop.take(order);
  const body = (charges: { name: string; per: 'hour'; quantity: string; rate?: string; accountId?: number }[]) => ({
    ...of(order.id),
    body: {
      version: order.version,
      used: order.lines.map((line) => ({ lineId: line.id, quantity: line.needed })),
      made: [{ lineId: order.products[0]?.id as number, quantity: '1' }],
      charges,
    },
  });
  const unknown = await floor.ask(workRecords.recordWork, body([{ name: 'Painter', per: 'hour', quantity: '1' }]));
  expect(unknown.problem.errors[0]?.field).toBe('charges.0.rate');
  const dear = await floor.ask(workRecords.recordWork, body([{ name: 'Joiner', per: 'hour', quantity: '9' }]));
  expect(dear.problem.title).toBe('What was used for one is far from what its bill says. Is what was used and made right?');
  const done = await floor.ask(workRecords.recordWork, body([{ name: 'Joiner', per: 'hour', quantity: '0.5' }]));
  expect([done.status, done.data.outcome]).toEqual([
    200,
    expect.objectContaining({ after: '', charged: '', outputs: [expect.objectContaining({ unitCost: '', value: '' })] }),
  ]);
  expect((await shop.look(order.id)).records[0]).toMatchObject({ value: '18.40', worker: 'Floor' });
});

describe('the block', () => {
  test('says what was never taken from a shelf, by the line, and is gone once it is taken', async () => {
    const order = await shop.planned({ quantity: '2' });
    await shop.take(order, { [board]: '7', [screw]: '16' });
    const blocked = await shop.record(order.id, '2');
    expect([blocked.status, blocked.problem.type, blocked.problem.errors]).toEqual([
      409,
      'not-taken',
      [{ field: 'used.0.quantity', sentence: `1 each of BOARD-${count} used, never taken from a shelf.` }],
    ]);
    expect(await shop.figures(hive)).toMatchObject({ onHand: '0' });
    await shop.take(order);
    expect((await shop.record(order.id, '2')).status).toBe(200);
  });

  test('is passed by whoever has the right, with a reason: what was not taken stays open until it is recorded, to making variance, or given up', async () => {
    const order = await shop.planned({ quantity: '2' });
    await shop.take(order, { [board]: '6', [screw]: '16' });
    const controller = await business.as('Stock controller');
    const now = await shop.look(order.id);
    const body = {
      version: now.version,
      used: now.lines.map((line) => ({ lineId: line.id, quantity: line.needed })),
      made: [{ lineId: now.products[0]?.id as number, quantity: '2' }],
      untakenReason: 'found on the bench',
      otherCost: true,
    };
    expect((await controller.ask(workRecords.recordWork, { ...of(order.id), body })).status).toBe(403);
    const done = await owner.get(workRecords.recordWork, { ...of(order.id), body });
    // 6 boards and 16 screws were taken: 12.80 for two.
    expect(done.outcome.outputs[0]).toMatchObject({ value: '12.80' });
    const open = (await owner.get(workRecords.listUntaken)).rows.filter(({ workOrderId }) => workOrderId === order.id);
    expect(open).toMatchObject([{ itemId: board, open: '2', reason: 'found on the bench' }]);
    const [row] = open;
    const variance = await shop.balance('5240');
    const recordLine = (quantity: string) =>
      owner.ask(workRecords.recordUntaken, { ...of(row?.id as number), body: { lines: [{ binId: business.bins[0] as number, quantity }] } });
    expect((await recordLine('3')).problem.errors[0]?.field).toBe('lines.0.quantity');
    const late = await recordLine('1');
    expect([late.status, await shop.balance('5240')]).toEqual([200, variance + 2]);
    expect(await shop.figures(board)).toMatchObject({ onHand: '33' });
    expect((await shop.undo(done.movementId)).problem.title).toContain('More was recorded');
    expect((await shop.undo(late.data.movementId)).status).toBe(200);
    expect(await shop.balance('5240')).toBe(variance);
    expect((await controller.ask(workRecords.giveUpUntaken, { ...of(row?.id as number), body: { reason: 'not to be found' } })).status).toBe(403);
    await owner.get(workRecords.giveUpUntaken, { ...of(row?.id as number), body: { reason: 'not to be found' } });
    expect((await owner.get(workRecords.listUntaken)).rows.filter(({ workOrderId }) => workOrderId === order.id)).toEqual([]);
  });

  test('what is left at the work as it is completed goes back to where it was taken from', async () => {
    const order = await shop.planned({ quantity: '2' });
    await shop.take(order);
    const done = await shop.record(order.id, '2', {}, { [board]: '7', [screw]: '16' });
    expect(done.data.outcome.back).toEqual([{ sku: `BOARD-${count}`, quantity: '1', bin: 'A-1' }]);
    expect(await shop.figures(board)).toMatchObject({ onHand: '33', reserved: '0' });
    expect(await shop.look(order.id)).toMatchObject({ atWork: '0', ended: true });
    expect((await shop.undo(done.data.movementId)).status).toBe(200);
    expect(lineOf(await shop.look(order.id), board)).toMatchObject({ taken: '8', used: '0', atWork: '8' });
  });

  test('a cost far from that of the bill is asked about', async () => {
    const order = await shop.planned({ quantity: '2' });
    await shop.take(order);
    const dear = await shop.record(order.id, '2', {}, { [board]: '2' });
    expect([dear.problem.type, dear.problem.errors[0]?.sentence]).toEqual(['other-cost', expect.stringContaining('by its bill to 18.40')]);
    // As far as the business lets it differ, nobody is asked.
    expect((await owner.ask(setup.editCompany, { body: { makingDifference: -1 } })).problem.errors.map(({ field }) => field)).toEqual(['makingDifference']);
    await owner.get(setup.editCompany, { body: { makingDifference: null } });
    expect((await owner.get(setup.reference)).makingDifference).toBeNull();
    expect((await shop.record(order.id, '2', {}, { [board]: '2' })).status).toBe(200);
    await owner.get(setup.editCompany, { body: { makingDifference: 20 } });
  });
});

describe('the rest', () => {
  test('is given up: what was made takes all, and what is reserved is free again', async () => {
    const order = await shop.planned();
    await shop.take(order, { [board]: '8', [screw]: '16' });
    const done = await shop.record(order.id, '2', { rest: 'given up' });
    expect(done.data.outcome).toMatchObject({ ends: true, after: '0.00', outputs: [{ value: '36.80' }] });
    expect(await shop.figures(board)).toMatchObject({ onHand: '32', reserved: '0' });
    expect(await shop.look(order.id)).toMatchObject({ state: 'made', made: '2', quantity: '2' });
    expect((await shop.undo(done.data.movementId)).status).toBe(200);
    expect(await shop.look(order.id)).toMatchObject({ quantity: '5', ended: false });
    expect(await shop.figures(board)).toMatchObject({ reserved: '12' });
  });

  test('becomes an order of its own: what is at the work, reserved and in progress goes on there', async () => {
    const order = await shop.planned();
    await shop.take(order, { [board]: '16', [screw]: '40' });
    await sold(business, board, '24');
    expect(await shop.figures(board)).toMatchObject({ onHand: '24', reserved: '24', short: '4' });
    // Half of all is used already, for two of five: 10 boards and 20 screws, 21.00, and 1.25 hours, 25.00. The two bear two fifths of the whole, 36.80; what is beyond is in the rest.
    const done = await shop.record(
      order.id,
      '2',
      { rest: 'new order', charges: [{ name: 'Joiner', per: 'hour', quantity: '1.25', rate: '20.00', accountId: shop.labour }] },
      { [board]: '10', [screw]: '20' },
    );
    expect(done.data.outcome).toMatchObject({ ends: true, outputs: [{ value: '36.80' }], after: '9.20' });
    const was = await shop.look(order.id);
    expect(was).toMatchObject({ state: 'made', made: '2', quantity: '2', inProgress: '0.00', atWork: '0', rests: [{ number: done.data.restNumber }] });
    const rest = await shop.look(done.data.restId as number);
    expect(rest).toMatchObject({ state: 'released', quantity: '3', inProgress: '9.20', restOf: { number: order.number }, costs: [{ quantity: '1.5' }] });
    expect(lineOf(rest, board)).toMatchObject({ needed: '10', taken: '6', atWork: '6', reserved: '4', short: '0' });
    expect(lineOf(rest, screw)).toMatchObject({ needed: '20', taken: '20', atWork: '20', reserved: '0' });
    expect(await shop.figures(hive)).toMatchObject({ onHand: '2', onOrder: '3' });
    const carried = was.movements[0]?.id as number;
    expect((await shop.undo(done.data.movementId)).problem.title).toContain('Undo what parted them first');
    expect((await shop.undo(carried)).status).toBe(200);
    expect(await shop.look(rest.id)).toMatchObject({ state: 'cancelled', inProgress: '0.00', atWork: '0' });
    expect(await shop.look(order.id)).toMatchObject({ ended: false, quantity: '5', made: '2', inProgress: '9.20' });
    expect((await shop.undo(done.data.movementId)).status).toBe(200);
    expect(await shop.look(order.id)).toMatchObject({ quantity: '5', made: '0', inProgress: '0.00' });
  });

  test('what goes on there is not taken back once something was done on it', async () => {
    const order = await shop.planned();
    await shop.take(order);
    const done = await shop.record(order.id, '2', { rest: 'new order' });
    const rest = await shop.look(done.data.restId as number);
    const finished = await shop.record(rest.id, '3');
    expect([finished.status, finished.data.outcome.outputs[0]?.value]).toEqual([200, '55.20']);
    const carried = (await shop.look(order.id)).movements[0]?.id as number;
    expect((await shop.undo(carried)).problem.title).toMatch(/goes on with this already|More was recorded/);
    expect(await shop.value(hive)).toBe('92.00');
  });
});

const whenAble = existsSync('/usr/bin/pdftotext') ? test : test.skip;
/** The lines of a paper, each with single spaces. */
async function linesOf(path: string): Promise<string[]> {
  const answer = await fetch(`${business.base}${path}`, { headers: { Cookie: owner.cookie } });
  expect([answer.status, answer.headers.get('Content-Type')]).toEqual([200, 'application/pdf']);
  const folder = mkdtempSync(join(tmpdir(), 'job-'));
  writeFileSync(join(folder, 'sheet.pdf'), Buffer.from(await answer.arrayBuffer()));
  const text = execFileSync('pdftotext', ['-layout', join(folder, 'sheet.pdf'), '-'], { encoding: 'utf8' });
  rmSync(folder, { recursive: true });
  return text
    .split('\n')
    .map((line) => line.replaceAll(/\s+/g, ' ').trim())
    .filter(Boolean);
}
whenAble('the job sheet says what to take from where, what to do, and leaves room for what was really used and made', async () => {
  const order = await shop.planned({ steps: 'Nail the box.\nScrew the floor.' });
  await shop.take(order, { [screw]: '40' });
  const lines = await linesOf(`/api/making/orders/${order.id}/job-sheet`);
  expect(lines).toEqual(
    expect.arrayContaining([`Job sheet ${order.number} Test business`, '1. Nail the box.', '2. Screw the floor.', 'Joiner 2.5 hours ______']),
  );
  expect(lines.find((line) => line.startsWith('A-1 BOARD'))).toMatch(/ 20 ______ ______$/);
  expect(lines.find((line) => line.startsWith('at the work SCREW'))).toMatch(/ 40 40 ______$/);
  expect(lines.find((line) => line.startsWith(`HIVE-${count}`) && line.includes('______'))).toContain(' 5 ______ ______ ');
});
whenAble('several are printed at once, each on a page of its own: as job sheets, and as pick lists of what is still to be taken', async () => {
  const orders = [await shop.planned({ quantity: '2' }), await shop.planned({ quantity: '3' })];
  await shop.take(orders[0] as Order, { [screw]: '16' });
  const ids = orders.map(({ id }) => id).join(',');
  const sheets = await linesOf(`/api/making/job-sheets?ids=${ids}`);
  expect(sheets.filter((line) => line.startsWith('Job sheet '))).toEqual(orders.map(({ number }) => `Job sheet ${number} Test business`));
  const lists = await linesOf(`/api/making/pick-lists?ids=${ids}`);
  expect(lists.filter((line) => line.startsWith('Pick list '))).toEqual(orders.map(({ number }) => `Pick list ${number} Test business`));
  // Of the first only boards are still to be taken, of the second both.
  expect(lists.filter((line) => /^A-1 (BOARD|SCREW)-/.test(line)).map((line) => line.replace(/^A-1 (\w+)-.* (\d+) ______$/, '$1 $2'))).toEqual([
    'BOARD 8',
    'BOARD 12',
    'SCREW 24',
  ]);
  expect((await fetch(`${business.base}/api/making/job-sheets?ids=`, { headers: { Cookie: owner.cookie } })).status).toBe(422);
});

describe('lots and serials', () => {
  test('a recall of a supplier’s lot names who got what was made of it, over two makings', async () => {
    const [wax, sheet, frame] = await Promise.all([
      business.item(`RAW-${count}`, { purchasePrice: '9.00', tracking: 'lot' }),
      business.item(`SHEET-${count}`, { purchasePrice: null, tracking: 'lot' }),
      business.item(`FRAME-${count}`, { purchasePrice: null, tracking: 'lot' }),
    ]);
    const binId = business.bins[0] as number;
    const { lineId } = await ordered(business, wax, '4', '9.00');
    await owner.get(receiving.receive, { body: { lines: [{ lineId, quantity: '4', binId, lots: [{ code: `RAW-LOT-${count}`, quantity: '4' }] }] } });
    const make = async (itemId: number, of_: number, used: string, many: string, code: string) => {
      const order = await shop.planned({ itemId, quantity: many, components: [{ itemId: of_, quantity: used }], costs: [] });
      await shop.take(order);
      const now = await shop.look(order.id);
      await owner.get(workRecords.recordWork, {
        ...of(order.id),
        body: {
          version: now.version,
          used: lineOf(now, of_).lots.map(({ lotId, quantity }) => ({ lineId: lineOf(now, of_).id, lotId, quantity })),
          made: [{ lineId: now.products[0]?.id as number, quantity: many, lots: [{ code, quantity: many }], binId }],
        },
      });
      return order;
    };
    const first = await make(sheet, wax, '2', '20', `SHEET-LOT-${count}`);
    await make(frame, sheet, '10', '10', `FRAME-LOT-${count}`);
    const lotOf = async (code: string) => (await owner.get(lots.listLots, { query: { q: code } })).rows.find((row) => row.code === code)?.id as number;
    const frameLot = await lotOf(`FRAME-LOT-${count}`);
    const sale = await sold(business, frame, '3');
    await owner.get(picking.pick, { body: { orderId: sale.id, lines: [{ lineId: sale.lineId, binId, lotId: frameLot, quantity: '3' }] } });
    await owner.get(shipping.dispatch, { body: { orderId: sale.id, lines: [{ lineId: sale.lineId, quantity: '3' }] } });
    const rawLot = await lotOf(`RAW-LOT-${count}`);
    const traced = await owner.get(lots.traceLot, of(rawLot));
    expect(traced.into.map(({ level, sku, lot }) => [level, sku, lot])).toEqual([
      [1, `SHEET-${count}`, `SHEET-LOT-${count}`],
      [2, `FRAME-${count}`, `FRAME-LOT-${count}`],
    ]);
    expect(traced.went).toMatchObject([{ kind: 'made', who: 'went into what was made', document: { number: first.number }, quantity: '2' }]);
    const back = await owner.get(lots.traceLot, of(frameLot));
    expect(back.of.map(({ level, lot }) => [level, lot])).toEqual([
      [1, `SHEET-LOT-${count}`],
      [2, `RAW-LOT-${count}`],
    ]);
    expect(back.came).toMatchObject([{ kind: 'made', who: 'made here', quantity: '10' }]);
    const recall = await owner.get(recalls.recallList, of(rawLot));
    expect(recall.rows).toMatchObject([{ sku: `FRAME-${count}`, lot: `FRAME-LOT-${count}`, quantity: '3', documents: [sale.number] }]);
    const { partyId } = recall.rows[0] as (typeof recall.rows)[number];
    await owner.get(recalls.sendRecall, {
      ...of(rawLot),
      body: { subject: 'About {lot}', text: '{quantity} of {item}', to: [{ partyId, to: 'bees@customer.example' }] },
    });
    const [letter] = (await owner.get(post.listLetters, { query: { q: `FRAME-LOT-${count}` } })).rows;
    expect(letter).toMatchObject({ subject: `About FRAME-LOT-${count}`, to: 'bees@customer.example' });
  });

  test('are told of what goes in and what comes out, and the trace runs through both ways', async () => {
    const wax = await business.item(`WAX-${count}`, { purchasePrice: '9.00', tracking: 'lot' });
    const candle = await business.item(`CANDLE-${count}`, { purchasePrice: null, tracking: 'lot' });
    const { lineId } = await ordered(business, wax, '6', '9.00');
    const at = { binId: business.bins[0] as number };
    await owner.get(receiving.receive, {
      body: {
        lines: [
          {
            ...at,
            lineId,
            quantity: '6',
            lots: [
              { code: 'W-1', useBy: '2026-04-01', quantity: '4' },
              { code: 'W-2', useBy: '2026-05-01', quantity: '2' },
            ],
          },
        ],
      },
    });
    const order = await shop.planned({ itemId: candle, quantity: '12', components: [{ itemId: wax, quantity: '5' }], costs: [] });
    const { rows } = await owner.get(work.workPickList, of(order.id));
    expect(rows.map(({ lot, take: many }) => [lot, many])).toEqual([
      ['W-1', '4'],
      ['W-2', '1'],
    ]);
    await shop.take(order);
    const now = await shop.look(order.id);
    const line = lineOf(now, wax);
    expect(line.lots.map(({ lot, quantity }) => [lot, quantity])).toEqual([
      ['W-1', '4'],
      ['W-2', '1'],
    ]);
    const unnamed = await shop.record(order.id, '12', {
      charges: [],
      made: [{ lineId: now.products[0]?.id as number, quantity: '12', lots: [{ code: `C-${count}`, quantity: '12' }] }],
    });
    expect(unnamed.problem.errors[0]?.sentence).toContain('Say which lots');
    business.clock.now = new Date('2026-03-11T10:00:00Z');
    const done = await owner.ask(workRecords.recordWork, {
      ...of(order.id),
      body: {
        version: now.version,
        used: line.lots.map(({ lotId, quantity }) => ({ lineId: line.id, lotId, quantity })),
        made: [{ lineId: now.products[0]?.id as number, quantity: '12', lots: [{ code: `C-${count}`, useBy: '2027-03-01', quantity: '12' }] }],
      },
    });
    expect([done.status, done.problem.title]).toEqual([200, undefined]);
    expect(done.data.outcome.outputs[0]).toMatchObject({ value: '45.00' });
    const made = (await owner.get(lots.listLots, { query: { q: `C-${count}` } })).rows.find(({ itemId }) => itemId === candle);
    expect(made).toMatchObject({ code: `C-${count}`, useBy: '2027-03-01' });
  });

  test('serials made of one record each cost their part, to the cent; a lot that passed its day at the work is asked about', async () => {
    const part = await business.item(`PART-${count}`, { purchasePrice: '5.00', tracking: 'lot' });
    const unit = await business.item(`UNIT-${count}`, { purchasePrice: null, tracking: 'serial', costMethod: 'specific' });
    const { lineId } = await ordered(business, part, '2', '5.00');
    await owner.get(receiving.receive, {
      body: { lines: [{ lineId, quantity: '2', binId: business.bins[0] as number, lots: [{ code: `P-${count}`, useBy: '2026-03-12', quantity: '2' }] }] },
    });
    const order = await shop.planned({ itemId: unit, quantity: '3', components: [{ itemId: part, quantity: '2' }], costs: [] });
    await shop.take(order);
    business.clock.now = new Date('2026-03-16T10:00:00Z');
    const now = await shop.look(order.id);
    const serials = ['1', '2', '3'].map((nr) => ({ code: `U-${count}-${nr}` }));
    const body = {
      version: now.version,
      used: lineOf(now, part).lots.map(({ lotId, quantity }) => ({ lineId: lineOf(now, part).id, lotId, quantity })),
      made: [{ lineId: now.products[0]?.id as number, quantity: '3', lots: serials }],
    };
    const asked = await owner.ask(workRecords.recordWork, { ...of(order.id), body });
    expect([asked.problem.type, asked.problem.errors[0]?.sentence]).toEqual(['past-use-by', expect.stringContaining('passed its use-by day')]);
    const done = await owner.ask(workRecords.recordWork, { ...of(order.id), body: { ...body, pastUse: true } });
    expect([done.status, done.problem.title]).toEqual([200, undefined]);
    const { rows } = await business.pool.query<{ value: string }>('SELECT value FROM cost_layer WHERE item_id = $1 ORDER BY seq', [unit]);
    expect(rows.map((row) => row.value)).toEqual(['3.33', '3.34', '3.33']);
  });
});

test('500 parts are planned, taken and recorded in one', async () => {
  const parts: number[] = [];
  for (let from = 0; from < 500; from += 50)
    parts.push(...(await Promise.all(Array.from({ length: 50 }, (_, index) => business.item(`P${count}-${from + index}`, { purchasePrice: '1.00' })))));
  const order = await owner.get(inbound.createPurchase, {
    body: {
      supplierId: business.supplierId,
      siteId: business.siteId,
      expectedOn: null,
      lines: parts.map((itemId) => ({ itemId, quantity: '1', price: '1.00' })),
    },
  });
  const placed = await owner.get(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'place', version: order.version } });
  await owner.get(receiving.receive, { body: { lines: placed.lines.map(({ id }) => ({ lineId: id, quantity: '1', binId: business.bins[0] as number })) } });
  const made = await shop.planned({ quantity: '1', components: parts.map((itemId) => ({ itemId, quantity: '1' })), costs: [] });
  expect((await shop.take(made)).status).toBe(200);
  const done = await shop.record(made.id, '1', { charges: [], otherCost: true });
  expect([done.status, done.data.outcome.outputs[0]?.value]).toEqual([200, '500.00']);
});
