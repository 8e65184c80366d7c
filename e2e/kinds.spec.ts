import { readFileSync } from 'node:fs';
import { expect, test, type Page } from './journey';
import { choose, enterLine, signIn } from './person';

const row = (page: Page, text: string) => page.getByRole('row').filter({ hasText: text });

test('units of equipment are found, their facts exported, edited and imported, and a reminder shows its day', async ({ page }) => {
  await signIn(page);
  await page.goto('/items');
  await page.getByRole('link', { name: 'Lots and units' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Lots and units' })).toBeVisible();
  await page.getByRole('button', { name: 'More filters' }).click();
  await page.getByRole('button', { name: 'Serial units' }).click();
  await page.getByLabel('Next inspection').click();
  await expect(page.getByLabel('Next inspection')).toBeChecked();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('columnheader', { name: 'Next inspection' })).toBeVisible();
  await expect(row(page, 'TL-0031')).toContainText('reminds now');
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Export \d+ fields/ }).click();
  const text = readFileSync(await (await download).path(), 'utf8');
  expect(text).toContain('Next inspection');
  const edited = text.replace('handle loose', 'handle mended');
  expect(edited).not.toBe(text);
  await page.getByRole('link', { name: 'Import' }).click();
  await page.getByLabel('File to import').setInputFiles({ name: 'units.csv', mimeType: 'text/csv', buffer: Buffer.from(edited) });
  await expect(page.getByLabel('Column Next inspection is')).toHaveValue(/^attribute/);
  await expect(page.getByRole('button', { name: /^Try \d+ rows/ })).toBeEnabled();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('button', { name: 'Changed 1' })).toBeVisible();
  await expect(row(page, 'handle loose → handle mended')).toBeVisible();
  await page.getByRole('button', { name: 'Write 1 row' }).click();
  await expect(page.getByText('1 row imported.')).toBeVisible();
  await page.goto('/items/units?q=mended');
  await expect(row(page, 'handle mended')).toHaveCount(1);
});

test('a service is set up, sold beside goods, and goes out with them without being picked', async ({ page }) => {
  await signIn(page);
  await page.goto('/items/new');
  await page.getByLabel('SKU').fill('SHARPEN');
  await page.getByLabel('Name', { exact: true }).fill('Hive tool sharpened');
  await page.getByLabel('Kind').selectOption('Service');
  await expect(page.getByLabel('Tracking')).toBeHidden();
  await page.getByLabel('Sales price').fill('4.50');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Hive tool sharpened' })).toBeVisible();
  await expect(page.getByText('Not kept in stock', { exact: false }).first()).toBeVisible();

  await page.goto('/outbound/orders/new');
  await choose(page, 'Customer', 'ashby', 'Ashby Club');
  await enterLine(page, '2 BR-SOFT', 'BR-SOFT');
  await enterLine(page, '3 sharpened', 'SHARPEN');
  await expect(row(page, 'SHARPEN')).toContainText('not kept in stock');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: /^SO-/ })).toBeVisible();
  await expect(page.getByText('Picked 0 of 2')).toBeVisible();
  await page.getByRole('button', { name: /^Pick 1 line/ }).click();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Picked 2 of 2')).toBeVisible();
  await page
    .getByRole('button', { name: /^Dispatch 2 lines/ })
    .first()
    .click();
  await expect(page.getByLabel('Dispatch of SHARPEN')).toHaveValue('3');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Dispatched 5 of 5')).toBeVisible();
});

test('tape that is used as it comes is counted at the desk without a bin, and is cost on its own account', async ({ page }) => {
  await signIn(page);
  await page.goto('/inbound/desk');
  const quantity = page.getByLabel(/^Quantity of TAPE-48 on PO-/).first();
  await quantity.fill('72');
  await expect(row(page, 'TAPE-48').first()).toContainText('not kept in stock');
  await expect(page.getByText('61.20 for TAPE-48 is cost at once: none of it lies here.')).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Received 1 line.')).toBeVisible();
  await page.goto('/books/accounts');
  await expect(row(page, 'Packing used')).toContainText('61.20');
  await page.goto('/stock?q=TAPE-48');
  await expect(page.getByText('Nothing fits.', { exact: false })).toBeVisible();
});

test('another account takes a purpose over, and one held item by item stays while something stands on it', async ({ page }) => {
  await signIn(page);
  await page.goto('/books/accounts');
  await page.getByLabel('Number').fill('5215');
  await page.getByLabel('Name').fill('Price differences, all');
  await page.getByRole('button', { name: 'Add the account' }).click();
  await page.getByRole('link', { name: 'Price differences, all' }).click();
  const usedFor = page.getByRole('region', { name: 'Used for' });
  await usedFor.getByLabel('Let postings use it for').selectOption('goods received and not billed');
  await usedFor.getByRole('button', { name: 'Use it for this' }).click();
  await expect(usedFor.getByText('this asks for one of liability', { exact: false })).toBeVisible();
  await usedFor.getByLabel('Let postings use it for').selectOption('billed prices that differ from ordered ones');
  await usedFor.getByRole('button', { name: 'Use it for this' }).click();
  await expect(usedFor.getByText('billed prices that differ from ordered ones')).toBeVisible();
  await page.goto('/setup?section=units');
  await page.getByLabel('Code').fill('g');
  await page.getByLabel('Written out').fill('gram');
  await page.getByLabel('Counted in').selectOption('tenths');
  await page.keyboard.press('Control+Enter');
  const gram = page.getByRole('row', { name: /^g gram/ });
  await expect(gram).toContainText('tenths');
  await page.getByLabel('Code').fill('gram');
  await page.getByLabel('Written out').fill('again');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('There is a unit g already.').first()).toBeVisible();
  await expect(page.getByLabel('Code')).toBeFocused();
  await gram.click();
  await page.getByRole('button', { name: 'Retire', exact: true }).click();
  await expect(gram).toContainText('retired');
});
