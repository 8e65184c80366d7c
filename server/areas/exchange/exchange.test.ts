import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as attributes from '@larder/contract/attributes';
import * as catalog from '@larder/contract/catalog';
import * as exchange from '@larder/contract/exchange';
import * as families from '@larder/contract/families';
import * as making from '@larder/contract/making';
import * as prices from '@larder/contract/prices';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { matchColumns, exchangeKinds, type ExchangeKind } from '@larder/core/exchange/exchange';
import { ownBarcode } from '@larder/core/codes/gtin';
import Excel from 'exceljs';
import { stocked } from '../../testing/trade';
import { openBusiness, type Business } from '../../testing/business';
import { cellsOf, filesOf } from '../../testing/files';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const { check, rowsOf, run, bringIn, exported } = filesOf(() => business);

describe('items', () => {
  const fields = ['sku', 'name', 'category', 'salesPrice', 'barcode', 'supplier', 'supplierCode', 'packSize'];
  test('a dry run says of every row what it would do, and writes nothing', async () => {
    await business.item('OLD-1', { name: 'Old name', salesPrice: '5' });
    const found = await check(
      'items',
      fields,
      ['NEW-1', 'New thing', 'Jars', '1.50', ownBarcode(1), 'Hexley Joinery', 'HX-1', '6'],
      ['OLD-1', 'Better name', '', '5.00', '', '', '', ''],
      ['NEW-2', '', 'Jars', '1', '', '', '', ''],
      ['NEW-3', 'Wrong', '', 'dear', '5901234123450', 'Nobody', '', ''],
      ['new-1', 'Twice', '', '', '', '', '', ''],
      ['NEW-4', 'Same code', '', '', ownBarcode(1), '', '', ''],
    );
    expect(found.counts).toEqual({ new: 1, changed: 1, same: 0, refused: 4 });
    const rows = await rowsOf(found.id);
    expect(rows[1]).toMatchObject({ line: 3, status: 'changed', changes: [{ field: 'Name', was: 'Old name', is: 'Better name' }] });
    expect(rows.slice(2).map(({ reasons }) => reasons)).toEqual([
      ['Name is missing.'],
      ['Sales price is no number above zero: “dear”.'],
      ['The same as line 2.'],
      [`${ownBarcode(1)} is a barcode of NEW-1 already.`],
    ]);
    expect((await business.owner.get(catalog.listItems, { query: { q: 'new-1' } })).rows).toEqual([]);
  });

  test('then the good rows are written together, and the refused are a file to put right', async () => {
    const found = await check(
      'items',
      fields,
      ['IMP-1', 'Import one', 'Lids', '2.40', ownBarcode(11), 'Hexley Joinery', 'HX-11', '12'],
      ['IMP-2', '', '', '', '', '', '', ''],
    );
    expect(await run(found.id)).toMatchObject({ state: 'done', done: 1 });
    const [row] = (await business.owner.get(catalog.listItems, { query: { q: 'hx-11' } })).rows;
    expect(row).toMatchObject({ sku: 'IMP-1', category: 'Lids', salesPrice: '2.400000', supplier: 'Hexley Joinery' });
    const item = await business.owner.get(catalog.getItem, { params: { id: row?.id as number } });
    expect(item).toMatchObject({ unit: 'each', barcodes: [{ code: ownBarcode(11) }], suppliers: [{ code: 'HX-11', packSize: '12' }] });
    const answer = await fetch(`${business.base}/api/exchange/imports/${found.id}/refused`, { headers: { Cookie: business.owner.cookie } });
    expect(cellsOf(Buffer.from(await answer.arrayBuffer()))[1]).toEqual(['IMP-2', '', '', '', '', '', '', '', '3', 'Name is missing.']);
    expect((await business.owner.ask(exchange.runImport, { params: { id: found.id } })).problem.title).toBe('This was imported already.');
  });

  test('own attributes are columns; the columns of a file are remembered', async () => {
    const colour = await business.owner.get(attributes.createAttribute, {
      body: { name: 'Colour', subject: 'item', kind: 'choice', choices: ['amber', 'clear'] },
    });
    const field = `attribute ${colour.id}`;
    const found = await check('items', ['sku', 'name', field], ['ATT-1', 'One', 'amber'], ['ATT-2', 'Two', 'blue']);
    expect((await rowsOf(found.id)).map(({ status }) => status)).toEqual(['new', 'refused']);
    await run(found.id);
    expect((await business.owner.get(catalog.listItems, { query: { attributeId: colour.id } })).rows.map(({ sku }) => sku)).toEqual(['ATT-1']);
    expect((await check('items', ['sku', 'name', field], ['ATT-1', 'One', 'amber'])).counts.same).toBe(1);
    const kept = await business.owner.get(exchange.keptColumns, { body: { kind: 'items', headings: ['sku', 'name', field] } });
    expect(kept.fields).toEqual(['sku', 'name', field]);
  });

  test('how cost is kept comes in for new items, and is refused once stock was moved or without serials', async () => {
    const fields = ['sku', 'name', 'tracking', 'costMethod'];
    await bringIn('items', fields, ['FLOW-1', 'First', '', 'first in, first out'], ['FLOW-2', 'Second', 'serial', 'specific'], ['FLOW-3', 'Third', '', '']);
    expect(cellsOf(await exported('items', 'sku,costMethod', 'csv', 'flow')).slice(1)).toEqual([
      ['FLOW-1', 'fifo'],
      ['FLOW-2', 'specific'],
      ['FLOW-3', 'average'],
    ]);
    const { rows } = await business.pool.query<{ id: number }>(`SELECT id FROM item WHERE sku = 'FLOW-1'`);
    await stocked(business, rows[0]?.id as number, '2');
    const { id } = await check(
      'items',
      ['sku', 'name', 'costMethod'],
      ['FLOW-1', 'First', 'average'],
      ['FLOW-3', 'Third', 'specific'],
      ['FLOW-2', 'Second', 'guess'],
    );
    expect((await rowsOf(id)).map(({ reasons }) => reasons[0])).toEqual([
      'Stock of FLOW-1 was moved already; how its cost is kept cannot change.',
      'Only an item tracked by serial can keep the cost of each unit.',
      'Cost is kept by average, fifo or specific, not “guess”.',
    ]);
  });
  test('price breaks go out and come in as they are written', async () => {
    await business.item('BRK-1');
    const fields = ['supplier', 'sku', 'price', 'breaks'];
    await bringIn('terms', fields, ['Hexley Joinery', 'BRK-1', '2.00', '500:1.6; 100: 1.80']);
    const out = cellsOf(await exported('terms', fields.join(','), 'csv', 'brk'));
    expect(out[1]).toEqual(['Hexley Joinery', 'BRK-1', '2', '100: 1.8; 500: 1.6']);
    const { id } = await check('terms', fields, out[1] ?? [], ['Hexley Joinery', 'BRK-1', '2', 'many: 1']);
    expect((await rowsOf(id)).map(({ status }) => status)).toEqual(['same', 'refused']);
  });
  test('what is exported, edited and brought in again changes only what was edited', async () => {
    await business.item('FORM-1', { name: '=1+1 the formula', notes: '@home' });
    const kind = exchangeKinds[0] as ExchangeKind;
    const keys = kind.fields.map(({ key }) => key).join(',');
    const bytes = await exported('items', keys);
    expect(bytes.toString()).toContain("'=1+1 the formula");
    const [headings = [], ...cells] = cellsOf(bytes);
    const edited = cells.map((line) => line.map((cell, index) => (line[0] === 'IMP-1' && headings[index] === 'Name' ? 'Edited' : cell)));
    const found = await business.owner.get(exchange.checkImport, {
      body: { kind: 'items', fileName: 'back.csv', headings, fields: matchColumns(kind, headings), rows: edited },
    });
    expect(found.counts).toEqual({ new: 0, changed: 1, same: cells.length - 1, refused: 0 });
    expect((await rowsOf(found.id)).find(({ status }) => status === 'changed')).toMatchObject({
      key: 'IMP-1',
      changes: [{ field: 'Name', was: 'Import one', is: 'Edited' }],
    });
    const only = cellsOf(await exported('items', 'sku', 'csv', 'imp-1')).slice(1);
    expect(only).toEqual([['IMP-1']]);
    expect(cellsOf(await exported('suppliers', 'name', 'csv', 'hexley'))).toEqual([['Name'], ['Hexley Joinery']]);
    const book = new Excel.Workbook();
    await book.xlsx.load((await exported('items', 'sku,name,salesPrice', 'xlsx')) as never);
    const sheet = book.worksheets[0];
    expect(sheet?.getRow(1).values).toEqual([undefined, 'SKU', 'Name', 'Sales price']);
    expect(sheet?.getColumn(3).values).toContain(2.4);
    const kept = await business.owner.get(exchange.exportFields, { params: { list: 'items' } });
    expect(kept).toMatchObject({ chosen: ['sku', 'name', 'salesPrice'], format: 'xlsx' });
    expect((await business.owner.ask(exchange.exportFile, { params: { list: 'items' }, body: { fields: 'sku,nonsense' } })).status).toBe(422);
  });
});

test('what is taken out is what the list shows: its filters, the trail of one item, days as days', async () => {
  const item = await business.item('OUT-1', { tracking: 'lot' });
  await business.owner.get(stock.openStock, {
    body: {
      lines: [{ itemId: item, binId: business.bins[0] ?? 0, quantity: '4', unitValue: '2.00', lots: [{ code: 'L1', quantity: '4', useBy: '2027-05-01' }] }],
    },
  });
  const take = async (list: 'items' | 'trail', more: object) => {
    return cellsOf(await exported(list, 'sku', 'csv', '', more)).slice(1);
  };
  expect(await take('items', { items: { tracking: 'lot', q: 'out' } })).toEqual([['OUT-1']]);
  expect(await take('trail', { itemId: item, fields: 'sku,quantity,what' })).toEqual([['OUT-1', '4', 'opening']]);
});

describe('everything else', () => {
  test('suppliers, their terms, customers, bins and reorder points', async () => {
    expect(
      await bringIn(
        'suppliers',
        ['name', 'email', 'leadDays'],
        ['Brightwick Glass', 'orders@brightwick.example', '9'],
        ['Hexley Joinery', 'post@hexley.example', '5'],
      ),
    ).toMatchObject({ state: 'done', done: 2 });
    const { rows } = await business.owner.get(setup.listParties, { query: { as: 'supplier' } });
    expect(rows.map(({ name, leadDays }) => `${name} ${leadDays}`)).toEqual(['Brightwick Glass 9', 'Hexley Joinery 5']);
    await business.item('REST-1');
    expect(await bringIn('terms', ['supplier', 'sku', 'code', 'price'], ['brightwick glass', 'rest-1', 'BG-7', '0.99'])).toMatchObject({ done: 1 });
    expect((await check('terms', ['supplier', 'sku', 'code', 'price'], ['Brightwick Glass', 'REST-1', 'BG-7', '0.990'])).counts.same).toBe(1);
    expect(await bringIn('customers', ['name'], ['Hexley Joinery'], ['Ashby Club'])).toMatchObject({ done: 2 });
    expect((await business.owner.get(setup.listParties, { query: { q: 'hexley' } })).rows[0]).toMatchObject({ isSupplier: true, isCustomer: true });
    expect(await bringIn('bins', ['site', 'code', 'zone'], ['Barn store', 'C-1', 'Cold'], ['BARN', 'A-1', 'Front'])).toMatchObject({ done: 2 });
    expect(await bringIn('policies', ['sku', 'site', 'bin', 'reorderPoint', 'orderUpTo'], ['REST-1', 'Barn store', 'C-1', '8', '24'])).toMatchObject({
      done: 1,
    });
    const wrong = await check('policies', ['sku', 'site', 'reorderPoint', 'orderUpTo'], ['REST-1', 'Moon', '8', '24'], ['REST-1', 'Barn store', '8', '4']);
    expect((await rowsOf(wrong.id)).map(({ reasons }) => reasons[0])).toEqual(['There is no site “Moon”.', 'Order up to more than the reorder point.']);
  });

  test('price lists: a list is made, its rows are changed and added to, what is not named stays, and it goes out as it comes in', async () => {
    const itemId = await business.item('PRC-1', { salesPrice: '4.00' });
    await business.item('PRC-2');
    await business.owner.get(setup.createCategory, { body: { name: 'Fairings' } });
    const fields = ['list', 'sku', 'category', 'from', 'price', 'percentOff', 'startsOn', 'endsOn'];
    const rows = [
      ['Spring fair', 'PRC-1', '', '', '3.50', '', '', ''],
      ['Spring fair', 'PRC-1', '', '12', '3.123456', '', '2026-03-01', '2026-03-31'],
      ['Spring fair', '', 'Fairings', '', '', '7.5', '', ''],
    ];
    expect(await bringIn('prices', fields, ...rows)).toMatchObject({ state: 'done', done: 3 });
    const { rows: lists } = await business.owner.get(prices.listPriceLists);
    const list = lists.find(({ name }) => name === 'Spring fair');
    expect(list).toMatchObject({ forAll: false, prices: 3 });
    const customer = await business.owner.get(setup.createParty, { body: { name: 'Fair Goer', isCustomer: true, priceListId: list?.id ?? 0 } });
    const asked = { params: { id: customer.id }, query: { itemIds: String(itemId) } };
    expect((await business.owner.get(prices.customerTerms, asked)).rows).toMatchObject([{ price: '3.5', breaks: [{ from: '12', price: '3.123456' }] }]);
    expect((await check('prices', fields, ...rows)).counts).toMatchObject({ same: 3 });

    // A price becomes a part off, without a column for the last day; one is added.
    const fewer = ['list', 'sku', 'from', 'price', 'percentOff', 'startsOn'];
    expect(await bringIn('prices', fewer, ['spring FAIR', 'prc-1', '12', '', '25', '2026-03-01'], ['Spring fair', 'PRC-2', '', '9', '', ''])).toMatchObject({
      done: 2,
    });
    const out = cellsOf(await exported('prices', fields.join(','), 'csv', 'spring'));
    expect(out.slice(1)).toEqual([
      ['Spring fair', '', 'Fairings', '0', '', '7.5', '', ''],
      ['Spring fair', 'PRC-1', '', '0', '3.5', '', '', ''],
      ['Spring fair', 'PRC-1', '', '12', '', '25', '2026-03-01', '2026-03-31'],
      ['Spring fair', 'PRC-2', '', '0', '9', '', '', ''],
    ]);
    expect((await check('prices', fields, ...out.slice(1))).counts).toMatchObject({ same: 4, refused: 0 });
    const written = await business.owner.get(prices.getPriceList, { params: { id: list?.id ?? 0 } });
    expect(written.rows.map(({ code, from }) => `${code} ${from}`)).toEqual(['PRC-1 0', 'PRC-1 12', 'Fairings 0', 'PRC-2 0']);
    // Whoever had the list open is told.
    expect(written.version).toBeGreaterThan(1);

    // Whose file would say two things of the days that are there already.
    const { id } = await check('prices', fields, ['Spring fair', 'PRC-1', '', '12', '3', '', '2026-03-31', '']);
    expect((await rowsOf(id)).map(({ reasons }) => reasons[0])).toEqual(['Another row says another price for the same quantity on some of these days.']);
    await business.owner.get(setup.editParty, { params: { id: customer.id }, body: { ...customer, priceListId: null } });
    await business.owner.get(prices.retirePriceList, { params: { id: written.id }, body: { retired: true, version: written.version } });
    expect((await rowsOf((await check('prices', fields, ...rows)).id)).map(({ reasons }) => reasons[0])).toEqual(Array(3).fill('Spring fair is retired.'));
  });

  test('bills of materials: one is made, its parts are changed and added to, what is not named stays, and it goes out as it comes in', async () => {
    const { units } = await business.owner.get(setup.reference);
    const boxUnit = units.find(({ code }) => code === 'box')?.id as number;
    const hive = await business.item('BOM-HIVE');
    for (const sku of ['BOM-BOX', 'BOM-BOARD']) await business.item(sku);
    await business.item('BOM-NAIL', { units: [{ unitId: boxUnit, numerator: 200, denominator: 1 }] });
    const fields = ['sku', 'version', 'startsOn', 'makes', 'part', 'quantity', 'unit', 'waste', 'note'];
    const rows = [
      ['BOM-HIVE', '', '2026-03-01', '2', 'BOM-BOX', '4', '', '', ''],
      ['bom-hive', '1', '2026-03-01', '2', 'BOM-NAIL', '0.5', 'box', '5', 'the long ones'],
      ['BOM-BOX', '', '', '', 'BOM-BOARD', '6', 'each', '', ''],
    ];
    expect(await bringIn('boms', fields, ...rows)).toMatchObject({ state: 'done', done: 3 });
    const { boms } = await business.owner.get(making.whereUsed, { params: { id: hive } });
    const id = boms[0]?.id as number;
    const written = await business.owner.get(making.getBom, { params: { id } });
    expect(written).toMatchObject({
      startsOn: '2026-03-01',
      makes: '2',
      parts: [
        { sku: 'BOM-BOX', quantity: '4' },
        { sku: 'BOM-NAIL', quantity: '0.5', writtenIn: 'box', waste: '5', note: 'the long ones' },
      ],
    });
    expect((await check('boms', fields, ...rows)).counts).toMatchObject({ same: 3 });
    // A quantity is changed and a part added, without columns for the rest.
    expect(await bringIn('boms', ['sku', 'part', 'quantity'], ['BOM-HIVE', 'BOM-BOX', '5'], ['BOM-HIVE', 'BOM-BOARD', '1'])).toMatchObject({ done: 2 });
    const out = cellsOf(await exported('boms', fields.join(','), 'csv', 'bom-hive'));
    expect(out.slice(1)).toEqual([
      ['BOM-HIVE', '1', '2026-03-01', '2', 'BOM-BOX', '5', 'each', '0', ''],
      ['BOM-HIVE', '1', '2026-03-01', '2', 'BOM-NAIL', '0.5', 'box', '5', 'the long ones'],
      ['BOM-HIVE', '1', '2026-03-01', '2', 'BOM-BOARD', '1', 'each', '0', ''],
    ]);
    expect((await check('boms', fields, ...out.slice(1))).counts).toMatchObject({ same: 3, refused: 0 });
    expect(await bringIn('boms', fields, ['BOM-HIVE', '2', '2026-03-20', '1', 'BOM-BOX', '2', '', '', ''])).toMatchObject({ done: 1 });
    expect((await business.owner.get(making.getBom, { params: { id } })).versions.map(({ number, state }) => [number, state])).toEqual([
      [2, 'later'],
      [1, 'in use'],
    ]);
  });

  test('opening stock posts through the ledger, with lots, once', async () => {
    await business.item('OPN-1');
    await business.item('OPN-L', { tracking: 'lot' });
    const fields = ['sku', 'site', 'bin', 'quantity', 'unitValue', 'lot', 'useBy'];
    const rows = [
      ['OPN-1', 'Barn store', 'A-2', '10', '1.25', '', ''],
      ['OPN-L', 'Barn store', '', '4', '2', 'L1', '2027-01-31'],
      ['OPN-L', 'Barn store', '', '3', '2', 'L2', ''],
      ['OPN-L', 'Barn store', 'A-1', '3', '2', '', ''],
    ];
    const found = await check('opening', fields, ...rows);
    expect((await rowsOf(found.id)).map(({ status }) => status)).toEqual(['new', 'new', 'new', 'refused']);
    expect(await run(found.id)).toMatchObject({ state: 'done' });
    const value = async (q: string) =>
      (await business.owner.get(stock.stockTable, { query: { q } })).rows.map(({ onHand, value: worth }) => `${onHand} ${worth}`);
    expect([await value('opn-1'), await value('opn-l')]).toEqual([['10 12.50'], ['7 14.00']]);
    expect((await check('opening', fields, ...rows.slice(0, 1))).counts.refused).toBe(1);
    await business.item('OPN-S', { tracking: 'serial' });
    await business.item('OPN-2');
    const serials = await check(
      'opening',
      ['sku', 'site', 'bin', 'quantity', 'unitValue', 'serial'],
      ['OPN-S', 'Barn store', 'A-1', '1', '5', 'S1'],
      ['OPN-S', 'Barn store', 'A-2', '1', '5', 's1'],
      ['OPN-2', 'Barn store', 'A-2', '1.5', '5', ''],
    );
    const said = (await rowsOf(serials.id)).map(({ reasons }) => reasons.join());
    expect(said).toEqual(['', 'OPN-S s1 stands on another line already.', 'This item is kept in steps of 1; the quantity is divided too finely.']);
  });

  test('families are made from their members', async () => {
    for (const sku of ['FM-1', 'FM-2']) await business.item(sku);
    const fields = ['family', 'sku', 'axis1', 'value1'];
    expect(await bringIn('families', fields, ['Tumbler', 'FM-1', 'Size', 'small'], ['Tumbler', 'FM-2', 'Size', 'large'])).toMatchObject({ done: 2 });
    const { rows } = await business.owner.get(families.listFamilies, { query: { q: 'tumbler' } });
    expect(rows[0]).toMatchObject({ members: 2, axes: ['Size'] });
    expect((await check('families', fields, ['Tumbler', 'FM-1', 'Size', 'small'])).counts.same).toBe(1);
    expect((await rowsOf((await check('families', fields, ['Other', 'FM-1', 'Size', 'small'])).id))[0]?.reasons[0]).toContain('belongs to Tumbler already');
  });
});

describe('all or nothing', () => {
  test('what changed since the dry run stops the whole, and nothing is written', async () => {
    const found = await check('items', ['sku', 'name', 'barcode'], ['AON-1', 'One', ''], ['AON-2', 'Two', ownBarcode(500)]);
    await business.item('THIEF', { barcodes: [ownBarcode(500)] });
    const ended = await run(found.id);
    expect(ended).toMatchObject({ state: 'failed', done: 0 });
    expect(ended.problem).toContain('Line 3 can no longer be imported');
    expect((await business.owner.get(catalog.listItems, { query: { q: 'aon' } })).rows).toEqual([]);
  });

  test('cancelled in the middle, nothing stays', async () => {
    const rows = Array.from({ length: 6000 }, (_, index) => [`CAN-${index}`, `Cancelled ${index}`]);
    const { id } = await check('items', ['sku', 'name'], ...rows);
    await business.owner.get(exchange.runImport, { params: { id } });
    expect((await business.owner.ask(exchange.runImport, { params: { id } })).status).toBe(409);
    await business.owner.get(exchange.cancelImport, { params: { id } });
    let state = 'running';
    while (state === 'running') {
      await new Promise((later) => setTimeout(later, 30));
      state = (await business.owner.get(exchange.getImport, { params: { id } })).import.state;
    }
    expect(state).toBe('cancelled');
    expect((await business.owner.get(catalog.listItems, { query: { q: 'can-1' } })).rows).toEqual([]);
    expect(await run(id)).toMatchObject({ state: 'done', done: 6000 });
  });

  test('nonsense and other people’s imports', async () => {
    expect(
      (await business.owner.ask(exchange.checkImport, { body: { kind: 'items', fileName: 'x', headings: [], fields: ['sku'], rows: [] } })).problem.errors[0]
        ?.field,
    ).toBe('rows');
    const found = await check('items', ['sku', 'nonsense'], ['A', 'b']);
    expect((await rowsOf(found.id))[0]?.reasons).toEqual(['There is no field nonsense.', 'Name is missing.']);
    expect((await business.owner.ask(exchange.runImport, { params: { id: found.id } })).problem.type).toBe('nothing-to-write');
    const other = await business.as('Stock controller');
    expect((await other.ask(exchange.getImport, { params: { id: found.id } })).status).toBe(404);
    expect(
      (await other.ask(exchange.checkImport, { body: { kind: 'bins', fileName: 'x', headings: [], fields: ['site', 'code'], rows: [['BARN', 'Z-1']] } }))
        .status,
    ).toBe(403);
  });
});
