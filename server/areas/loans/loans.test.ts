import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import * as catalog from '@larder/contract/catalog';
import * as loans from '@larder/contract/loans';
import * as lots from '@larder/contract/lots';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { sold, stocked } from '../../testing/trade';

/** Things that holders have for a while: what is free, on loan, back and lost at each step, and what it is worth meanwhile. */
let business: Business;
let holderId: number;
let lostReason: number;
beforeAll(async () => {
  business = await openBusiness();
  holderId = (await business.owner.get(loans.createHolder, { body: { name: 'Ridge apiary', sort: 'place' } })).id;
  lostReason = (await business.owner.get(setup.reference, {})).reasons.find(({ name }) => name === 'Lost on loan')?.id as number;
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});
beforeEach(() => void (business.clock.now = new Date('2026-03-10T10:00:00Z')));

const bin = (at = 0) => business.bins[at] as number;
type Line = loans.LendForm['lines'][number];
const line = (itemId: number, quantity: string, part: Partial<Line> = {}): Line => ({ itemId, quantity, binId: bin(), ...part });
const lend = (lines: Line[], part: Partial<loans.LendForm> = {}, how = {}, by = business.owner) =>
  by.ask(loans.lend, { body: { holderId, lines, ...part } }, how);
const look = (id: number | null) => business.owner.get(loans.getLoan, { params: { id: id as number } });
const back = (lines: loans.BackForm['lines'], how = {}) => business.owner.ask(loans.bringBack, { body: { lines } }, how);
const lose = (lines: { lineId: number; quantity: string }[], part = {}) =>
  business.owner.ask(loans.loseLoan, { body: { reasonId: lostReason, lines, ...part } });
const undo = (movementId: number | null | undefined) => business.owner.ask(stock.undo, { body: { movementId: movementId as number } });
const figures = async (itemId: number) => {
  const { rows } = await business.owner.get(stock.stockTable, { query: {} });
  const row = rows.find((one) => one.itemId === itemId);
  return [row?.onHand, row?.free, row?.onLoan, row?.value];
};
async function unit(sku: string, codes: string[]) {
  const itemId = await business.item(sku, { tracking: 'serial' });
  const lines = [{ itemId, binId: bin(), quantity: String(codes.length), unitValue: '40.00', lots: codes.map((code) => ({ code })) }];
  await business.owner.get(stock.openStock, { body: { lines } as never });
  const { rows } = await business.owner.get(lots.listLots, { query: { q: codes[0]?.slice(0, 4) ?? '' } });
  return { itemId, lotOf: (code: string) => rows.find((row) => row.code === code)?.id as number };
}

test('what is lent is neither on hand nor free, and still ours; it comes back in parts; each step can be undone', async () => {
  const itemId = await business.item('LN-A');
  await stocked(business, itemId, '10', '2.00');
  const preview = await lend([line(itemId, '4')], { dueOn: '2026-03-20' }, { preview: true });
  expect(preview.data).toMatchObject({ id: null, number: null });
  expect(preview.data.effects.rows.map(({ measure, before, after }) => [measure, before, after])).toEqual([
    ['on hand', '10', '6'],
    ['free', '10', '6'],
  ]);
  const lent = await lend([line(itemId, '4')], { dueOn: '2026-03-20', note: 'for the open day' });
  expect(lent.data.effects).toEqual(preview.data.effects);
  expect(lent.data.number).toMatch(/^LN-\d+$/);
  expect(await figures(itemId)).toEqual(['6', '6', '4', '20.00']);
  const found = await look(lent.data.id);
  expect([found.state, found.holder, found.overdue, found.out]).toEqual(['on loan', 'Ridge apiary', false, '4']);
  const lineId = found.lineRows[0]?.id as number;

  const part = await back([{ lineId, quantity: '1', binId: bin(1), condition: 'worn', note: 'a dent' }]);
  expect(await figures(itemId)).toEqual(['7', '7', '3', '20.00']);
  const then = await look(lent.data.id);
  expect([then.state, then.conditions.map(({ condition, note, quantity }) => [condition, note, quantity])]).toEqual(['part back', [['worn', 'a dent', '1']]]);
  expect((await back([{ lineId, quantity: '4', binId: bin() }])).problem.errors).toEqual([
    { field: 'lines.0.quantity', sentence: `Only 3 of LN-A are out on ${found.number}.` },
  ]);
  const parts = [
    { lineId, quantity: '1', binId: bin() },
    { lineId, quantity: '1', binId: bin(1), condition: 'damaged' as const },
  ];
  expect((await back(parts)).problem.errors).toEqual([{ field: 'lines.1.condition', sentence: 'Take back what came in another condition by itself.' }]);
  const gone = await lose([{ lineId, quantity: '1' }]);
  expect(await figures(itemId)).toEqual(['7', '7', '2', '18.00']);
  await back([{ lineId, quantity: '2', binId: bin() }]);
  const ended = await look(lent.data.id);
  expect([ended.state, ended.back, ended.lost, ended.out]).toEqual(['ended', '3', '1', '0']);
  expect((await back([{ lineId, quantity: '1', binId: bin() }])).problem.errors[0]?.sentence).toBe(`All of LN-A of ${found.number} is back or lost already.`);

  expect((await undo(gone.data.movementId)).status).toBe(200);
  expect(await figures(itemId)).toEqual(['9', '9', '1', '20.00']);
  expect((await undo(lent.data.movementId)).status).toBe(409);
  expect((await undo(part.data.movementId)).status).toBe(200);
  // How it came back is told as far as that stands.
  expect((await look(lent.data.id)).conditions.map(({ condition, quantity }) => [condition, quantity])).toEqual([['as it was', '2']]);
  expect(await figures(itemId)).toEqual(['8', '8', '2', '20.00']);
});

test('a loan nobody brought anything back of is undone as it was made', async () => {
  const itemId = await business.item('LN-B');
  await stocked(business, itemId, '3');
  const lent = await lend([line(itemId, '3')]);
  await undo(lent.data.movementId);
  expect([(await look(lent.data.id)).state, await figures(itemId)]).toEqual(['undone', ['3', '3', '0', '6.00']]);
});

test('what is promised to an order is not lent; what comes back serves whoever is short', async () => {
  const itemId = await business.item('LN-C');
  await stocked(business, itemId, '5');
  const order = await sold(business, itemId, '3');
  expect((await lend([line(itemId, '3')])).problem.errors).toEqual([
    { field: 'lines.0.quantity', sentence: 'Only 2 of LN-C may be taken at Barn store; 3 are promised to other orders.' },
  ]);
  const lent = await lend([line(itemId, '2')]);
  const more = await sold(business, itemId, '1');
  const lineId = (await look(lent.data.id)).lineRows[0]?.id as number;
  const foreseen = await back([{ lineId, quantity: '2', binId: bin() }], { preview: true });
  expect(foreseen.data.effects.notes).toEqual([`${more.number} line 1 gets 1 it was short of.`]);
  expect(order.number).not.toBe(more.number);
  await back([{ lineId, quantity: '2', binId: bin() }]);
  expect(await figures(itemId)).toEqual(['5', '1', '0', '10.00']);
});

test('several things at once, from bins of one site; more than lies there, other sites and past days are refused by the field', async () => {
  const [one, two] = [await business.item('LN-D'), await business.item('LN-E')];
  for (const itemId of [one, two]) await stocked(business, itemId, '2');
  const { rows } = await business.owner.get(setup.createBins, { body: { siteId: business.otherSiteId, codes: ['L-1'] } });
  const far = rows[0]?.id as number;
  expect((await lend([line(one, '1'), line(two, '1', { binId: far })])).problem.errors).toEqual([
    { field: 'lines.1.binId', sentence: 'Things that are lent together come from bins of one site.' },
  ]);
  expect((await lend([line(one, '3')])).problem.errors[0]).toEqual({ field: 'lines.0.quantity', sentence: 'A-1 holds 2 of LN-D, not 3.' });
  expect((await lend([line(one, '1')], { dueOn: '2026-03-09' })).problem.errors[0]).toEqual({ field: 'dueOn', sentence: 'This day has passed already.' });
  expect((await lend([line(one, '1')], { holderId: null })).problem.errors[0]).toEqual({ field: 'holderId', sentence: 'Choose who gets it.' });
  expect((await lend([line(one, '1')], { holderId: business.supplierId })).problem.errors[0]?.sentence).toBe('There is no such holder.');
  const lent = await lend([line(one, '1'), line(two, '2')]);
  const found = await look(lent.data.id);
  // It may come back to another site of ours.
  await back(found.lineRows.map(({ id, out }) => ({ lineId: id, quantity: out, binId: far })));
  const { sites } = await business.owner.get(stock.itemStock, { params: { id: two } });
  expect(sites.map(({ site, onHand }) => [site, onHand])).toContainEqual(['Harbour shop', '2']);
});

describe('a serial unit', () => {
  test('is one on one line, and its life tells each loan and how it came back', async () => {
    const { itemId, lotOf } = await unit('LN-S', ['LNS-1', 'LNS-2']);
    expect((await lend([line(itemId, '1')])).problem.errors[0]?.sentence).toBe('Say which serial of LN-S.');
    expect((await lend([line(itemId, '1', { lotId: 999_999 })])).problem.errors[0]?.sentence).toBe('LN-S has no such serial.');
    const lent = await lend([line(itemId, '1', { lotId: lotOf('LNS-1') })], { dueOn: '2026-03-12' });
    expect(await figures(itemId)).toEqual(['1', '1', '1', '80.00']);
    expect((await lend([line(itemId, '1', { lotId: lotOf('LNS-1') })])).status).toBe(409);
    const lineId = (await look(lent.data.id)).lineRows[0]?.id as number;
    const there = await business.owner.get(lots.getLot, { params: { id: lotOf('LNS-1') } });
    expect(there.places.map(({ where }) => where)).toEqual(['with Ridge apiary']);
    await back([{ lineId, quantity: '1', binId: bin(1), condition: 'damaged' }]);
    const life = await business.owner.get(stock.trail, { query: { lotId: lotOf('LNS-1') } });
    expect(life.rows.slice(0, 2).map(({ kind, from, to, document }) => [kind, from, to, document?.kind, document?.number])).toEqual([
      ['brought-back', 'with Ridge apiary', 'Barn store A-2', 'loan', lent.data.number],
      ['loan', 'Barn store A-1', 'with Ridge apiary', 'loan', lent.data.number],
    ]);
  });
});

test('what everyone holds: by holder, the overdue told, and the paper', async () => {
  const itemId = await business.item('LN-H');
  await stocked(business, itemId, '4');
  const customer = await business.owner.get(loans.becomeHolder, { params: { id: business.customerId } });
  expect([customer.name, customer.sort, customer.isCustomer]).toEqual(['Copse Lane School', null, true]);
  const lent = await lend([line(itemId, '3')], { holderId: business.customerId, dueOn: '2026-03-12' });
  business.clock.now = new Date('2026-03-14T10:00:00Z');
  const { rows } = await business.owner.get(loans.listHolders, { query: { q: 'copse' } });
  expect(rows.map(({ name, lines, items, overdue, nextDue }) => [name, lines, items, overdue, nextDue])).toEqual([
    ['Copse Lane School', 1, 'LN-H', 1, '2026-03-12'],
  ]);
  const overdue = await business.owner.get(loans.listLoans, { query: { show: 'overdue' } });
  expect(overdue.rows.map(({ number, overdue: late }) => [number, late])).toContainEqual([lent.data.number, true]);
  const held = await business.owner.get(loans.getHolder, { params: { id: business.customerId } });
  expect(held.lines.map(({ sku, out, overdue: late }) => [sku, out, late])).toEqual([['LN-H', '3', true]]);
  for (const path of [`/api/holders/${business.customerId}/paper`, `/api/loans/${lent.data.id ?? 0}/paper`]) {
    const answer = await fetch(`${business.base}${path}`, { headers: { Cookie: business.owner.cookie } });
    expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'application/pdf']);
  }
  // The day can be moved, with what was there before kept.
  const found = await look(lent.data.id);
  const changed = { version: found.version, dueOn: '2026-03-20', note: '' };
  await business.owner.get(loans.changeLoan, { params: { id: found.id }, body: changed });
  expect((await look(found.id)).changes.map(({ field, was, is }) => [field, was, is])).toEqual([['dueOn', '2026-03-12', '2026-03-20']]);
  expect((await business.owner.ask(loans.changeLoan, { params: { id: found.id }, body: changed })).problem.type).toBe('stale');
});

test('a holder is one of a kind; a name is given once', async () => {
  const made = await business.owner.get(loans.createHolder, { body: { name: 'Moor team', sort: 'team', email: 'moor@larkmoor.example' } });
  expect((await business.owner.ask(loans.createHolder, { body: { name: 'moor TEAM', sort: 'person' } })).problem.errors[0]).toEqual({
    field: 'name',
    sentence: 'Moor team is there already, as a holder, customer or supplier.',
  });
  const edited = await business.owner.get(loans.editHolder, { params: { id: made.id }, body: { name: 'Moor team', sort: 'person', version: made.version } });
  expect([edited.sort, edited.version]).toEqual(['person', made.version + 1]);
  // A site that opens later can lend to all.
  const { id: siteId } = await business.owner.get(setup.createSite, { body: { code: 'NEW', name: 'New yard' } });
  const { rows } = await business.owner.get(setup.createBins, { body: { siteId, codes: ['N-1'] } });
  const itemId = await business.item('LN-N');
  await business.owner.get(stock.openStock, { body: { lines: [{ itemId, binId: rows[0]?.id, quantity: '1', unitValue: '1.00', lots: [] }] } as never });
  expect((await lend([line(itemId, '1', { binId: rows[0]?.id as number })], { holderId: made.id })).status).toBe(200);
});

test('who may not lend is refused; a damaged thing set apart is not free', async () => {
  const itemId = await business.item('LN-R');
  await stocked(business, itemId, '1');
  expect((await lend([line(itemId, '1')], {}, {}, await business.as('Onlooker'))).status).toBe(403);
  const [quarantine] = (await business.owner.get(setup.createBins, { body: { siteId: business.siteId, codes: ['Q-9'] } })).rows;
  await business.owner.get(setup.editBins, { body: { ids: [quarantine?.id], sellable: false } as never });
  const lent = await lend([line(itemId, '1')]);
  const lineId = (await look(lent.data.id)).lineRows[0]?.id as number;
  await back([{ lineId, quantity: '1', binId: quarantine?.id as number, condition: 'damaged' }]);
  expect(await figures(itemId)).toEqual(['0', '0', '0', '2.00']);
  expect((await business.owner.get(catalog.getItem, { params: { id: itemId } })).sku).toBe('LN-R');
});
