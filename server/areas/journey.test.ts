import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as catalog from '@larder/contract/catalog';
import * as receiving from '@larder/contract/receiving';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as planning from '@larder/contract/planning';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../testing/business';
import { ordered, pickBody, sold, stocked } from '../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(() => business.close());

const stockOf = async (itemId: number) => {
  const { rows } = await business.owner.get(stock.stockTable, { query: { limit: 200 } });
  return rows.find((row) => row.itemId === itemId);
};

const seqOf = async (itemId: number) => (await business.owner.get(stock.itemStock, { params: { id: itemId } })).seq;

describe('from order to dispatch', () => {
  test('goods are ordered, received in two parts, sold, picked short, dispatched in part; every figure follows', async () => {
    const itemId = await business.item('HB-1');
    const order = await ordered(business, itemId, '3', '3.333333');
    expect(await stockOf(itemId)).toMatchObject({ onHand: '0', onOrder: '3' });
    const part = { lines: [{ lineId: order.lineId, quantity: '2', binId: business.bins[0] as number }] };
    const preview = await business.owner.ask(receiving.receive, { body: part }, { preview: true });
    const posted = await business.owner.get(receiving.receive, { body: part });
    expect(preview.data).toEqual({ movementId: null, effects: posted.effects });
    expect(await stockOf(itemId)).toMatchObject({ onHand: '2', onOrder: '1', value: '6.67' });
    await business.owner.get(receiving.receive, { body: { lines: [{ lineId: order.lineId, quantity: '1', binId: business.bins[1] as number }] } });
    expect(await stockOf(itemId)).toMatchObject({ onHand: '3', onOrder: '0', value: '10.00' });

    const sale = await sold(business, itemId, '5');
    expect(sale.lines[0]).toMatchObject({ reserved: '3', short: '2' });
    expect(await stockOf(itemId)).toMatchObject({ reserved: '3', free: '0', short: '2' });
    await business.owner.get(picking.pick, { body: { ...pickBody(business, sale, '1'), shortReason: 'one was cracked' } });
    expect(await stockOf(itemId)).toMatchObject({ onHand: '2', reserved: '2' });
    const gone = await business.owner.get(shipping.dispatch, { body: { orderId: sale.id, lines: [{ lineId: sale.lineId, quantity: '1' }] } });
    expect(gone.effects.rows.find(({ measure }) => measure === 'value')).toMatchObject({ before: '10.00', after: '6.67' });
    const then = await business.owner.get(outbound.getSale, { params: { id: sale.id } });
    expect(then).toMatchObject({ state: 'part dispatched', dispatchedAmount: '5.00', dispatchedCost: '3.33', margin: '1.67', open: true });
    expect(await business.broken()).toEqual([]);
  });

  test('what comes in serves the order that is short, the one to ship first before the other', async () => {
    const itemId = await business.item('HB-2');
    const later = await sold(business, itemId, '4', '2026-03-20');
    const sooner = await sold(business, itemId, '4', '2026-03-13');
    await stocked(business, itemId, '6');
    const reserved = async (id: number) => (await business.owner.get(outbound.getSale, { params: { id } })).lines[0]?.reserved;
    expect([await reserved(sooner.id), await reserved(later.id)]).toEqual(['4', '2']);
    await business.owner.get(outbound.endSale, { params: { id: sooner.id }, body: { decision: 'cancel', version: sooner.version } });
    expect(await reserved(later.id)).toBe('4');
    expect(await business.broken()).toEqual([]);
  });

  test('a shortage is said with what comes, when and on which order', async () => {
    const itemId = await business.item('HB-3');
    const order = await ordered(business, itemId, '6');
    const found = await business.owner.get(outbound.availability, { query: { siteId: business.siteId, itemId, quantity: '4' } });
    expect(found).toMatchObject({
      free: '0',
      short: '4',
      availableOn: '2026-03-12',
      coming: [{ orderNumber: order.number, quantity: '6', expectedOn: '2026-03-12' }],
    });
  });

  test('the top-up list shows an item the moment the order is confirmed, with its arithmetic, and makes the order', async () => {
    const suppliers = [{ supplierId: business.supplierId, code: 'HX-9', packSize: '6', price: '1.80' }];
    const itemId = await business.item('HB-4', { suppliers, policies: [{ siteId: business.siteId, reorderPoint: '8', orderUpTo: '24' }] });
    await stocked(business, itemId, '13');
    const proposal = async () => (await business.owner.get(planning.topUpList, {})).rows.find((row) => row.itemId === itemId);
    expect(await proposal()).toBeUndefined();
    await sold(business, itemId, '6');
    expect(await proposal()).toMatchObject({ free: '7', position: '7', propose: '18', supplier: 'Hexley Joinery', amount: '32.40' });
    const { orders } = await business.owner.get(planning.orderTopUp, {
      body: { rows: [{ itemId, siteId: business.siteId, supplierId: business.supplierId, quantity: '18' }], place: true },
    });
    expect(orders).toHaveLength(1);
    expect(await proposal()).toBeUndefined();
  });
});

describe('putting right', () => {
  test('"there are now" keeps what was moved while the line was being entered', async () => {
    const itemId = await business.item('CO-1');
    await stocked(business, itemId, '20');
    const sale = await sold(business, itemId, '4');
    const line = { itemId, binId: business.bins[0] as number, quantity: '18', seq: await seqOf(itemId) };
    await business.owner.get(picking.pick, { body: pickBody(business, sale, '4') });
    await business.owner.get(stock.correct, { body: { way: 'there-are-now', reasonId: business.reasonId, lines: [line] } });
    expect(await stockOf(itemId)).toMatchObject({ onHand: '14' });
    const agrees = await business.owner.ask(stock.correct, {
      body: { way: 'there-are-now', reasonId: business.reasonId, lines: [{ ...line, quantity: '14', seq: await seqOf(itemId) }] },
    });
    expect(agrees).toMatchObject({ status: 200, data: { movementId: null, effects: { rows: [] } } });
  });

  test('postings are undone one after the other, each once; the trace stays', async () => {
    const itemId = await business.item('UN-1');
    const { movementId } = await stocked(business, itemId, '5');
    const sale = await sold(business, itemId, '5');
    const pick = await business.owner.get(picking.pick, { body: pickBody(business, sale, '5') });
    const gone = await business.owner.get(shipping.dispatch, { body: { orderId: sale.id, lines: [{ lineId: sale.lineId, quantity: '5' }] } });
    const undo = (id: number | null) => business.owner.ask(stock.undo, { body: { movementId: id as number } });
    expect(await undo(movementId)).toMatchObject({ status: 409, problem: { type: 'not-enough-stock' } });
    expect((await undo(movementId)).problem.title).toContain('cannot be undone');
    expect((await undo(pick.movementId)).status).toBe(409);
    expect((await undo(gone.movementId)).status).toBe(200);
    expect(await undo(gone.movementId)).toMatchObject({ status: 409, problem: { type: 'already-undone' } });
    expect((await undo(pick.movementId)).status).toBe(200);
    expect((await business.owner.get(outbound.getSale, { params: { id: sale.id } })).lines[0]).toMatchObject({ reserved: '5', picked: '0' });
    const last = await undo(movementId);
    expect(last.data.effects.notes).toEqual([`${sale.number} line 1 becomes short of 5.`]);
    expect(await stockOf(itemId)).toMatchObject({ onHand: '0', value: '0.00', short: '5' });
    const { rows } = await business.owner.get(stock.trail, { query: { itemId } });
    expect(rows.map(({ kind, undone }) => `${kind}${undone ? ' undone' : ''}`)).toEqual([
      'undo',
      'undo',
      'undo',
      'dispatch undone',
      'pick undone',
      'receipt undone',
    ]);
    const [undoing] = rows;
    expect(await undo(undoing?.movementId ?? 0)).toMatchObject({ status: 409, problem: { type: 'undo-of-undo' } });
    expect(await business.broken()).toEqual([]);
  });

  test('the bin and the trail add up to the stock table', async () => {
    const itemId = await business.item('TR-1');
    await stocked(business, itemId, '9');
    await business.owner.get(stock.correct, {
      body: { way: 'plus-or-minus', reasonId: business.reasonId, lines: [{ itemId, binId: business.bins[2] as number, quantity: '+3' }] },
    });
    const { rows } = await business.owner.get(stock.trail, { query: { itemId, measure: 'on-hand' } });
    expect(rows.reduce((sum, row) => sum + Number(row.change), 0)).toBe(12);
    const contents = await business.owner.get(stock.binContents, { params: { id: business.bins[2] as number } });
    expect(contents.rows.find((row) => row.itemId === itemId)?.quantity).toBe('3');
    const about = await business.owner.get(stock.itemStock, { params: { id: itemId }, query: {} });
    expect(about.past.at(-1)).toEqual({ day: '2026-03-10', quantity: '12' });
    expect(about.past.at(-2)?.quantity).toBe('0');
  });
});

describe('finding', () => {
  test('by words in any order, SKU, barcode and the supplier’s code', async () => {
    await business.item('FIND-ME', {
      name: 'Smoker, stainless, standard',
      barcodes: ['2000000000398'],
      suppliers: [{ supplierId: business.supplierId, code: 'AS-77' }],
    });
    for (const q of ['standard smoker', 'find-me', '2000000000398', 'as-77', 'STAIN']) {
      const { rows } = await business.owner.get(catalog.listItems, { query: { q, sort: 'best' } });
      expect(rows.map(({ sku }) => sku)).toEqual(['FIND-ME']);
    }
    const { rows } = await business.owner.get(catalog.find, { query: { q: 'A-2' } });
    expect(rows[0]).toMatchObject({ kind: 'bin', code: 'A-2', exact: true });
    expect((await business.owner.get(catalog.listItems, { query: { q: '100% _x' } })).rows).toEqual([]);
  });

  test('pages of a sorted list follow each other without gap or repeat', async () => {
    const seen: string[] = [];
    let cursor: string | undefined;
    do {
      const page = await business.owner.get(stock.stockTable, { query: { sort: 'onHand', direction: 'down', limit: 3, cursor } });
      seen.push(...page.rows.map(({ sku }) => sku));
      cursor = page.next ?? undefined;
    } while (cursor);
    const all = (await business.owner.get(stock.stockTable, { query: { limit: 200 } })).rows.map(({ sku }) => sku);
    expect([...seen].sort()).toEqual([...all].sort());
  });

  test('a SKU or barcode in use is refused by the field, naming the item that has it', async () => {
    await business.item('TAKEN-1', { barcodes: ['2000000000404'] });
    const refused = await business.owner.ask(catalog.createItem, { body: { sku: 'taken-1', name: 'Another', unitId: 1, barcodes: ['2000000000404'] } });
    expect(refused).toMatchObject({
      status: 409,
      problem: { errors: [{ field: 'sku', sentence: 'taken-1 is the SKU of Item TAKEN-1 already.' }, { field: 'barcodes.0' }] },
    });
  });
});
