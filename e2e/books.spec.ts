import { execFileSync } from 'node:child_process';
import { existsSync, writeFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { choose, signIn } from './person';

test.describe.configure({ retries: 1 });

const able = existsSync('/usr/bin/hledger');
const row = (page: Page, name: string) => page.getByRole('row').filter({ hasText: name });

test('a container’s charges are estimated, one line left out, billed above and below, and the clearing account stands at nothing', async ({ page }) => {
  await signIn(page);
  await page.goto('/books/clearing');
  for (const name of ['Sea freight', 'Handling', 'Duty']) await page.getByRole('checkbox', { name: `Choose ${name} of LC-1002` }).check();
  await page.getByRole('button', { name: /Enter the bill for these/ }).click();
  await expect(page.getByRole('heading', { name: 'Enter a bill' })).toBeVisible();
  const billed = (name: string) => page.getByLabel(`Billed for ${name}, LC-1002`);
  await expect(billed('Sea freight')).toHaveValue('445.12');
  await billed('Sea freight').fill('460.00');
  await billed('Handling').fill('60.00');
  await billed('Duty').fill('');
  await page.getByLabel('No more bills for Handling, LC-1002').check();
  await page.getByLabel('Their number').fill('QF-9001');
  const will = page.getByRole('region', { name: 'What this will change' });
  await expect(will.getByText('509.12 of estimated charges are cleared.')).toBeVisible();
  await expect(will.getByText('Charges came to 10.88 more than estimated')).toBeVisible();
  await page.getByRole('button', { name: /Post bill of 520.00/ }).click();
  await expect(page.getByRole('heading', { name: /BILL-/ })).toBeVisible();

  await page.goto('/books/clearing');
  await expect(row(page, 'Duty')).toContainText('41.30');
  await expect(row(page, 'Sea freight')).toHaveCount(0);
  await page.getByRole('checkbox', { name: 'Choose Duty of LC-1002' }).check();
  await page.getByRole('button', { name: /Enter the bill for these/ }).click();
  await page.getByLabel('Billed for Duty, LC-1002').fill('38.00');
  await page.getByLabel('No more bills for Duty, LC-1002').check();
  await page.getByLabel('Their number').fill('CU-77');
  await expect(page.getByText('3.30 below the estimate: landed cost variance')).toBeVisible();
  await page.getByRole('button', { name: /Post bill of 38.00/ }).click();
  await expect(page.getByRole('heading', { name: /BILL-/ })).toBeVisible();
  await page.goto('/books/clearing');
  await expect(page.getByText('the account stands at zero')).toBeVisible();

  // The supplier's own bill, the boards dearer than ordered; half of it is paid.
  await page.goto('/books/bills/new');
  await choose(page, 'From', 'isker', 'Isker Hive Works');
  await page.getByLabel('Their number').fill('IHW-1');
  await page.getByLabel(/^Price, PO-\d+ CB-NAT-10$/).fill('4.50');
  await expect(page.getByText('0.30 more for each than ordered, 18.00 in all')).toBeVisible();
  await page.getByRole('button', { name: /Post bill of/ }).click();
  await expect(page.getByRole('region', { name: 'What this did' })).toContainText('Stock is worth 18.00 more.');
  await page.getByLabel('Amount, GBP').fill('500.00');
  await page.getByRole('button', { name: /Record payment of 500.00/ }).click();
  await expect(page.getByText(/part paid/)).toBeVisible();
  await page.getByLabel('Amount, GBP').fill('5000.00');
  await page.getByRole('button', { name: /Record payment of 5000.00/ }).click();
  await expect(page.getByText(/Pay 5000.00 all the same\?/).first()).toBeVisible();
});

test('a new worksheet: freight by weight asks what one weighs, duty leaves a line out, and it can be undone', async ({ page }) => {
  await signIn(page);
  await page.goto('/books/landed?q=fernhill');
  await page
    .getByRole('checkbox', { name: /Choose the receipt of PO-/ })
    .first()
    .check();
  await page.getByRole('button', { name: /Start a landed cost worksheet/ }).click();
  await page.getByLabel('Amount').fill('24.00');
  await page.getByLabel('Spread').selectOption('weight');
  const weight = page.getByLabel(/^Weight of /);
  for (let left = await weight.count(); left > 0; left -= 1) {
    await weight.first().fill('1.2');
    await page.getByRole('button', { name: 'Keep' }).first().click();
    await expect(weight).toHaveCount(left - 1);
  }
  await expect(page.getByText('24.00 of charges are expected from bills to come.')).toBeVisible();
  await page.getByRole('button', { name: /Post 24.00 of charges/ }).click();
  await expect(page.getByRole('heading', { name: /^LC-/ })).toBeVisible();
  await page.getByLabel('Amount').fill('30.00');
  await page.getByRole('button', { name: /Post the changes of LC-/ }).click();
  await expect(page.getByText('6.00 of charges are expected from bills to come.')).toHaveCount(0);
  await page.getByRole('button', { name: /^Undo LC-/ }).click();
  await expect(page.getByText('It was undone; nothing of it stands.')).toBeVisible();
});

(able ? test : test.skip)('the whole journal is accepted by hledger, and its inventory is the value of the stock', async ({ page }, info) => {
  await signIn(page);
  const file = info.outputPath('journal.txt');
  writeFileSync(file, await (await page.request.get('/api/books/journal/file?format=journal')).body());
  execFileSync('hledger', ['-f', file, 'check']);
  const balance = execFileSync('hledger', ['-f', file, 'balance', 'assets:1200', '--no-total', '--commodity-style', '1000.00 GBP'], { encoding: 'utf8' });
  const { rows } = (await (await page.request.get('/api/books/accounts')).json()) as { rows: { code: string; balance: string }[] };
  expect(Number(/-?[\d,.]+/.exec(balance)?.[0].replaceAll(',', ''))).toBe(Number(rows.find(({ code }) => code === '1200')?.balance));
});
