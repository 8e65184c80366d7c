import { expect, test, type Page } from './journey';
import { given } from './given';
import { scan, signIn } from './person';

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
  await page.getByLabel('SKU to').press('Escape');
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

test('a figure is explained in a few lines that lead to the documents; a key does the same, going back closes it', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const itemId = await make.item('WHY-1', {});
  await make.opening(itemId, barn, '12');
  const order = await make.confirmed('Ashby', barn, itemId, '5');
  await page.goto('/stock?q=why-1');
  await row(page, 'WHY-1').getByRole('link', { name: '5', exact: true }).click();
  const reserved = page.getByRole('table', { name: 'What reserved is made of' });
  await expect(reserved.getByRole('row').filter({ hasText: order.number })).toContainText('5');
  await page.goBack();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await row(page, 'WHY-1').getByText('WHY-1', { exact: true }).click();
  await page.keyboard.press('=');
  const free = page.getByRole('table', { name: 'What free is made of' });
  await expect(free.getByRole('row').filter({ hasText: 'Reserved' })).toContainText('-5');
  await expect(free.locator('tfoot')).toContainText('= 7');
  await page.getByRole('button', { name: 'Value', exact: true }).click();
  await expect(page.getByRole('table', { name: 'What value is made of' }).locator('tfoot')).toContainText('= 24.00');
  await page.keyboard.press('Escape');
  await row(page, 'WHY-1').getByRole('link', { name: '5', exact: true }).click();
  await reserved.getByRole('link', { name: order.number }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(order.number);
});

test('on a phone: a bin, two of a thing and a bin are scanned, and they lie there; a whole bin goes; what has no bin is put away', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const itemId = await make.item('MV-1', {});
  const { rows: bins } = (await (await page.request.get(`/api/setup/bins?siteId=${barn}`)).json()) as {
    rows: { id: number; code: string; sellable: boolean; unplaced: boolean }[];
  };
  const [from] = bins.filter(({ sellable, unplaced }) => sellable && !unplaced);
  const to = bins.filter(({ sellable, unplaced }) => sellable && !unplaced).at(-1);
  await make.opening(itemId, barn, '9');
  const lies = async () =>
    ((await (await page.request.get(`/api/stock/items/${itemId}`)).json()) as { sites: { bins: { bin: string; quantity: string }[] }[] }).sites
      .flatMap((site) => site.bins.map(({ bin, quantity }) => `${bin} ${quantity}`))
      .sort();
  await page.goto('/stock/move');
  await expect(page.getByText('Scan the bin where the goods lie')).toBeVisible();
  await scan(page, 'MV-1');
  await expect(page.getByRole('status')).toContainText('MV-1 is no bin. Scan first the bin where the goods lie.');
  await scan(page, from?.code ?? '');
  await expect(page.getByLabel('Move of MV-1')).toBeVisible();
  await scan(page, 'mv-1');
  await scan(page, 'mv-1');
  await expect(page.getByLabel('Move of MV-1')).toHaveValue('2');
  await scan(page, to?.code ?? '');
  await expect(page.getByRole('status').filter({ hasText: 'Scan the next bin.' })).toContainText(
    `Moved 2 of MV-1 from ${from?.code ?? ''} to ${to?.code ?? ''}.`,
  );
  expect(await lies()).toEqual([`${from?.code ?? ''} 7`, `${to?.code ?? ''} 2`].sort());

  await scan(page, to?.code ?? '');
  await page.getByRole('button', { name: 'The whole bin' }).click();
  await page.getByLabel('To bin').selectOption({ label: 'UNPLACED' });
  await page.getByRole('button', { name: /^Move \d+ lines?/ }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Scan the next bin.' })).toContainText('to UNPLACED');
  expect(await lies()).toEqual([`${from?.code ?? ''} 7`, 'UNPLACED 2'].sort());

  await page.getByRole('link', { name: 'Put away' }).click();
  await expect(page.getByLabel('Bin of MV-1')).toContainText(from?.code ?? '');
  await scan(page, 'mv-1');
  await scan(page, 'mv-1');
  await expect(page.getByRole('status').first()).toContainText(`2 of MV-1, for ${from?.code ?? ''}. Scan the bin.`);
  await scan(page, from?.code ?? '');
  await expect(page.getByText('Put 1 line away.')).toBeVisible();
  await expect(page.getByLabel('Bin of MV-1')).toHaveCount(0);
  expect(await lies()).toEqual([`${from?.code ?? ''} 9`]);
});
