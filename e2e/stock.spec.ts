import { expect, test, type Page } from './journey';
import { given } from './given';
import { signIn } from './person';

const row = (page: Page, sku: string) => page.getByRole('row').filter({ hasText: sku });

/** A day so many days ago, as it is typed. */
const ago = (days: number): string => new Date(Date.now() - days * 86_400_000).toISOString().slice(0, 10);

test('the stock table, an item and a bin are looked at as of a day, and as they are now again', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const itemId = await make.item('THEN-1', {});
  await make.opening(itemId, barn, '9', [], ago(20));
  await make.opening(itemId, barn, '4', [], ago(3));
  await page.goto('/stock?q=then-1');
  await expect(row(page, 'THEN-1')).toContainText('13');
  await page.getByLabel('As of').fill('-5');
  await page.getByLabel('As of').blur();
  await expect(page.getByRole('columnheader', { name: /Reserved/ })).toHaveCount(0);
  await expect(row(page, 'THEN-1')).toContainText('18.00');
  await page.getByRole('link', { name: '9', exact: true }).first().click();
  await expect(page.getByText(/^up to /)).toBeVisible();
  await page.goBack();
  await row(page, 'THEN-1').click();
  await page.keyboard.press('Control+Enter');
  const then = page.getByRole('table', { name: 'Where it lay' });
  await expect(then.getByRole('row').filter({ hasText: 'Barn store' })).toContainText('9');
  await then.getByRole('link').first().click();
  await expect(page.getByRole('table', { name: 'In this bin' }).getByRole('row').filter({ hasText: 'THEN-1' })).toContainText('9');
  await page.getByRole('button', { name: 'Back to now' }).click();
  await expect(page.getByRole('table', { name: 'In this bin' }).getByRole('row').filter({ hasText: 'THEN-1' })).toContainText('13');
  await page.goto('/stock?q=then-1');
  await page.getByLabel('As of').fill('+3');
  await page.getByLabel('As of').blur();
  await expect(page.getByText('Give today or a day before it.')).toBeVisible();
});

test('columns and filters are kept by name, apart from those that the table has otherwise', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  for (const sku of ['RNG-1', 'RNG-2', 'RNG-3']) await make.item(sku, {});
  await page.goto('/stock');
  const heading = (name: string) => page.getByRole('columnheader', { name });
  await expect(heading('On order')).toBeVisible();
  await expect(heading('Last counted')).toHaveCount(0);
  await page.getByRole('button', { name: 'More filters' }).click();
  await page.getByLabel('SKU from').fill('rng-2');
  await page.getByLabel('SKU to').fill('rng-3');
  await page.getByLabel('SKU to').blur();
  await page.keyboard.press('Escape');
  await expect(row(page, 'RNG-3')).toBeVisible();
  await expect(row(page, 'RNG-1')).toHaveCount(0);
  await page.getByRole('button', { name: 'Kept filters' }).click();
  await page.getByLabel('Keep these filters and columns as').fill('To be counted');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'To be counted' }).click();
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByLabel('Last counted', { exact: true }).check();
  await page.getByLabel('On order', { exact: true }).uncheck();
  await page.keyboard.press('Escape');
  await expect(row(page, 'RNG-2')).toContainText('never');
  await page.goto('/stock');
  await expect(heading('On order')).toBeVisible();
  await expect(heading('Last counted')).toHaveCount(0);
  await page.getByRole('link', { name: 'To be counted' }).click();
  await expect(heading('Last counted')).toBeVisible();
  await expect(heading('On order')).toHaveCount(0);
  await expect(row(page, 'RNG-2')).toBeVisible();
  await expect(row(page, 'RNG-1')).toHaveCount(0);
});
