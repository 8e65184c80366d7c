import { expect, test } from './journey';
import { given } from './given';
import { signIn } from './person';

test('two people write on the same draft: what each typed stays, and only what both changed is asked', async ({ page, browser, baseURL }) => {
  await signIn(page);
  const { supplier, item, site } = given(page);
  const name = `Together ${Date.now() % 100_000}`;
  const supplierId = await supplier(name);
  const [vase, bowl] = [`TGV-${Date.now() % 100_000}`, `TGB-${Date.now() % 100_000}`];
  for (const sku of [vase, bowl]) await item(sku, { purchasePrice: '2.00' });
  await page.goto('/inbound/orders/new');
  await page.getByLabel('Supplier', { exact: true }).fill(name);
  await page.getByRole('option', { name }).click();
  await page.getByLabel('New line').fill(`3 ${vase}`);
  await page.getByRole('option', { name: new RegExp(vase) }).waitFor();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Save draft' }).click();
  await expect(page.getByRole('heading', { level: 1, name: /^PO-/ })).toBeVisible();
  expect([supplierId, await site()].every((id) => id > 0)).toBe(true);

  const second = await browser.newContext({ baseURL: baseURL as string });
  const other = await second.newPage();
  await signIn(other, 'wim@larkmoor.example');
  await other.goto(page.url());
  await other.getByLabel('Expected').fill('+9');
  await other.getByLabel('Note').fill('call before you come');
  await other.getByLabel('New line').fill(`5 ${bowl}`);
  await other.getByRole('option', { name: new RegExp(bowl) }).waitFor();
  await other.keyboard.press('Enter');
  await page.getByLabel('Quantity of line 1').fill('7');
  await page.getByLabel('Note').fill('leave it by the ramp');
  await other.getByRole('button', { name: 'Save draft' }).click();
  await expect(other.getByRole('row', { name: new RegExp(bowl) })).toBeVisible();

  const asked = page.getByRole('alert').filter({ hasText: 'changed the note to “call before you come” while you typed.' });
  await expect(asked).toContainText('Wim');
  await expect(page.getByLabel('Quantity of line 1')).toHaveValue('7');
  await expect(page.getByLabel('Quantity of line 2')).toHaveValue('5');
  await expect(page.getByLabel('Note')).toHaveValue('leave it by the ramp');
  await asked.getByRole('button', { name: 'Take theirs' }).click();
  await expect(page.getByLabel('Note')).toHaveValue('call before you come');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Received 0 of 12');
  const lines = page.getByRole('table', { name: 'Lines' });
  await expect(lines.getByRole('row').nth(1).getByRole('cell', { name: '7', exact: true }).first()).toBeVisible();
  await expect(lines.getByRole('row').nth(2)).toContainText(bowl);
  await second.close();
});

test('an item changed in two windows keeps what was typed in each', async ({ page }) => {
  await signIn(page);
  const sku = `TWO-${Date.now() % 100_000}`;
  const itemId = await given(page).item(sku, { purchasePrice: '2.00' });
  const other = await page.context().newPage();
  await page.goto(`/items/${itemId}?show=facts`);
  await other.goto(`/items/${itemId}?show=facts`);
  await page.getByLabel('Name', { exact: true }).fill('Another name');
  await other.getByLabel('Sales price').fill('9.50');
  await other.keyboard.press('Control+Enter');
  await expect(other.getByText('Saved', { exact: true })).toBeVisible();
  // What was saved in the other window comes in by itself, beside what is typed here.
  await page.bringToFront();
  await expect(page.getByLabel('Sales price')).toHaveValue('9.50');
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Another name');
  await page.getByLabel('Name', { exact: true }).press('Control+Enter');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Another name');
  await expect(page.getByLabel('Sales price')).toHaveValue('9.50');
});
