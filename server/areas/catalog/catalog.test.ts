import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as attributes from '@larder/contract/attributes';
import * as catalog from '@larder/contract/catalog';
import * as inbound from '@larder/contract/inbound';
import * as receiving from '@larder/contract/receiving';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as setup from '@larder/contract/setup';
import * as lots from '@larder/contract/lots';
import * as stock from '@larder/contract/stock';
import { gtinCheckDigit } from '@larder/core/codes/gtin';
import sharp from 'sharp';
import { openBusiness, type Business } from '../../testing/business';
import { ordered, sold, stocked } from '../../testing/trade';

let business: Business;
let units: Record<string, number>;
beforeAll(async () => {
  business = await openBusiness();
  const reference = await business.owner.get(setup.reference);
  units = Object.fromEntries(reference.units.map(({ code, id }) => [code, id]));
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const edit = async (itemId: number, part: Partial<catalog.ItemDraft>) => {
  const { suppliers, substitutes, ...item } = await business.owner.get(catalog.getItem, { params: { id: itemId } });
  const body = { ...item, suppliers, substitutes: substitutes.map((one) => one.itemId), ...part, version: item.version };
  return business.owner.ask(catalog.editItem, { params: { id: itemId }, body });
};
const gtin = (digits: string) => digits + gtinCheckDigit(digits);
const opening = (itemId: number, quantity: string, lots: stock.OpeningForm['lines'][number]['lots'] = [], unitValue = '2.00') => ({
  lines: [{ itemId, binId: business.bins[0] as number, quantity, unitValue, lots }],
});
const lot = (code: string, quantity = '1', useBy: string | null = null) => ({ code, quantity, useBy });

describe('units', () => {
  test('a case has its own barcode, which reads as twelve', async () => {
    const itemId = await business.item('CASE-1', {
      units: [{ unitId: units.case as number, numerator: 12, buys: true }],
      barcodes: [gtin('590123412345'), { code: gtin('590123412346'), unitId: units.case as number }],
    });
    const read = async (code: string) =>
      (await business.owner.get(catalog.readCode, { query: { code } })).items.map((one) => `${one.sku} ${one.unit} ${one.factor}`);
    expect(await read(gtin('590123412345'))).toEqual(['CASE-1 each 1']);
    expect(await read(gtin('590123412346'))).toEqual(['CASE-1 case 12']);
    expect(await read(`0${gtin('590123412346')}`)).toEqual(['CASE-1 case 12']);
    expect((await business.owner.get(catalog.getItem, { params: { id: itemId } })).units).toMatchObject([{ unit: 'case', numerator: 12, buys: true }]);
  });

  test('a factor that is not exact, and a barcode on no unit, are refused by their field', async () => {
    const bad = (part: Partial<catalog.ItemDraft>) =>
      business.owner.ask(catalog.createItem, { body: { sku: 'UNIT-BAD', name: 'x', unitId: units.each as number, ...part } });
    expect((await bad({ units: [{ unitId: units.case as number, numerator: 1, denominator: 3 }] })).problem.errors[0]).toMatchObject({
      field: 'units.0.numerator',
    });
    expect((await bad({ units: [{ unitId: units.each as number, numerator: 2 }] })).problem.errors[0]?.field).toBe('units.0.unitId');
    expect((await bad({ barcodes: [{ code: 'X1', unitId: units.case as number }] })).problem.errors[0]?.field).toBe('barcodes.0');
  });
});

describe('codes', () => {
  test('a mistyped GTIN is told with its right digit, and taken when it is meant', async () => {
    const body = { sku: 'ODD-1', name: 'x', unitId: units.each as number, barcodes: ['5901234123450'] };
    expect((await business.owner.ask(catalog.createItem, { body })).problem).toMatchObject({
      type: 'odd-barcode',
      asks: ['odd-barcode'],
      errors: [{ field: 'barcodes.0' }],
    });
    const kept = (await business.owner.ask(catalog.createItem, { body: { ...body, oddBarcodes: true } })).data;
    // What was kept once is not asked about again, another one is.
    const again = { ...body, version: kept.version, name: 'y' };
    expect((await business.owner.ask(catalog.editItem, { params: { id: kept.id }, body: again })).status).toBe(200);
    const more = { ...again, version: kept.version + 1, barcodes: ['5901234123450', '5901234123451'] };
    expect((await business.owner.ask(catalog.editItem, { params: { id: kept.id }, body: more })).problem.errors).toMatchObject([{ field: 'barcodes.1' }]);
  });

  test('an item gets a barcode of ours in one step, and can be taught an unknown code', async () => {
    const itemId = await business.item('OURS-1');
    const given = await business.owner.get(catalog.giveBarcode, { params: { id: itemId } });
    expect(given.barcodes[0]?.code).toMatch(/^29\d{11}$/);
    const taught = await business.owner.get(catalog.teachCode, { params: { id: itemId }, body: { code: 'WHOLESALE-77' } });
    expect(taught.barcodes).toHaveLength(2);
    const other = await business.item('OURS-2');
    expect((await business.owner.ask(catalog.teachCode, { params: { id: other }, body: { code: 'WHOLESALE-77' } })).problem.errors[0]?.sentence).toContain(
      'OURS-1',
    );
    expect((await business.owner.get(catalog.listItems, { query: { q: 'wholesale-77' } })).rows.map(({ sku }) => sku)).toEqual(['OURS-1']);
  });

  test('a barcode of another item is asked about; on both, a scan asks which, and neither item is asked again', async () => {
    const first = await business.item('BOTH-1', { barcodes: ['5012345678900'] });
    const body = { sku: 'BOTH-2', name: 'Twin', unitId: units.each as number, barcodes: ['5012345678900'] };
    const asked = await business.owner.ask(catalog.createItem, { body });
    expect(asked.problem).toMatchObject({ asks: ['shared-barcode'], errors: [{ field: 'barcodes.0', sentence: expect.stringContaining('BOTH-1') }] });
    const made = await business.owner.get(catalog.createItem, { body: { ...body, sharedBarcodes: true } });
    const read = async () => (await business.owner.get(catalog.readCode, { query: { code: '5012345678900' } })).items.map(({ itemId }) => itemId);
    expect(await read()).toEqual([first, made.id]);
    const renamed = { ...body, name: 'Twin, blue', version: made.version };
    expect((await business.owner.ask(catalog.editItem, { params: { id: made.id }, body: renamed })).status).toBe(200);

    // Taught on the spot, it is the same; one item has a code once.
    const third = await business.item('BOTH-3');
    const teach = (body: { code: string; shared?: boolean }) => business.owner.ask(catalog.teachCode, { params: { id: third }, body });
    expect((await teach({ code: '5012345678900' })).problem).toMatchObject({ asks: ['shared-barcode'] });
    expect((await teach({ code: '5012345678900', shared: true })).status).toBe(200);
    expect((await teach({ code: '5012345678900', shared: true })).problem.title).toBe('BOTH-3 has 5012345678900 already.');
    expect(await read()).toEqual([first, made.id, third]);
  });

  test('a GS1 code says item, lot, use-by and how many; a supplier’s code on two items asks which', async () => {
    const code = gtin('590123412399');
    const itemId = await business.item('GS-1', { tracking: 'lot', barcodes: [code], suppliers: [{ supplierId: business.supplierId, code: 'TWICE' }] });
    await business.item('GS-2', { suppliers: [{ supplierId: business.supplierId, code: 'TWICE' }] });
    const read = await business.owner.get(catalog.readCode, { query: { code: `(01)0${code}(17)270331(10)L7(30)24` } });
    expect(read).toMatchObject({ items: [{ itemId }], lot: 'L7', useBy: '2027-03-31', quantity: '24' });
    expect((await business.owner.get(catalog.readCode, { query: { code: 'twice' } })).items.map(({ sku }) => sku)).toEqual(['GS-1', 'GS-2']);
    await business.owner.get(stock.openStock, { body: opening(itemId, '24', [lot('L7', '24', '2027-03-31')]) });
    expect((await business.owner.get(catalog.find, { query: { q: `01${code.padStart(14, '0')}10L7` } })).rows).toMatchObject([{ kind: 'lot', code: 'L7' }]);
  });
});

describe('lots and serials', () => {
  test('serials are entered with the opening stock; what is missing or here already is told by its field', async () => {
    const itemId = await business.item('EX-3', { tracking: 'serial' });
    const missing = await business.owner.ask(stock.openStock, { body: opening(itemId, '3', [lot('LX-1')]) });
    expect(missing).toMatchObject({ status: 422, problem: { errors: [{ field: 'lines.0.lots', sentence: '2 serials of EX-3 still missing.' }] } });
    const body = opening(itemId, '3', [lot('LX-1'), lot('LX-2'), lot('LX-3')], '3.33');
    const foreseen = await business.owner.ask(stock.openStock, { body }, { preview: true });
    expect(foreseen.data.effects.rows.find(({ measure }) => measure === 'value')).toMatchObject({ before: '0.00', after: '9.99' });
    const posted = await business.owner.get(stock.openStock, { body });
    expect(posted.effects).toEqual(foreseen.data.effects);
    const again = await business.owner.ask(stock.openStock, { body: opening(itemId, '1', [lot('lx-2')]) });
    expect(again).toMatchObject({
      status: 409,
      problem: { errors: [{ field: 'lines.0.lots.0.code', sentence: 'EX-3 lx-2 is here already: Barn store A-1.' }] },
    });
    expect((await business.owner.get(lots.knownSerials, { body: { itemId, codes: ['LX-3', 'LX-9'] } })).rows).toEqual([
      { code: 'LX-3', where: 'Barn store A-1', ours: true },
    ]);
  });

  test('a serial cannot come in on two lines at once', async () => {
    const itemId = await business.item('EX-5', { tracking: 'serial' });
    const [line] = opening(itemId, '1', [lot('SAME-1')]).lines;
    const other = { ...(line as NonNullable<typeof line>), binId: business.bins[1] as number, lots: [lot('same-1')] };
    const refused = await business.owner.ask(stock.openStock, { body: { lines: [line as NonNullable<typeof line>, other] } });
    expect(refused.problem.errors[0]).toEqual({ field: 'lines.1.lots.0.code', sentence: 'EX-5 same-1 stands on another line already.' });
    expect((await business.owner.get(catalog.find, { query: { q: 'same-1' } })).rows).toEqual([]);
  });

  test('a serial has its own facts and life: tag, condition, warranty, and every movement', async () => {
    const itemId = await business.item('EX-4', { tracking: 'serial' });
    await business.owner.get(stock.openStock, { body: opening(itemId, '1', [lot('SN-77')]) });
    const [found] = (await business.owner.get(catalog.find, { query: { q: 'sn-77' } })).rows;
    const id = found?.id as number;
    const kept = await business.owner.get(lots.editLot, {
      params: { id },
      body: { version: 1, tag: 'EQ-01', condition: 'good', warrantyUntil: '2027-01-31' },
    });
    expect(kept).toMatchObject({ tag: 'EQ-01', condition: 'good', places: [{ where: 'Barn store A-1', quantity: '1' }] });
    expect((await business.owner.ask(lots.editLot, { params: { id }, body: { version: 1 } })).status).toBe(409);
    expect((await business.owner.get(catalog.find, { query: { q: 'eq-01' } })).rows[0]).toMatchObject({ kind: 'serial', id });
    const { rows } = await business.owner.get(stock.trail, { query: { lotId: id } });
    expect(rows).toMatchObject([{ kind: 'opening', lot: 'SN-77', quantity: '1' }]);
  });

  test('lots are received with their use-by, picked earliest first, and go out as they were picked', async () => {
    const itemId = await business.item('FON-1', { tracking: 'lot' });
    const order = await ordered(business, itemId, '30');
    const receive = (quantity: string, lots: { code: string; quantity: string; useBy: string | null }[]) =>
      business.owner.ask(receiving.receive, { body: { lines: [{ lineId: order.lineId, quantity, binId: business.bins[0] as number, lots }] } });
    expect((await receive('10', [])).problem.errors[0]).toEqual({ field: 'lines.0.lots', sentence: '10 in lots of FON-1 still missing.' });
    expect((await receive('10', [lot('LATE', '10', '2027-06-01')])).status).toBe(200);
    expect((await receive('12', [lot('SOON', '12', '2026-09-01')])).status).toBe(200);
    expect((await receive('1', [lot('SOON', '1', '2026-10-01')])).problem.errors[0]?.sentence).toContain('has the use-by day 2026-09-01');
    const sale = await sold(business, itemId, '15');
    const list = await business.owner.get(picking.pickList, { params: { id: sale.id } });
    expect(list.rows.map(({ lot: code, take }) => `${code ?? ''} ${take}`).sort()).toEqual(['LATE 3', 'SOON 12']);
    const lines = list.rows.map(({ lineId, binId, lotId, take }) => ({ lineId, binId, lotId, quantity: take }));
    await business.owner.get(picking.pick, { body: { orderId: sale.id, lines } });
    await business.owner.get(shipping.dispatch, { body: { orderId: sale.id, lines: [{ lineId: sale.lineId, quantity: '15' }] } });
    const gone = (await business.owner.get(stock.trail, { query: { itemId } })).rows.filter(({ kind }) => kind === 'dispatch');
    expect(gone.map(({ lot: code, quantity }) => `${code ?? ''} ${quantity}`).sort()).toEqual(['LATE 3', 'SOON 12']);
  });

  test('tracking changes only while nothing is there, and says where something is', async () => {
    const itemId = await business.item('SWITCH-1');
    await stocked(business, itemId, '5');
    expect((await edit(itemId, { tracking: 'lot' })).problem.errors[0]).toMatchObject({
      field: 'tracking',
      sentence: expect.stringContaining('5 of SWITCH-1 at Barn store A-1') as unknown,
    });
    await business.owner.get(stock.correct, {
      body: { way: 'plus-or-minus', reasonId: business.reasonId, lines: [{ itemId, binId: business.bins[0] as number, quantity: '-5' }] },
    });
    expect((await edit(itemId, { tracking: 'lot' })).data.tracking).toBe('lot');
  });

  test('a correction of tracked goods names the lot', async () => {
    const itemId = await business.item('COR-L', { tracking: 'lot' });
    await business.owner.get(stock.openStock, { body: opening(itemId, '8', [lot('C1', '5'), lot('C2', '3')]) });
    const { sites, seq } = await business.owner.get(stock.itemStock, { params: { id: itemId } });
    const c2 = sites[0]?.bins[0]?.lots.find(({ code }) => code === 'C2');
    const line = { itemId, binId: business.bins[0] as number, quantity: '1', seq };
    const body = (part: object) => ({ way: 'there-are-now' as const, reasonId: business.reasonId, lines: [{ ...line, ...part }] });
    expect((await business.owner.ask(stock.correct, { body: body({}) })).problem.errors[0]).toMatchObject({ field: 'lines.0.lotId' });
    await business.owner.get(stock.correct, { body: body({ lotId: c2?.lotId }) });
    const after = (await business.owner.get(stock.itemStock, { params: { id: itemId } })).sites[0]?.bins[0];
    expect(after?.lots.map(({ code, quantity }) => `${code} ${quantity}`)).toEqual(['C1 5', 'C2 1']);
  });
});

describe('own attributes', () => {
  test('are checked by their kind, found, filtered and kept from harm', async () => {
    const colour = await business.owner.get(attributes.createAttribute, {
      body: { name: 'Colour', subject: 'item', kind: 'choice', choices: ['amber', 'clear'] },
    });
    const checked = await business.owner.get(attributes.createAttribute, { body: { name: 'Checked on', subject: 'item', kind: 'date', reminderDays: -14 } });
    const itemId = await business.item('ATT-1', { attributes: [{ attributeId: colour.id, value: 'amber' }] });
    expect((await edit(itemId, { attributes: [{ attributeId: colour.id, value: 'blue' }] })).problem.errors[0]?.sentence).toBe(
      'Colour is one of amber, clear.',
    );
    expect((await edit(itemId, { attributes: [{ attributeId: checked.id, value: 'soon' }] })).problem.errors[0]?.field).toBe('attributes.0.value');
    const list = await business.owner.get(catalog.listItems, { query: { attributeId: colour.id, attributeValue: 'AMBER' } });
    expect(list.rows).toMatchObject([{ sku: 'ATT-1', attributes: { [colour.id]: 'amber' } }]);
    expect((await business.owner.get(catalog.listItems, { query: { q: 'amber' } })).rows.map(({ sku }) => sku)).toEqual(['ATT-1']);
    const { id: _id, ...form } = colour;
    expect(
      (await business.owner.ask(attributes.editAttribute, { params: { id: colour.id }, body: { ...form, choices: ['clear'] } })).problem.errors[0]?.field,
    ).toBe('choices');
    expect(
      (await business.owner.ask(attributes.editAttribute, { params: { id: colour.id }, body: { ...form, kind: 'text', choices: [] } })).problem.errors[0]
        ?.field,
    ).toBe('kind');
    expect(
      (await business.owner.ask(attributes.createAttribute, { body: { name: 'x', subject: 'item', kind: 'text', reminderDays: 3 } })).problem.errors[0]?.field,
    ).toBe('reminderDays');
  });
});

describe('finding and changing many', () => {
  test('word beginnings in any order, and small typing errors', async () => {
    await business.item('FND-1', { name: 'Honey extractor, four frames' });
    const skus = async (q: string) => (await business.owner.get(catalog.listItems, { query: { q } })).rows.map(({ sku }) => sku);
    expect(await skus('fra extr')).toEqual(['FND-1']);
    expect(await skus('hony extracter')).toEqual(['FND-1']);
    expect(await skus('zzzzqqq')).toEqual([]);
    expect((await business.owner.get(catalog.listItems, { query: { q: 'extracter', sort: 'best' } })).rows[0]?.sku).toBe('FND-1');
  });

  test('chosen items are changed together, and retired ones leave the list', async () => {
    const ids = [await business.item('BULK-1'), await business.item('BULK-2')];
    expect(await business.owner.get(catalog.editItems, { body: { ids, brand: 'Larkmoor', priceChange: '5' } })).toEqual({ changed: 2 });
    const brand = async () =>
      (await business.owner.get(catalog.listItems, { query: { q: 'larkmoor' } })).rows.map(({ sku, salesPrice }) => `${sku} ${Number(salesPrice).toFixed(2)}`);
    expect(await brand()).toEqual(['BULK-1 5.25', 'BULK-2 5.25']);
    await business.owner.get(catalog.editItems, { body: { ids: ids.slice(0, 1), retired: true } });
    expect(await brand()).toEqual(['BULK-2 5.25']);
    expect((await business.owner.get(catalog.listItems, { query: { q: 'larkmoor', life: 'retired' } })).rows.map(({ sku }) => sku)).toEqual(['BULK-1']);
    expect((await business.owner.ask(catalog.editItems, { body: { ids: [...ids, 999999] } })).status).toBe(404);
  });
});

describe('pictures', () => {
  test('are re-encoded small; what is no picture is refused', async () => {
    const png = await sharp({ create: { width: 1600, height: 900, channels: 3, background: '#c9a227' } })
      .png()
      .toBuffer();
    const { id } = await business.owner.get(catalog.addPicture, { body: { base64: png.toString('base64') } });
    const raw = async (size: string) => {
      const answer = await fetch(`${business.base}/api/catalog/pictures/${id}/${size}`, { headers: { Cookie: business.owner.cookie } });
      return { type: answer.headers.get('content-type'), ...(await sharp(Buffer.from(await answer.arrayBuffer())).metadata()) };
    };
    expect(await raw('small')).toMatchObject({ type: 'image/webp', format: 'webp', width: 96, height: 54 });
    expect(await raw('large')).toMatchObject({ width: 640, height: 360 });
    const text = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>').toString('base64');
    expect((await business.owner.ask(catalog.addPicture, { body: { base64: text } })).problem.errors[0]?.field).toBe('base64');
    const half = png.subarray(0, png.length / 2).toString('base64');
    for (const base64 of ['AAAA', '=1+1', half]) expect((await business.owner.ask(catalog.addPicture, { body: { base64 } })).status).toBe(422);
  });
});

describe('orders in other units', () => {
  test('three cases are 36 pieces to receive, at the price of the case; sold by the case they reserve pieces', async () => {
    const unitId = units.case as number;
    const itemId = await business.item('CASE-9', { units: [{ unitId, numerator: 12, buys: true }] });
    const order = await business.owner.get(inbound.createPurchase, {
      body: { supplierId: business.supplierId, siteId: business.siteId, lines: [{ itemId, unitId, quantity: '3', price: '24.00' }] },
    });
    expect(order).toMatchObject({ amount: '72.00', ordered: '36', lines: [{ quantity: '3', unit: 'case', baseQuantity: '36' }] });
    await business.owner.get(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'place', version: order.version } });
    const lineId = order.lines[0]?.id as number;
    await business.owner.get(receiving.receive, { body: { lines: [{ lineId, quantity: '18', binId: business.bins[0] as number }] } });
    const { rows } = await business.owner.get(stock.stockTable, { query: { q: 'case-9' } });
    expect(rows[0]).toMatchObject({ onHand: '18', onOrder: '18', value: '36.00', unitCost: '2' });
    const quote = await business.owner.get(outbound.createSale, {
      body: { customerId: business.customerId, siteId: business.siteId, shipBy: '2026-03-12', lines: [{ itemId, unitId, quantity: '1', price: '40.00' }] },
    });
    await business.owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
    const saleLine = quote.lines[0]?.id as number;
    await business.owner.get(catalog.teachCode, { params: { id: itemId }, body: { code: 'WHOLE-CASE', unitId } });
    const { rows: asked } = await business.owner.get(picking.pickList, { params: { id: quote.id } });
    expect(asked[0]?.codes).toEqual([
      { code: 'CASE-9', factor: '1' },
      { code: 'WHOLE-CASE', factor: '12' },
    ]);
    await business.owner.get(picking.pick, { body: { orderId: quote.id, lines: [{ lineId: saleLine, binId: business.bins[0] as number, quantity: '6' }] } });
    await business.owner.get(shipping.dispatch, { body: { orderId: quote.id, lines: [{ lineId: saleLine, quantity: '6' }] } });
    const sale = await business.owner.get(outbound.getSale, { params: { id: quote.id } });
    expect(sale).toMatchObject({ ordered: '12', dispatched: '6', dispatchedAmount: '20.00', dispatchedCost: '12.00', margin: '8.00' });
    expect((await edit(itemId, { units: [{ unitId, numerator: 10 }] })).problem.errors[0]).toMatchObject({ field: 'units.0.numerator' });
    const wrong = await business.owner.ask(inbound.createPurchase, {
      body: { supplierId: business.supplierId, siteId: business.siteId, lines: [{ itemId, unitId: units.roll as number, quantity: '1', price: '1' }] },
    });
    expect(wrong.problem.errors[0]?.field).toBe('lines.0.unitId');
  });
});

describe('bad input', () => {
  test('negative and superfluous opening stock is refused by its field', async () => {
    const itemId = await business.item('BAD-O', { tracking: 'serial' });
    expect((await business.owner.ask(stock.openStock, { body: opening(itemId, '-3') })).problem.errors[0]?.field).toBe('lines.0.quantity');
    const more = await business.owner.ask(stock.openStock, { body: opening(itemId, '1', [lot('A'), lot('B')]) });
    expect(more.problem.errors[0]).toEqual({ field: 'lines.0.lots', sentence: '1 serial of BAD-O too many.' });
  });

  test('script and right-to-left text in names stay text', async () => {
    const names = ['<img src=x onerror=alert(1)>', 'عسل السدر', '\u202Egnirts'];
    for (const [index, name] of names.entries()) {
      const itemId = await business.item(`NAME-${index}`, { name });
      expect((await business.owner.get(catalog.getItem, { params: { id: itemId } })).name).toBe(name);
    }
    expect((await business.owner.get(catalog.listItems, { query: { q: 'السدر' } })).rows.map(({ sku }) => sku)).toEqual(['NAME-1']);
  });

  test('only an item that was never used is deleted', async () => {
    const itemId = await business.item('DEL-1', { barcodes: ['DEL-CODE'] });
    expect((await business.owner.ask(catalog.deleteItem, { params: { id: itemId }, body: { version: 7 } })).status).toBe(409);
    await business.owner.get(catalog.deleteItem, { params: { id: itemId }, body: { version: 1 } });
    expect((await business.owner.ask(catalog.getItem, { params: { id: itemId } })).status).toBe(404);
    const used = await business.item('DEL-2', { barcodes: ['DEL-CODE'] });
    await ordered(business, used, '1');
    expect((await business.owner.ask(catalog.deleteItem, { params: { id: used }, body: { version: 1 } })).problem).toMatchObject({
      type: 'item-in-use',
      title: expect.stringContaining('was ordered already') as unknown,
    });
  });
});
