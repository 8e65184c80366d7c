import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import * as gaps from '@larder/contract/gaps';
import * as outbound from '@larder/contract/outbound';
import * as receiving from '@larder/contract/receiving';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import * as transfers from '@larder/contract/transfers';
import { openBusiness, type Business } from '../../testing/business';
import { sold, stocked } from '../../testing/trade';

/** Goods that one site sends to another: what is free, in transit, arrived and lost, at each step, and who may take which. */
let business: Business;
let harbourBin: number;
beforeAll(async () => {
  business = await openBusiness();
  const { rows } = await business.owner.get(setup.createBins, { body: { siteId: business.otherSiteId, codes: ['H-1', 'H-2'] } });
  harbourBin = rows[0]?.id as number;
});
afterAll(() => business.close());
beforeEach(() => void (business.clock.now = new Date('2026-03-10T10:00:00Z')));

const day = '2026-03-11';
type Line = { itemId: number; quantity: string; fromBinId?: number | null; toBinId?: number | null; salesLineId?: number | null };
const formOf = (lines: Line[], part = {}) => ({
  fromSiteId: business.siteId,
  toSiteId: business.otherSiteId,
  sendBy: day,
  expectedOn: '2026-03-13',
  lines,
  ...part,
});
async function asked(lines: Line[], part = {}) {
  const { id } = await business.owner.get(transfers.createTransfer, { body: formOf(lines, part) });
  return look(id as number);
}
const look = (id: number) => business.owner.get(transfers.getTransfer, { params: { id } });
const of = (id: number) => ({ params: { id } });
const lineOf = (found: Awaited<ReturnType<typeof look>>, index = 0) => found.lines[index] as (typeof found.lines)[number];
const bin = (index: number) => business.bins[index] as number;
async function figures(itemId: number) {
  const { sites } = await business.owner.get(stock.itemStock, { params: { id: itemId } });
  const at = (siteId: number) => {
    const { onHand, reserved, free } = sites.find((one) => one.siteId === siteId) ?? { onHand: '0', reserved: '0', free: '0' };
    return [onHand, reserved, free].map(Number);
  };
  return { barn: at(business.siteId), harbour: at(business.otherSiteId) };
}
const site = async (itemId: number, siteId: number) =>
  (await business.pool.query<Record<string, string>>('SELECT * FROM item_site WHERE item_id = $1 AND site_id = $2', [itemId, siteId])).rows[0];
const value = async (itemId: number) => (await business.pool.query<{ value: string }>('SELECT value FROM pool WHERE item_id = $1', [itemId])).rows[0]?.value;
const send = (id: number, lines: { lineId: number; binId?: number | null; lotId?: number | null; quantity: string }[], part = {}) =>
  business.owner.ask(transfers.sendTransfer, { ...of(id), body: { lines, ...part } });
const receive = (lines: { lineId: number; quantity: string; binId?: number; lots?: { code: string; quantity?: string }[]; toBench?: boolean }[]) =>
  business.owner.ask(receiving.receive, { body: { lines: lines.map((line) => ({ binId: harbourBin, ...line })) } });
const undo = (movementId: number | null) => business.owner.ask(stock.undo, { body: { movementId: movementId as number, note: 'turned round' } });

test('is reserved as it is asked for, on the bench as it is picked, in transit as it goes, and free there as it arrives; all of it can be undone', async () => {
  const itemId = await business.item('TR-A');
  await stocked(business, itemId, '10');
  const preview = await business.owner.ask(transfers.createTransfer, { body: formOf([{ itemId, quantity: '6' }]) }, { preview: true });
  expect(preview.data.effects.rows.map(({ measure, before, after }) => [measure, before, after])).toEqual([
    ['reserved', '0', '6'],
    ['free', '10', '4'],
  ]);
  const { id, number, lines } = await asked([{ itemId, quantity: '6' }]);
  expect(number).toMatch(/^TR-\d+$/);
  expect(await figures(itemId)).toEqual({ barn: [10, 6, 4], harbour: [0, 0, 0] });
  expect(Number((await site(itemId, business.otherSiteId))?.coming)).toBe(6);
  const lineId = lines[0]?.id as number;
  const { rows } = await business.owner.get(transfers.transferPickList, of(id));
  expect(rows.map(({ bin: from, take }) => [from, take])).toEqual([['A-1', '6']]);
  const picked = await business.owner.get(transfers.pickTransfer, { ...of(id), body: { lines: [{ lineId, binId: bin(0), quantity: '2' }] } });
  expect(await figures(itemId)).toEqual({ barn: [8, 4, 4], harbour: [0, 0, 0] });
  expect((await look(id)).onBench).toEqual([{ lineId, lotId: null, lot: null, quantity: '2' }]);
  const sent = await send(id, [
    { lineId, quantity: '2' },
    { lineId, binId: bin(0), quantity: '3' },
  ]);
  expect([sent.status, sent.problem.title]).toEqual([200, undefined]);
  expect(await figures(itemId)).toEqual({ barn: [5, 1, 4], harbour: [0, 0, 0] });
  expect(await look(id)).toMatchObject({
    state: 'part sent',
    inTransit: '5',
    gone: '5',
    since: '2026-03-10',
    onBench: [],
    underWay: [{ lineId, quantity: '5' }],
  });
  const desk = await business.owner.get(receiving.receivingDesk, { query: { siteId: business.otherSiteId } });
  expect(desk.rows.filter((row) => row.lineId === lineId)).toMatchObject([{ kind: 'transfer', orderNumber: number, supplier: 'Barn store', outstanding: '5' }]);
  const arrived = await receive([{ lineId, quantity: '4' }]);
  expect(await figures(itemId)).toEqual({ barn: [5, 1, 4], harbour: [4, 0, 4] });
  expect(await look(id)).toMatchObject({ state: 'part arrived', inTransit: '1', arrived: '4' });
  expect(Number((await site(itemId, business.otherSiteId))?.coming)).toBe(2);
  expect((await undo(sent.data.movementId)).problem.title).toBe(`Only 1 of ${number} line 1 are in transit.`);
  expect((await undo(arrived.data.movementId)).status).toBe(200);
  expect((await undo(sent.data.movementId)).status).toBe(200);
  expect(await look(id)).toMatchObject({ state: 'to send', inTransit: '0', since: null, onBench: [{ quantity: '2' }] });
  expect((await undo(picked.movementId)).status).toBe(200);
  expect(await figures(itemId)).toEqual({ barn: [10, 6, 4], harbour: [0, 0, 0] });
  expect(await business.broken()).toEqual([]);
});

test('what is lost on the way goes at its cost to the account of the reason, to the cent, and comes back as it went when that is undone', async () => {
  const itemId = await business.item('TR-LOST');
  // Three for 10.00: one costs 3.33, what is left keeps the cents.
  await stocked(business, itemId, '3', '3.3333');
  const worth = await value(itemId);
  expect(worth).toBe('10.00');
  const found = await asked([{ itemId, quantity: '3' }]);
  const { id: lineId } = lineOf(found);
  await send(found.id, [{ lineId, binId: bin(0), quantity: '3' }]);
  expect(await value(itemId)).toBe('10.00');
  const lose = (quantity: string, part = {}) =>
    business.owner.ask(transfers.loseTransfer, { ...of(found.id), body: { reasonId: business.reasonId, lines: [{ lineId, quantity }], ...part } });
  expect((await lose('4')).problem.errors).toEqual([{ field: 'lines.0.quantity', sentence: `Only 3 of this TR-LOST are in transit for ${found.number}.` }]);
  expect((await lose('1', { reasonId: null })).problem.errors).toEqual([{ field: 'reasonId', sentence: 'Choose what became of them.' }]);
  const lost = await lose('1');
  expect(await value(itemId)).toBe('6.67');
  expect(await look(found.id)).toMatchObject({ inTransit: '2', lost: '1', arrived: '0', state: 'part arrived' });
  expect(Number((await site(itemId, business.otherSiteId))?.coming)).toBe(2);
  expect((await receive([{ lineId, quantity: '2' }])).status).toBe(200);
  expect(await look(found.id)).toMatchObject({ inTransit: '0', lost: '1', arrived: '2', state: 'arrived' });
  expect(await business.broken()).toEqual([]);
  expect((await undo(lost.data.movementId)).status).toBe(200);
  expect([await value(itemId), (await look(found.id)).inTransit]).toEqual(['10.00', '1']);
  expect(await business.broken()).toEqual([]);
});

test('never more is sent than there is, nor received than is in transit, nor twice', async () => {
  const itemId = await business.item('TR-B');
  await stocked(business, itemId, '5');
  await sold(business, itemId, '3');
  const found = await asked([{ itemId, quantity: '4' }]);
  const { id: lineId } = lineOf(found);
  expect(lineOf(found)).toMatchObject({ reserved: '2', short: '2' });
  expect((await send(found.id, [{ lineId, binId: bin(0), quantity: '3' }])).problem.title).toBe(
    'Only 2 of TR-B may be taken at Barn store; 3 are promised to other orders.',
  );
  expect((await send(found.id, [{ lineId, quantity: '1' }])).problem.title).toBe(`Only 0 of this TR-B lie on the bench for ${found.number}.`);
  expect((await send(found.id, [{ lineId, binId: harbourBin, quantity: '1' }])).problem.title).toBe('That is not a bin to pick from at this site.');
  expect((await send(found.id, [{ lineId, binId: bin(0), quantity: '2' }])).status).toBe(200);
  const over = await receive([{ lineId, quantity: '3' }]);
  expect([over.status, over.problem.errors]).toEqual([
    409,
    [{ field: 'lines.0.quantity', sentence: `Only 2 of this TR-B are in transit on ${found.number}.` }],
  ]);
  const both = await Promise.all([receive([{ lineId, quantity: '2' }]), receive([{ lineId, quantity: '2' }])]);
  expect(both.map(({ status }) => status).toSorted()).toEqual([200, 409]);
  expect(await figures(itemId)).toEqual({ barn: [3, 3, 0], harbour: [2, 0, 2] });
  expect((await receive([{ lineId, quantity: '1', binId: bin(0) }])).problem.title).toBe(`That bin is not at the site ${found.number} goes to.`);
  expect(await business.broken()).toEqual([]);
});

test('lots and serials that went are those that arrive; others are refused', async () => {
  const itemId = await business.item('TR-S', { tracking: 'serial' });
  const { lineId: bought } = await (await import('../../testing/trade')).ordered(business, itemId, '3');
  await business.owner.get(receiving.receive, {
    body: { lines: [{ lineId: bought, quantity: '3', binId: bin(0), lots: ['S-1', 'S-2', 'S-3'].map((code) => ({ code })) }] },
  });
  const found = await asked([{ itemId, quantity: '2' }]);
  const { id: lineId } = lineOf(found);
  const { rows } = await business.owner.get(transfers.transferPickList, of(found.id));
  const lots = rows.map(({ lotId, lot }) => ({ lotId: lotId as number, lot }));
  expect(
    (
      await send(
        found.id,
        lots.map(({ lotId }) => ({ lineId, binId: bin(0), lotId, quantity: '1' })),
      )
    ).status,
  ).toBe(200);
  const codes = lots.map(({ lot }) => lot as string);
  const other = ['S-1', 'S-2', 'S-3'].find((code) => !codes.includes(code)) as string;
  const arrive = (these: string[]) => receive([{ lineId, quantity: String(these.length), lots: these.map((code) => ({ code })) }]);
  expect((await arrive([other])).problem.title).toBe(`TR-S ${other} is not in transit on ${found.number}.`);
  expect((await receive([{ lineId, quantity: '1' }])).problem.title).toBe('Say which serials of TR-S came: 0 of 1 are named.');
  expect((await arrive([codes[0] as string, codes[0] as string])).problem.title).toBe(`Only 0 of this TR-S are in transit on ${found.number}.`);
  expect((await arrive([(codes[0] as string).toLowerCase()])).status).toBe(200);
  expect((await look(found.id)).underWay).toMatchObject([{ lot: codes[1], quantity: '1' }]);
  expect(await business.broken()).toEqual([]);
});

test('what is not picked is changed and cancelled, down to what was picked; what is given up goes to those who are short', async () => {
  const [itemId, second] = [await business.item('TR-C'), await business.item('TR-D')];
  await stocked(business, itemId, '5');
  await stocked(business, second, '2');
  const found = await asked([{ itemId, quantity: '5' }]);
  const short = await sold(business, itemId, '2');
  const { id: lineId } = lineOf(found);
  await business.owner.get(transfers.pickTransfer, { ...of(found.id), body: { lines: [{ lineId, binId: bin(0), quantity: '2' }] } });
  const body = { version: found.version, sendBy: day, expectedOn: null, lines: [] as (Line & { id?: number | null })[] };
  const change = (lines: (Line & { id?: number | null })[], part = {}) =>
    business.owner.ask(transfers.changeTransfer, { ...of(found.id), body: { ...body, lines, ...part } });
  expect((await change([{ id: lineId, itemId, quantity: '1' }])).problem.errors).toEqual([
    { field: 'lines.0.quantity', sentence: '2 of TR-C are picked already; it can be no fewer.' },
  ]);
  expect((await change([{ id: lineId, itemId: second, quantity: '3' }])).problem.errors[0]?.field).toBe('lines.0.itemId');
  const changed = await change([
    { id: lineId, itemId, quantity: '3' },
    { itemId: second, quantity: '2', toBinId: harbourBin },
  ]);
  expect([changed.status, changed.data.effects.notes]).toEqual([200, [`${short.number} line 1 gets 2 it was short of.`]]);
  const now = await look(found.id);
  expect(now.lines.map(({ sku, quantity, reserved, picked, toBin }) => [sku, quantity, reserved, picked, toBin])).toEqual([
    ['TR-C', '3', '1', '2', null],
    ['TR-D', '2', '2', '0', 'H-1'],
  ]);
  expect(now.changes.map(({ field, is }) => [field, is])).toEqual([
    ['lines', '3 TR-C, 2 TR-D'],
    ['expectedOn', ''],
  ]);
  expect((await change([{ id: lineId, itemId, quantity: '3' }])).problem.type).toBe('stale');
  const cancel = () => business.owner.ask(transfers.cancelTransfer, { ...of(found.id), body: { version: now.version } });
  expect((await cancel()).status).toBe(200);
  expect(await look(found.id)).toMatchObject({ quantity: '2', picked: '2', state: 'to send' });
  expect(await figures(second)).toMatchObject({ barn: [2, 0, 2] });
  expect(await business.broken()).toEqual([]);
});

test('what is wrong with a transfer is said at its place, and nothing is written', async () => {
  const itemId = await business.item('TR-E');
  const service = await business.item('TR-WORK', { kind: 'service' });
  const faults = async (body: object) => (await business.owner.ask(transfers.createTransfer, { body: body as ReturnType<typeof formOf> })).problem.errors;
  const before = (await business.owner.get(transfers.transfersInAll, { query: { show: 'all' } })).count;
  const line = { itemId, quantity: '1' };
  expect(await faults(formOf([line], { toSiteId: business.siteId }))).toEqual([
    { field: 'toSiteId', sentence: 'Choose another site than the one that sends.' },
  ]);
  expect(await faults(formOf([line], { toSiteId: null }))).toEqual([{ field: 'toSiteId', sentence: 'Choose the site it goes to.' }]);
  expect(await faults(formOf([]))).toEqual([{ field: 'lines', sentence: 'Say what is to go.' }]);
  expect(await faults(formOf([line], { sendBy: '2026-03-09' }))).toEqual([{ field: 'sendBy', sentence: 'This day has passed already.' }]);
  expect(await faults(formOf([line], { expectedOn: '2026-03-10' }))).toEqual([{ field: 'expectedOn', sentence: 'It cannot arrive before it is sent.' }]);
  expect(await faults(formOf([line], { carrierId: 999 }))).toEqual([{ field: 'carrierId', sentence: 'Choose a carrier from the list.' }]);
  expect(
    await faults(
      formOf([
        { itemId: service, quantity: '1' },
        { itemId, quantity: '0.5' },
        { ...line, fromBinId: harbourBin },
        { ...line, toBinId: bin(0) },
        { ...line, salesLineId: 99999 },
      ]),
    ),
  ).toEqual([
    { field: 'lines.0.itemId', sentence: 'TR-WORK is not kept in stock: there is nothing of it to send.' },
    expect.objectContaining({ field: 'lines.1.quantity' }),
    { field: 'lines.2.fromBinId', sentence: 'That is not a bin to take from at the site that sends.' },
    { field: 'lines.3.toBinId', sentence: 'That bin is not at the site it goes to.' },
    { field: 'lines.4.salesLineId', sentence: 'No open order line there wants this item.' },
  ]);
  expect((await business.owner.get(transfers.transfersInAll, { query: { show: 'all' } })).count).toBe(before);
});

test('a line that is short sees what is brought to it and is served, straight to the bench when that is said', async () => {
  const itemId = await business.item('TR-F');
  await stocked(business, itemId, '8');
  const quote = await business.owner.get(outbound.createSale, {
    body: { customerId: business.customerId, siteId: business.otherSiteId, shipBy: '2026-03-20', lines: [{ itemId, quantity: '5', price: '4.00' }] },
  });
  await business.owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
  const salesLineId = (await business.owner.get(outbound.getSale, { params: { id: quote.id } })).lines[0]?.id as number;
  const gap = () => business.owner.get(gaps.lineGap, { params: { id: salesLineId } });
  expect(await gap()).toMatchObject({ short: '5', availableOn: null, coming: [], elsewhere: [{ site: 'Barn store', free: '8' }] });
  const proposal = await business.owner.get(transfers.transferFigures, { query: { salesLines: String(salesLineId), fromSiteId: business.siteId } });
  expect(proposal).toMatchObject({
    rows: [{ sku: 'TR-F', short: '5', free: '8', order: quote.number, toSiteId: business.otherSiteId }],
    sites: [{ site: 'Barn store', items: 1 }],
  });
  const found = await asked([{ itemId, quantity: '5', salesLineId }]);
  expect(await gap()).toMatchObject({ availableOn: '2026-03-13', coming: [{ kind: 'transfer', orderNumber: found.number, orderId: found.id, quantity: '5' }] });
  expect(lineOf(found).sale).toEqual({ orderId: quote.id, number: quote.number });
  const { id: lineId } = lineOf(found);
  await send(found.id, [{ lineId, binId: bin(0), quantity: '5' }]);
  const preview = await business.owner.ask(
    receiving.receive,
    { body: { lines: [{ lineId, quantity: '5', binId: harbourBin, toBench: true }] } },
    { preview: true },
  );
  expect(preview.data.effects.notes).toContain('5 of TR-F go straight to the bench of Harbour shop.');
  expect((await receive([{ lineId, quantity: '5', toBench: true }])).status).toBe(200);
  expect((await business.owner.get(outbound.getSale, { params: { id: quote.id } })).lines[0]).toMatchObject({ picked: '5', short: '0' });
  expect(await business.broken()).toEqual([]);
});

test('a quote keeps what is brought from another site, and confirming it has that sent; what is wrong with it is said at its place', async () => {
  const [first, second] = [await business.item('TR-Q1'), await business.item('TR-Q2')];
  await stocked(business, first, '6');
  await stocked(business, second, '2');
  const form = (lines: object[]) => ({ customerId: business.customerId, siteId: business.otherSiteId, shipBy: '2026-03-20', lines }) as never;
  const line = (itemId: number, quantity: string, bring: string, bringFromId: number | null = business.siteId) => ({
    itemId,
    quantity,
    price: '4.00',
    bring,
    bringFromId,
  });
  const faults = async (lines: object[]) => (await business.owner.ask(outbound.createSale, { body: form(lines) })).problem.errors;
  expect(await faults([line(first, '2', '3'), line(first, '2', '2', null), line(first, '2', '1', business.otherSiteId), line(first, '2', '0.5')])).toEqual([
    { field: 'lines.0.bring', sentence: 'Only 2 are ordered; no more of them can be brought.' },
    { field: 'lines.1.bringFromId', sentence: 'Say from which site.' },
    { field: 'lines.2.bringFromId', sentence: 'It comes from that site already.' },
    expect.objectContaining({ field: 'lines.3.bring' }),
  ]);
  expect(await faults([line(first, '2', '1', 999_999)])).toEqual([{ field: 'lines.0.bringFromId', sentence: 'There is no such site.' }]);
  const quote = await business.owner.get(outbound.createSale, { body: form([line(first, '5', '4'), line(second, '3', '3')]) });
  expect(quote.lines.map(({ bring, bringFrom }) => [bring, bringFrom?.name])).toEqual([
    ['4', 'Barn store'],
    ['3', 'Barn store'],
  ]);
  const confirm = (preview: boolean) => business.owner.ask(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } }, { preview });
  const said = await confirm(true);
  expect(said.data.effects.notes).toContain('Barn store is asked to send 2 lines.');
  expect(said.data.effects.rows.filter(({ where }) => where === 'Barn store').map(({ sku, measure, after }) => [sku, measure, after])).toContainEqual([
    'TR-Q1',
    'free',
    '2',
  ]);
  expect((await confirm(false)).status).toBe(200);
  const order = await business.owner.get(outbound.getSale, { params: { id: quote.id } });
  expect(order.lines.map(({ bring, short, coming }) => [bring, short, coming.map(({ kind, quantity, expectedOn }) => [kind, quantity, expectedOn])])).toEqual([
    ['0', '5', [['transfer', '4', '2026-03-11']]],
    ['0', '3', [['transfer', '3', '2026-03-11']]],
  ]);
  const [row] = (await business.owner.get(transfers.listTransfers, { query: { itemId: first, show: 'all' } })).rows;
  const made = await look(row?.id as number);
  expect(made.lines.map(({ sku, quantity, reserved, sale }) => [sku, quantity, reserved, sale?.number])).toEqual([
    ['TR-Q1', '4', '4', quote.number],
    ['TR-Q2', '3', '2', quote.number],
  ]);
  expect(order.changes.map(({ field, is }) => [field, is])).toContainEqual(['brought', `${made.number} from Barn store`]);
  // Made a quote again, it can be written anew; the transfer stays what it is.
  await business.owner.get(outbound.endSale, { params: { id: quote.id }, body: { decision: 'withdraw', version: order.version } });
  const again = await business.owner.get(outbound.getSale, { params: { id: quote.id } });
  expect(
    (
      await business.owner.ask(outbound.editSale, {
        params: { id: quote.id },
        body: { ...(form([line(first, '5', '0', null)]) as object), version: again.version } as never,
      })
    ).status,
  ).toBe(200);
  expect((await look(made.id)).lines.map(({ sale }) => sale)).toEqual([null, null]);
  expect(await business.broken()).toEqual([]);
});

test('lists say where transfers stand, and find them by number, site and item', async () => {
  const itemId = await business.item('TR-G');
  await stocked(business, itemId, '4');
  const found = await asked([{ itemId, quantity: '2' }], { note: 'by the back door' });
  const shown = async (query: object) =>
    (await business.owner.get(transfers.listTransfers, { query: { itemId, ...query } })).rows.map(({ number, state }) => [number, state]);
  expect(await shown({ show: 'to-send' })).toEqual([[found.number, 'to send']]);
  expect(await shown({ show: 'in-transit' })).toEqual([]);
  await send(found.id, [{ lineId: lineOf(found).id, binId: bin(0), quantity: '2' }], { tracking: 'VAN 3' });
  expect(await shown({ show: 'in-transit', q: 'van harbour tr-g' })).toEqual([[found.number, 'in transit']]);
  expect(await shown({ show: 'open', q: 'nowhere' })).toEqual([]);
  business.clock.now = new Date('2026-03-20T10:00:00Z');
  expect((await business.owner.get(transfers.listTransfers, { query: { itemId } })).rows).toMatchObject([{ late: true, since: '2026-03-10' }]);
  await receive([{ lineId: lineOf(found).id, quantity: '2' }]);
  expect(await shown({ show: 'open' })).toEqual([]);
  expect(await shown({ show: 'done', fromSiteId: business.siteId })).toEqual([[found.number, 'arrived']]);
});

test('what one site lacks and another has too many of is proposed, as far as both keep their levels; written, it is proposed no more', async () => {
  const levels = (siteId: number) => ({ siteId, reorderPoint: '8', orderUpTo: '24' });
  const itemId = await business.item('TR-P', { policies: [levels(business.siteId), levels(business.otherSiteId)] });
  await stocked(business, itemId, '45');
  const proposed = async (siteId?: number) => {
    const { rows } = await business.owner.get(transfers.transferProposals, { query: siteId === undefined ? {} : { siteId } });
    return rows.flatMap(({ from, to, lines }) =>
      lines.filter((line) => line.itemId === itemId).map((line) => [from, to, line.quantity, line.free, line.keeps]),
    );
  };
  // Twenty-four are lacking there, and twenty-one are free above the level here.
  expect(await proposed()).toEqual([['Barn store', 'Harbour shop', '21', '45', '24']]);
  expect(await proposed(business.otherSiteId)).toEqual(await proposed());
  await asked([{ itemId, quantity: '21' }]);
  expect(await proposed()).toEqual([]);
  await sold(business, itemId, '24');
  expect(await proposed()).toEqual([]);
});
