import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as books from '@larder/contract/books';
import * as catalog from '@larder/contract/catalog';
import * as families from '@larder/contract/families';
import * as inbound from '@larder/contract/inbound';
import * as receiving from '@larder/contract/receiving';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { cellsOf, filesOf } from '../../testing/files';
import { ordered, stocked } from '../../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});
const { check, rowsOf, bringIn, exported } = filesOf(() => business);
const said = async (...given: Parameters<typeof check>) => (await rowsOf((await check(...given)).id)).map(({ status, reasons }) => reasons.join(' ') || status);

describe('what is wrong with a row is told in the dry run', () => {
  test('suppliers and customers: no name, no address, days beyond a year, a name twice', async () => {
    expect(
      await said(
        'suppliers',
        ['name', 'email', 'leadDays'],
        ['', 'a@b.example', '5'],
        ['Slow Boat', 'nowhere', '5'],
        ['Slow Boat', '', '366'],
        ['Slow Train', '', '2.5'],
        ['Hexley Joinery', '', '7'],
        ['hexley joinery', '', '7'],
      ),
    ).toEqual([
      'Name is missing.',
      '“nowhere” is no mail address.',
      'Days to deliver are whole days from 0 to 365. The same as line 3.',
      'Days to deliver are whole days from 0 to 365.',
      'same',
      'The same as line 6.',
    ]);
  });

  test('items: what has stock or is on order is not retired by a file; what is gone, or was retired already, is', async () => {
    const held = await business.item('RT-HELD');
    await stocked(business, held, '3');
    await ordered(business, await business.item('RT-DUE'), '2');
    await business.item('RT-GONE');
    const rows = ['RT-HELD', 'RT-DUE', 'RT-GONE'].map((sku) => [sku, sku, 'yes']);
    expect(await said('items', ['sku', 'name', 'retired'], ...rows)).toEqual([
      'RT-HELD has 3 in stock. Retire it on its own page, which asks first.',
      expect.stringMatching(/^RT-DUE is on order on PO-\d+\. Retire it on its own page, which asks first\.$/),
      'changed',
    ]);
    const was = await business.owner.get(catalog.getItem, { params: { id: held } });
    const form = { sku: was.sku, name: was.name, unitId: was.unitId, version: was.version, retired: true, retiredInUse: true };
    await business.owner.get(catalog.editItem, { params: { id: held }, body: form });
    expect(await said('items', ['sku', 'name', 'retired'], ['RT-HELD', 'Hive tool', 'yes'])).toEqual(['changed']);
  });

  test('items: a shelf life is whole days, and is what the item keeps', async () => {
    const rows = [
      ['SL-1', 'Patty', '180', 'yes'],
      ['SL-2', 'Patty', '1.5', 'no'],
      ['SL-3', 'Patty', '-1', ''],
      ['SL-4', 'Patty', '40000', ''],
      ['SL-5', 'Patty', '', ''],
    ];
    const fault = 'Shelf life is whole days from 0 to 36,500.';
    const fields = ['sku', 'name', 'shelfLife', 'inspected'];
    expect(await said('items', fields, ...rows)).toEqual(['new', fault, 'Shelf life, days is no number above zero: “-1”.', fault, 'new']);
    await bringIn('items', fields, rows[0] as string[], rows[4] as string[]);
    const kept = async (sku: string) => {
      const { rows: found } = await business.owner.get(catalog.listItems, { query: { q: sku } });
      const { shelfLifeDays, inspected } = await business.owner.get(catalog.getItem, { params: { id: found[0]?.id as number } });
      return [shelfLifeDays, inspected];
    };
    expect([await kept('SL-1'), await kept('SL-5')]).toEqual([
      [180, true],
      [null, false],
    ]);
  });

  test('bills of materials: what is not there or no goods, quantities of nothing, units that are none, versions that say two things, circles', async () => {
    for (const sku of ['BM-1', 'BM-2', 'BM-3']) await business.item(sku);
    await business.item('BM-S', { kind: 'service' });
    const fields = ['sku', 'version', 'makes', 'part', 'quantity', 'unit', 'waste'];
    expect(
      await said(
        'boms',
        fields,
        ['', '', '', 'BM-2', '1', '', ''],
        ['BM-9', '', '', 'BM-2', '1', '', ''],
        ['BM-1', '', '', 'BM-9', '1', '', ''],
        ['BM-1', '3', '', 'BM-2', '0', '', ''],
        ['BM-1', '4', '', 'BM-2', '1', 'furlong', ''],
        ['BM-1', '5', '', 'BM-2', '1', '', '101'],
        ['BM-1', '0', '', 'BM-2', '1', '', ''],
        ['BM-1', '6', '0.5', 'BM-2', '1', '', ''],
        ['BM-1', '7', '1', 'BM-2', '1', '', ''],
        ['BM-1', '7', '2', 'BM-3', '1', '', ''],
        ['BM-1', '8', '', 'BM-S', '1', '', ''],
        ['BM-S', '', '', 'BM-2', '1', '', ''],
        ['BM-2', '', '', 'BM-3', '1', '', ''],
        ['BM-3', '', '', 'BM-2', '1', '', ''],
      ),
    ).toEqual([
      'Makes is missing.',
      'There is no item “BM-9”.',
      'There is no item “BM-9”.',
      'The quantity must be more than zero.',
      'BM-2 is not kept in furlong.',
      'Waste is at most 100 % on top.',
      'Versions are counted 1, 2, 3.',
      'For so many: whole steps of what is made, more than zero.',
      'Rows of this version say different days, or different numbers that it is for.',
      'Rows of this version say different days, or different numbers that it is for.',
      'BM-S is no goods.',
      'BM-S is not kept in stock, so nothing of it can be made.',
      'BM-2 would contain itself: BM-2 contains BM-3, which contains BM-2.',
      'BM-3 would contain itself: BM-3 contains BM-2, which contains BM-3.',
    ]);
  });

  test('prices: two subjects or none, two prices or none, too much off, days the wrong way round, rows that say two things of the same', async () => {
    await business.item('PR-1');
    await business.owner.get(setup.createCategory, { body: { name: 'Priced' } });
    const fields = ['list', 'sku', 'category', 'from', 'price', 'percentOff', 'startsOn', 'endsOn'];
    expect(
      await said(
        'prices',
        fields,
        ['', 'PR-1', '', '', '1', '', '', ''],
        ['Fair', 'PR-1', 'Priced', '', '', '5', '', ''],
        ['Fair', '', '', '', '1', '', '', ''],
        ['Fair', 'PR-9', '', '', '1', '', '', ''],
        ['Fair', '', 'Nothing', '', '', '5', '', ''],
        ['Fair', 'PR-1', '', '', '', '', '', ''],
        ['Fair', 'PR-1', '', '1', '1', '5', '', ''],
        ['Fair', '', 'Priced', '', '5', '', '', ''],
        ['Fair', '', 'Priced', '1', '', '100.5', '', ''],
        ['Fair', 'PR-1', '', '2.00001', '1', '', '', ''],
        ['Fair', 'PR-1', '', '3', '1', '', '2026-05-02', '2026-05-01'],
        ['Fair', 'PR-1', '', '4', '1', '', '2026-05-01', '2026-05-31'],
        ['Fair', 'PR-1', '', '4.0', '2', '', '2026-05-31', ''],
        ['Fair', 'pr-1', '', '5', '2', '', '2026-06-01', ''],
      ),
    ).toEqual([
      'Price list is missing.',
      'Give the SKU of an item, or a category.',
      'Give the SKU of an item, or a category.',
      'There is no item “PR-9”.',
      'There is no category “Nothing”.',
      'Give a price, or per cent off.',
      'Give a price, or per cent off.',
      'A category has many items: give per cent off.',
      'Per cent off is at most 100.',
      'From has at most four decimals.',
      'It ends before it begins.',
      'new',
      'Another row says another price for the same quantity on some of these days.',
      'new',
    ]);
  });

  test('terms: nobody, nothing, a pack of none, breaks nobody can read', async () => {
    await business.item('TM-1');
    expect(
      await said(
        'terms',
        ['supplier', 'sku', 'packSize', 'breaks', 'leadDays'],
        ['Nobody', 'TM-1', '1', '', ''],
        ['Hexley Joinery', 'TM-9', '1', '', ''],
        ['Hexley Joinery', 'TM-1', '0', 'many: cheap', '1000'],
        ['Copse Lane School', 'TM-1', '1', '', ''],
      ),
    ).toEqual([
      'There is no supplier “Nobody”.',
      'There is no item “TM-9”.',
      'Write price breaks like 100: 0.95; 500: 0.90. Days to deliver are whole days from 0 to 365. Pack of is more than zero.',
      'There is no supplier “Copse Lane School”.',
    ]);
  });

  test('bins: no such site, no such use, a use that is changed elsewhere, an odd walking order', async () => {
    expect(
      await said(
        'bins',
        ['site', 'code', 'use', 'walk'],
        ['Moon', 'Z-1', '', ''],
        ['Barn store', 'Z-2', 'looking at', ''],
        ['Barn store', 'A-1', 'quarantine', ''],
        ['Barn store', 'Z-3', 'Quarantine', '1.5'],
        ['BARN', 'Z-4', '', '7'],
      ),
    ).toEqual([
      'There is no site “Moon”.',
      'For is sale or quarantine, not “looking at”.',
      'What a bin is for is changed under Setup, Bins.',
      'Walking order is a whole number.',
      'new',
    ]);
  });

  test('reorder points: a bin of another site, half a policy, what is not kept in stock', async () => {
    await business.item('PL-1');
    await business.item('PL-TAPE', { kind: 'not-stocked' });
    expect(
      await said(
        'policies',
        ['sku', 'site', 'bin', 'reorderPoint', 'orderUpTo'],
        ['PL-1', 'Harbour shop', 'A-1', '2', '5'],
        ['PL-1', 'Barn store', 'A-1', '', '5'],
        ['PL-TAPE', 'Barn store', '', '2', '5'],
        ['PL-TAPE', 'Harbour shop', '', '', ''],
      ),
    ).toEqual([
      'There is no bin “A-1” at Harbour shop.',
      'Give the reorder point and the order-up-to level together.',
      'PL-TAPE is not kept in stock: it has no reorder point.',
      'new',
    ]);
  });

  test('opening stock: not kept, below nothing, a serial that is here, a lot with another day', async () => {
    const { owner, bins } = business;
    await business.item('OP-TAPE', { kind: 'not-stocked' });
    const serial = await business.item('OP-S', { tracking: 'serial' });
    const lot = await business.item('OP-L', { tracking: 'lot' });
    const order = await ordered(business, serial, '1');
    await owner.get(receiving.receive, { body: { lines: [{ lineId: order.lineId, quantity: '1', binId: bins[0] as number, lots: [{ code: 'LX-1' }] }] } });
    const more = await ordered(business, lot, '2');
    const lots = [{ code: 'L-1', useBy: '2027-01-01', quantity: '2' }];
    await owner.get(receiving.receive, { body: { lines: [{ lineId: more.lineId, quantity: '2', binId: bins[0] as number, lots }] } });
    expect(
      await said(
        'opening',
        ['sku', 'site', 'quantity', 'unitValue', 'lot', 'useBy', 'serial'],
        ['OP-TAPE', 'Barn store', '5', '1', '', '', ''],
        ['OP-S', 'Barn store', '1', '1', '', '', 'lx-1'],
        ['OP-S', 'Barn store', '-1', '1', '', '', 'LX-2'],
        ['OP-L', 'Barn store', '3', '1', 'L-1', '2027-02-01', ''],
        ['OP-L', 'Barn store', '3', '1', 'L-2', '2027-02-01', ''],
      ),
    ).toEqual([
      'OP-TAPE is not kept in stock.',
      'OP-S lx-1 is known already: Barn store A-1.',
      'Quantity is no number above zero: “-1”.',
      'Lot L-1 of OP-L has the use-by day 2027-01-01.',
      'new',
    ]);
  });

  test('families: other axes, values that another member has, an axis without its value, a member of another', async () => {
    for (const sku of ['FA-1', 'FA-2', 'FA-3', 'FB-1']) await business.item(sku);
    const fields = ['family', 'sku', 'axis1', 'value1', 'axis2', 'value2'];
    await bringIn('families', fields, ['Spoon', 'FA-1', 'Wood', 'olive', 'Length', '15 cm']);
    expect(
      await said(
        'families',
        fields,
        ['Spoon', 'FA-2', 'Wood', 'olive', '', ''],
        ['spoon', 'FA-2', 'Wood', 'Olive', 'Length', '15 CM'],
        ['Spoon', 'FA-3', 'Wood', 'beech', 'Length', ''],
        ['Ladle', 'FA-1', 'Wood', 'olive', '', ''],
        ['Spoon', 'FB-1', 'Wood', 'beech', 'Length', '15 cm'],
      ),
    ).toEqual([
      'Spoon has other axes: wood, length.',
      'FA-1 has these values of spoon already. The same as line 2.',
      'Axis 2 and its value belong together.',
      'FA-1 belongs to Spoon already; remove it there first.',
      'new',
    ]);
    const { rows } = await business.owner.get(families.listFamilies, { query: { q: 'spoon' } });
    expect(rows).toMatchObject([{ members: 1, axes: ['Wood', 'Length'] }]);
  });

  test('items: what it is goes with how it is kept, and stays once it was ordered', async () => {
    const used = await business.item('KD-1');
    await ordered(business, used, '1');
    expect(
      await said(
        'items',
        ['sku', 'name', 'kind', 'tracking', 'costMethod'],
        ['KD-2', 'Mended hive', 'Service', '', ''],
        ['KD-3', 'Odd', 'service', 'lot', 'fifo'],
        ['KD-4', 'Unknown', 'wish', '', ''],
        ['KD-1', 'Item KD-1', 'charge', 'none', 'average'],
      ),
    ).toEqual([
      'new',
      'Only what is kept in stock has lots or serials. What is not kept in stock is cost as it comes; leave this at moving average.',
      'Kind is stocked, not-stocked, service or charge, not “wish”.',
      'KD-1 was ordered, sold or moved already; what it is cannot change.',
    ]);
    await bringIn('items', ['sku', 'name', 'kind'], ['KD-2', 'Mended hive', 'Service']);
    const [, row] = cellsOf(await exported('items', 'sku,name,kind', 'csv', '', { items: { q: 'KD-2' } }));
    expect(row).toEqual(['KD-2', 'Mended hive', 'service']);
    expect((await check('items', ['sku', 'name', 'kind'], row as string[])).counts.same).toBe(1);
  });
});

test('days to deliver of an item go out, come in, and an order takes them', async () => {
  const itemId = await business.item('LD-1', { suppliers: [{ supplierId: business.supplierId, code: 'HX-LD', leadDays: 4 }] });
  const fields = ['supplier', 'sku', 'code', 'leadDays'];
  const rows = cellsOf(await exported('terms', fields.join(','), 'csv', 'ld-1'));
  expect(rows[1]).toEqual(['Hexley Joinery', 'LD-1', 'HX-LD', '4']);
  await bringIn('terms', fields, ['Hexley Joinery', 'LD-1', 'HX-LD', '19']);
  const terms = await business.owner.get(inbound.supplierTerms, { params: { id: business.supplierId }, query: { itemIds: String(itemId) } });
  expect(terms.rows[0]).toMatchObject({ leadDays: 19 });
  await bringIn('terms', fields, ['Hexley Joinery', 'LD-1', 'HX-LD', '']);
  const cleared = await business.owner.get(inbound.supplierTerms, { params: { id: business.supplierId }, query: { itemIds: String(itemId) } });
  expect(cleared.rows[0]).toMatchObject({ leadDays: null });
});

test('items that go to another category by a file take their worth to its account', async () => {
  const { owner } = business;
  const jars = await owner.get(books.createAccount, { body: { code: '1230', name: 'Inventory: jars', type: 'inventory' } });
  const category = await owner.get(setup.createCategory, { body: { name: 'Glass' } });
  await owner.get(setup.editCategory, { params: { id: category.id }, body: { name: 'Glass', inventoryAccountId: jars.id } });
  const itemId = await business.item('CAT-1');
  await stocked(business, itemId, '4', '2.50');
  await bringIn('items', ['sku', 'name', 'category'], ['CAT-1', 'Item CAT-1', 'Glass']);
  const { rows } = await owner.get(books.listAccounts);
  expect(rows.find(({ code }) => code === '1230')?.balance).toBe('10.00');
  expect((await owner.get(stock.itemStock, { params: { id: itemId } })).value).toBe('10.00');
});

describe('the unit an item is bought in comes by a file', () => {
  const fields = ['sku', 'name', 'buyUnit', 'buyOf'];

  test('with how many it is, and what is wrong with that is told', async () => {
    await business.item('BU-0');
    expect(
      await said(
        'items',
        fields,
        ['BU-1', 'Jar', 'CASE', '12'],
        ['BU-2', 'Jar', 'basket', '12'],
        ['BU-3', 'Jar', 'case', ''],
        ['BU-4', 'Jar', 'case', '0'],
        ['BU-5', 'Jar', 'each', '12'],
        ['BU-6', 'Jar', '', '12'],
        ['BU-7', 'Jar', 'case', '0.00001'],
        ['BU-0', 'Item BU-0', '', ''],
      ),
    ).toEqual([
      'new',
      'There is no unit “basket”.',
      'Say how many one case is.',
      'Give whole numbers above zero.',
      'each is the base unit already.',
      'Say which unit is so many.',
      'One is a number of base units with at most 4 decimals.',
      'same',
    ]);
  });

  test('goes out as it came in, is ordered by, and stays once stock was moved by it', async () => {
    const { owner } = business;
    await bringIn('items', fields, ['BU-8', 'Jar', 'Case', '2.50']);
    const row = cellsOf(await exported('items', fields.join(','), 'csv', '', { items: { q: 'BU-8' } }))[1] as string[];
    expect(row).toEqual(['BU-8', 'Jar', 'case', '2.5']);
    expect(await said('items', fields, row)).toEqual(['same']);
    await bringIn('items', ['sku', 'name', 'buyOf'], ['BU-8', 'Jar', '6']);
    const found = await owner.get(catalog.listItems, { query: { q: 'BU-8' } });
    const itemId = found.rows[0]?.id as number;
    const { units } = await owner.get(catalog.getItem, { params: { id: itemId } });
    expect(units).toMatchObject([{ unit: 'case', numerator: 6, denominator: 1, buys: true }]);
    const draft = await owner.get(inbound.createPurchase, {
      body: { supplierId: business.supplierId, siteId: business.siteId, lines: [{ itemId, quantity: '2', unitId: units[0]?.unitId as number, price: '2.00' }] },
    });
    const order = await owner.get(inbound.decidePurchase, { params: { id: draft.id }, body: { decision: 'place', version: draft.version } });
    await owner.get(receiving.receive, { body: { lines: [{ lineId: order.lines[0]?.id as number, quantity: '12', binId: business.bins[0] as number }] } });
    expect(await said('items', fields, ['BU-8', 'Jar', 'case', '10'])).toEqual(['Stock of BU-8 was moved by the case; how many that is cannot change.']);
    await bringIn('items', fields, ['BU-8', 'Jar', '', '']);
    expect((await owner.get(catalog.getItem, { params: { id: itemId } })).units).toMatchObject([{ unit: 'case', numerator: 6, buys: false }]);
  });
});

test('codes that an item has already come in again as they went out: kept as our own, or on two items', async () => {
  const odd = { barcodes: ['5012345678901', '5901234123457'], oddBarcodes: true };
  await business.item('CODE-1', odd);
  await business.item('CODE-2', { barcodes: ['5901234123457'], sharedBarcodes: true });
  const rows = cellsOf(await exported('items', 'sku,name,barcode', 'csv', '', { items: { q: 'CODE-' } })).slice(1) as string[][];
  expect(rows.map(([sku, , codes]) => [sku, codes])).toEqual([
    ['CODE-1', '5012345678901; 5901234123457'],
    ['CODE-2', '5901234123457'],
  ]);
  const edited = rows.map(([sku = '', name = '', codes = '']) => [sku, `${name}, renamed`, codes]);
  expect((await check('items', ['sku', 'name', 'barcode'], ...edited)).counts).toMatchObject({ changed: 2, refused: 0 });
  await bringIn('items', ['sku', 'name', 'barcode'], ...edited);
  expect((await check('items', ['sku', 'name', 'barcode'], ...edited)).counts).toMatchObject({ same: 2 });
  expect(await said('items', ['sku', 'name', 'barcode'], ['CODE-3', 'New', '5901234123457'], ['CODE-4', 'New', '5012345678902'])).toEqual([
    '5901234123457 is a barcode of CODE-2 already.',
    'The check digit of 5012345678902 should be 0; one digit was mistyped.',
  ]);
});
