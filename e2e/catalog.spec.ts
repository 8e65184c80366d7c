import { readFileSync } from 'node:fs';
import { expect, test, type Page } from './journey';
import { given } from './given';
import { choose, enterLine, open, paste, scan, signIn } from './person';

const row = (page: Page, text: string) => page.getByRole('row').filter({ hasText: text });

/** 600 articles with 20 that cannot come in, as somebody's spreadsheet writes them. */
function articles(): string {
  const lines = Array.from({ length: 600 }, (_, n) => `ART-${n};${n % 30 === 7 ? '' : `Article number ${n}`};${n},50;${n},00;Hive parts`);
  return ['Item code;Title;Price;Cost price;Group', ...lines, 'SM-STD;Smoker, stainless, standard;19,50;11,02;Tools'].join('\n');
}

test('a spreadsheet of 600 items comes in: columns are found, the dry run tells, the good rows are written, the faulty are a file', async ({ page }) => {
  await signIn(page);
  await page.goto('/import?kind=items');
  await page.getByLabel('File to import').setInputFiles({ name: 'wrong.pdf', mimeType: 'application/pdf', buffer: Buffer.from('no') });
  await expect(page.getByText('Give a CSV or XLSX file.')).toBeVisible();
  await page.getByLabel('File to import').setInputFiles({ name: 'locked.xlsx', mimeType: 'application/zip', buffer: Buffer.from([0xd0, 0xcf, 0x11, 0xe0]) });
  await expect(page.getByText('If it is protected by a password')).toBeVisible();
  await page.getByLabel('File to import').setInputFiles({ name: 'articles.csv', mimeType: 'text/csv', buffer: Buffer.from(articles(), 'latin1') });
  await expect(page.getByLabel('Columns are apart by')).toHaveValue(';');
  await expect(page.getByLabel('Decimals have')).toHaveValue('comma');
  await expect(page.getByLabel('Column Item code is')).toHaveValue('sku');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Dry run' })).toBeVisible();
  await page.getByRole('button', { name: 'Refused 20' }).click();
  await expect(row(page, 'ART-7').first()).toContainText('Name is missing.');
  await page.getByRole('button', { name: 'Changed 1' }).click();
  await expect(row(page, 'SM-STD')).toContainText(/Sales price\s*18\.9 → 19\.5/);
  await page.getByRole('button', { name: 'Write 581 rows' }).click();
  await expect(page.getByText('581 rows imported.')).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Refused rows as a file' }).click();
  expect((await download).suggestedFilename()).toBe('refused-articles.csv');
  await page.goto('/items?q=article+number+599');
  await expect(row(page, 'ART-599')).toBeVisible();
});

test('a list is exported, edited and imported again: only what was edited changes', async ({ page }) => {
  await signIn(page);
  await page.goto('/items?q=smoker');
  await expect(row(page, 'SM-COP')).toBeVisible();
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Export \d+ fields/ }).click();
  const text = readFileSync(await (await download).path(), 'utf8');
  await page.goto('/import?kind=items');
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'items.csv', mimeType: 'text/csv', buffer: Buffer.from(text.replace('Smoker, copper', 'Smoker, copper, polished')) });
  await expect(page.getByLabel('Encoding')).toHaveValue('utf-8-bom');
  await expect(page.getByRole('button', { name: /Ctrl Enter/ })).toBeEnabled();
  await page.keyboard.press('Control+Enter');
  await expect(row(page, 'SM-COP')).toContainText('Smoker, copper → Smoker, copper, polished');
  await expect(page.getByRole('button', { name: 'Changed 1' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'New 0' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Refused 0' })).toBeVisible();
  await page.getByRole('button', { name: 'Write 1 row' }).click();
  await expect(page.getByText('1 row imported.')).toBeVisible();
});

test('a family of twelve is made with its opening stock, a combination taken off and put back, two prices pasted', async ({ page }) => {
  await signIn(page);
  await page.goto('/items/families/new');
  await page.getByLabel('Name', { exact: true }).fill('Candle tin');
  await page.getByLabel('Axis 1', { exact: true }).fill('Size');
  await page.getByLabel('Values of axis 1').fill('60 g, 120 g, 250 g, 500 g');
  await page.getByRole('button', { name: 'Add an axis' }).click();
  await page.getByLabel('Axis 2', { exact: true }).fill('Colour');
  await page.getByLabel('Values of axis 2').focus();
  await paste(page, 'Amber\r\nClear\r\nGreen\r\n');
  await expect(page.getByLabel('SKU of row 1', { exact: true })).toHaveValue('CT-60G-AMB');
  await page.getByLabel('Purchase price of all rows').fill('0.80');
  await page.getByLabel('Sales price of row 1', { exact: true }).focus();
  await paste(page, '1.90\t0.75\r\n2.10\t0.85\r\n');
  await expect(page.getByLabel('Purchase price of row 2', { exact: true })).toHaveValue('0.85');
  await page.getByLabel('Opening, Barn store of all rows').fill('10');
  await row(page, '250 g / Green').getByRole('checkbox').uncheck();
  await expect(page.getByRole('button', { name: 'Make 11 items' })).toBeVisible();
  await row(page, '250 g / Green').getByRole('checkbox').check();
  await page.getByLabel('SKU of row 3', { exact: true }).fill('SM-STD');
  await expect(page.getByText('SM-STD is the SKU of Smoker, stainless, standard already.').first()).toBeVisible();
  await page.getByLabel('SKU of row 3', { exact: true }).fill('CT-60-GRN');
  await expect(page.getByText('SM-STD is the SKU of')).toHaveCount(0);
  await page.getByRole('button', { name: 'Make 12 items' }).click();
  await expect(page.getByRole('heading', { name: 'Candle tin' })).toBeVisible();
  await expect(page.getByText('12 members, 120 free')).toBeVisible();
  await page.getByLabel('New value').fill('1 kg');
  await page.getByRole('button', { name: 'Make 3 items' }).click();
  await expect(page.getByText('15 members')).toBeVisible();
});

test('twelve serials are entered, one twice and one short; the labels are printed', async ({ page }) => {
  await signIn(page);
  await open(page, 'new item');
  await page.getByLabel('SKU').fill('EX-12');
  await page.getByLabel('Name').fill('Extractor, 12 frame, electric');
  await page.getByLabel('Purchase price').fill('410');
  await page.getByLabel('Tracking').selectOption('serial');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Extractor, 12 frame, electric' })).toBeVisible();
  await page.getByRole('link', { name: 'Opening stock' }).click();
  await page.getByLabel('Quantity of EX-12').fill('12');
  const serials = page.getByLabel('Serials of EX-12');
  await serials.fill('LX-0001..LX-0010');
  await expect(page.getByText('2 of 12 serials still missing')).toBeVisible();
  await serials.click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type('\nLX-0011\nLX-0004');
  await expect(page.getByText('LX-0004 stands there twice.')).toBeVisible();
  await expect(page.getByText('1 of 12 serials still missing')).toBeVisible();
  await serials.fill('LX-0001..LX-0012');
  await expect(page.getByRole('region', { name: 'What this will change' }).getByRole('row').filter({ hasText: 'value' })).toContainText(
    '4 920.00'.replace(' ', '\u2009'),
  );
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Added 1 line.')).toBeVisible();
  await page.goto('/items?q=EX-12');
  await expect(async () => {
    await scan(page, 'LX-0007');
    await expect(page.getByRole('heading', { name: 'LX-0007' })).toBeVisible({ timeout: 2000 });
  }).toPass();
  await page.getByLabel('Our tag').fill('EQ-77');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('region', { name: 'Here', exact: true })).toContainText('Barn store');
  await page.getByRole('link', { name: 'Label' }).click();
  await page.getByLabel('Sheet or roll').selectOption({ label: 'Roll, 57 × 32 mm' });
  await expect(page.getByRole('img', { name: 'The first page of labels' })).toContainText('LX-0007');
  await page.getByRole('button', { name: 'Print 1 label' }).click();
  await expect(page.getByText('Printed 1 label on 1 page.')).toBeVisible();
});

test('an unknown code is taught on the spot, and a code sheet of bins hangs at the bench', async ({ page }) => {
  await signIn(page);
  const bar = page.getByRole('combobox', { name: 'Scan bar' });
  await bar.fill('TAUGHT-1');
  await bar.press('Enter');
  await page.getByRole('button', { name: 'Teach it to an item' }).click();
  const field = page.getByRole('combobox', { name: 'Item with this code' });
  await field.pressSequentially('hive tool j', { delay: 45 });
  await expect(page.getByRole('option', { name: /HT-J/ })).toBeVisible();
  await field.press('Enter');
  await page.getByRole('button', { name: 'Teach it', exact: true }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await bar.fill('TAUGHT-1');
  await bar.press('Enter');
  await expect(page.getByRole('heading', { name: 'Hive tool, J-shaped' })).toBeVisible();
  await page.goto('/setup/bins');
  await page.getByLabel('Pattern').fill('Z-{01..02}-{1..3}');
  await page.getByRole('button', { name: 'Make 6 bins' }).click();
  await expect(page.getByRole('link', { name: 'Z-02-3' })).toBeVisible();
  await page.getByRole('link', { name: 'Print the code sheet' }).click();
  await expect(page.getByRole('img', { name: 'The first page of labels' })).toContainText('A-01-1');
});

test('goods are ordered by the case and kept in pieces; filters are kept by name', async ({ page }) => {
  await signIn(page);
  await page.goto('/inbound/orders/new');
  await choose(page, 'Supplier', 'bright', 'Brightwick Glass');
  await enterLine(page, '3 jar-340-gld', 'JAR-340-GLD');
  await expect(page.getByLabel('Unit of line 1')).toContainText('case of 48');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Received 0 of 144');
  await page.goto('/items?q=jar');
  await page.getByRole('button', { name: 'Kept filters' }).click();
  await page.getByLabel('Keep these filters and columns as').fill('Jars');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await page.keyboard.press('Escape');
  await page.goto('/items');
  await page.getByRole('link', { name: 'Jars', exact: true }).click();
  await expect(page.getByLabel('Find items')).toHaveValue('jar');
});

test('typing fast into the field to find items loses no key, and going back gives its words again', async ({ page }) => {
  await signIn(page);
  await page.goto('/items');
  const field = page.getByLabel('Find items');
  for (const words of ['amber glass jar', 'lid', 'beeswax pellets']) {
    await field.fill('');
    await field.pressSequentially(words);
    await expect(field).toHaveValue(words);
    await expect(page).toHaveURL(new RegExp(`q=${words.replaceAll(' ', '\\+')}`));
  }
  await page.getByRole('link', { name: 'Stock', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Stock' })).toBeVisible();
  await page.goBack();
  await expect(field).toHaveValue('beeswax pellets');
});

test('a loose item joins a family by a value that is new, is told what is its own, and leaves again', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  await make.item('LONE-XXL', { salesPrice: '61.00', brand: 'Somebody else' });
  await page.goto('/items/families?q=');
  await row(page, 'Bee suit with round veil').getByRole('link').first().click();
  await expect(page.getByRole('heading', { name: 'Bee suit with round veil' })).toBeVisible();
  const loose = page.getByRole('combobox', { name: 'Item' });
  await loose.click();
  await loose.pressSequentially('lone-xxl', { delay: 45 });
  await expect(page.getByRole('option', { name: /LONE-XXL/ })).toBeVisible();
  await loose.press('Enter');
  await page.getByRole('button', { name: 'Add it to the family' }).click();
  await expect(page.getByText('Another member has these values already.').first()).toBeVisible();
  await page.getByLabel('Size', { exact: true }).selectOption('another value');
  await page.getByLabel('Another value of Size').fill('huge');
  await page.getByRole('button', { name: 'Add it to the family' }).click();
  await expect(page.getByText('5 members')).toBeVisible();
  await page.getByRole('button', { name: 'As a list' }).click();
  await expect(row(page, 'LONE-XXL')).toContainText('brand');
  await page.getByLabel('Choose LONE-XXL').check();
  await page.getByRole('button', { name: 'Take 1 out of the family' }).click();
  await expect(page.getByText('4 members')).toBeVisible();
});

test('what members share is changed for all of them, but for the one that has its own', async ({ page }) => {
  await signIn(page);
  await page.goto('/items/families');
  await row(page, 'Leather gloves').getByRole('link').first().click();
  await page
    .getByRole('link', { name: 'GL-M', exact: true })
    .or(page.getByRole('button', { name: 'As a list' }))
    .first()
    .click();
  await page.getByRole('link', { name: 'GL-M', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Leather gloves, size M' })).toBeVisible();
  await page.getByRole('button', { name: 'Facts', exact: true }).click();
  await page.getByLabel('Brand').fill('Medium hands');
  await page.getByRole('button', { name: /Save GL-M/ }).click();
  await expect(page.getByText('Saved')).toBeVisible();
  await page.getByRole('link', { name: /^Leather gloves: / }).click();
  await expect(page.getByRole('heading', { name: 'Leather gloves', exact: true })).toBeVisible();
  await page.getByLabel('Tax').selectOption({ label: 'Zero rate' });
  await page.getByLabel('Customers may return them').uncheck();
  await page.getByLabel('Brand').fill('Hedgerow');
  await page.getByRole('button', { name: /Save Leather gloves/ }).click();
  await expect(page.getByText('Saved')).toBeVisible();
  await page.getByRole('button', { name: 'As a list' }).click();
  await expect(row(page, 'GL-M')).toContainText('brand');
  await page.getByRole('link', { name: 'GL-L', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Leather gloves, size L' })).toBeVisible();
  await page.getByRole('button', { name: 'Facts', exact: true }).click();
  await expect(page.getByLabel('Brand')).toHaveValue('Hedgerow');
  await expect(page.getByLabel('Tax').locator('option:checked')).toHaveText('Zero rate');
  await expect(page.getByLabel('Customers may return it')).not.toBeChecked();
});

test('all items shown are chosen at once, changed together, and their labels follow; a code sheet has each code once', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  for (const sku of ['BULK-1', 'BULK-2', 'BULK-3']) await make.item(sku, { salesPrice: '10.00' });
  await page.goto('/items?q=bulk-');
  await expect(row(page, 'BULK-3')).toBeVisible();
  await page.getByLabel('Choose all shown').check();
  await page.getByLabel('What', { exact: true }).selectOption('Sales price, per cent more or less');
  await page.getByLabel('To', { exact: true }).fill('-5');
  await page.getByRole('button', { name: 'Change 3 items' }).click();
  for (const sku of ['BULK-1', 'BULK-2', 'BULK-3']) await expect(row(page, sku)).toContainText('9.50');
  await page.getByLabel('Choose all shown').check();
  await page.getByRole('link', { name: 'Print 3 labels' }).click();
  await page.getByLabel('Copies of each').fill('2');
  await expect(page.getByText('6 labels on 1 page')).toBeVisible();
  await page.getByLabel('Or a code sheet to hang up').selectOption('All bins of Harbour shop');
  await expect(page.getByText(/^7 labels on 1 page/)).toBeVisible();
  await expect(page.getByLabel('Copies of each')).toHaveCount(0);
  await page.getByRole('button', { name: 'Print 7 labels' }).click();
  await expect(page.getByText('Printed 7 labels on 1 page.')).toBeVisible();
  await page.getByLabel('Start at label').fill('4');
  await expect(page.getByText('Printed 7 labels on 1 page.')).toHaveCount(0);
});

test('opening stock typed line by line: what a line shows is what counts, what is not ready stays, a wrong number is told', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  for (const [sku, facts] of [
    ['OPN-1', { purchasePrice: '2.50' }],
    ['OPN-2', {}],
  ] as const)
    await make.item(sku, facts);
  await page.goto('/stock/opening');
  await enterLine(page, '20 opn-1', 'OPN-1');
  await enterLine(page, '5 opn-2', 'OPN-2');
  await expect(page.getByLabel('Unit value: OPN-1')).toHaveValue('2.50');
  await page.getByLabel('Unit value: OPN-2').fill('-1');
  await expect(page.getByText('Give a price such as 12.50, with at most 6 decimals.')).toBeVisible();
  await page.getByRole('button', { name: 'Add 1 line' }).click();
  await expect(page.getByText('Added 1 line.').last()).toBeVisible();
  await expect(page.getByLabel('Quantity of OPN-1')).toHaveCount(0);
  await page.getByLabel('Quantity of OPN-2').fill('0.x');
  await expect(page.getByText('Give a quantity such as 12 or 0.5, below 1,000,000,000, with at most 4 decimals.')).toBeVisible();
  await page.getByLabel('Quantity of OPN-2').fill('5');
  await page.getByLabel('Unit value: OPN-2').fill('3');
  await page.getByRole('button', { name: 'Add 1 line' }).click();
  await expect(page.getByLabel('Quantity of OPN-2')).toHaveCount(0);
  await expect(page.getByText('Added 1 line.').last()).toBeVisible();
  await page.goto('/stock?q=opn-');
  await expect(row(page, 'OPN-1')).toContainText('50.00');
  await expect(row(page, 'OPN-2')).toContainText('15.00');
});

test('a code kept as our own is asked about once, and a file with days in it still tells its decimals', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  const id = await make.item('ODD-CODE', {});
  await page.goto(`/items/${id}?show=codes`);
  await page.getByRole('button', { name: 'Add a barcode' }).click();
  await page.getByLabel('Barcode', { exact: true }).fill('5012345678901');
  await page.getByRole('button', { name: /Save ODD-CODE/ }).click();
  await page.getByRole('button', { name: 'Keep it as a code of our own' }).click();
  await expect(page.getByText('Saved')).toBeVisible();
  await page.getByRole('button', { name: 'Facts', exact: true }).click();
  await page.getByLabel('Notes').fill('from the market');
  await page.getByRole('button', { name: /Save ODD-CODE/ }).click();
  await expect(page.getByText('Saved')).toBeVisible();
  await expect(page.getByText('one digit was mistyped')).toHaveCount(0);
  await page.goto('/import?kind=items');
  const text = 'SKU;Name;Sales price;Last bought\nDAY-1;Künstlerhut;1.234,50;03.04.2026\n';
  const bytes = Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(text, 'utf16le')]);
  await page.getByLabel('File to import').setInputFiles({ name: 'hats.csv', mimeType: 'text/csv', buffer: bytes });
  await expect(page.getByLabel('Encoding')).toHaveValue('utf-16le');
  await expect(page.getByLabel('Decimals have')).toHaveValue('comma');
  await page.keyboard.press('Control+Enter');
  await page.getByRole('button', { name: 'Write 1 row' }).click();
  await expect(page.getByText('1 row imported.')).toBeVisible();
  await page.goto('/items?q=day-1');
  await expect(row(page, 'Künstlerhut')).toContainText('1\u2009234.50');
});
