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

test('a bin is put right by scanning, what has no bin is swept in, and a scanner’s file fills the sheet', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const [one, two] = [await make.item('SC-1', {}), await make.item('SC-2', {})];
  const { rows: bins } = (await (await page.request.get(`/api/setup/bins?siteId=${barn}`)).json()) as {
    rows: { id: number; code: string; sellable: boolean; unplaced: boolean }[];
  };
  const [at] = bins.filter(({ sellable, unplaced }) => sellable && !unplaced);
  const code = at?.code ?? '';
  for (const itemId of [one, two]) await make.opening(itemId, barn, '5');
  await make.loose(one, barn, '2');
  await page.goto('/stock/correction');
  await expect(page.getByLabel('New line')).toBeFocused();
  await page.getByLabel('Reason').selectOption({ label: 'Counted wrong before' });
  await scan(page, code);
  await expect(page.getByRole('status').first()).toContainText(`${code}: what is counted now lies there.`);
  for (let n = 0; n < 3; n += 1) await scan(page, 'sc-1');
  await expect(page.getByLabel('There are now of SC-1')).toHaveValue('3');
  await scan(page, 'NO-SUCH-CODE');
  await expect(page.getByRole('status').first()).toContainText('NO-SUCH-CODE means no bin and no item here.');
  await page.getByLabel('and 2 without a bin').check();
  await expect(page.getByRole('row').filter({ has: page.getByLabel('There are now of SC-1') })).toContainText('-4');
  await page.getByRole('button', { name: /^Correct 1 line/ }).click();
  await expect(page.getByText('Corrected 1 line.')).toBeVisible();
  const onHand = async (itemId: number) =>
    ((await (await page.request.get(`/api/stock/items/${itemId}`)).json()) as { sites: { bins: { bin: string; quantity: string }[] }[] }).sites.flatMap(
      (site) => site.bins.map(({ bin, quantity }) => `${bin} ${quantity}`),
    );
  expect(await onHand(one)).toEqual([`${code} 3`]);

  await page.getByRole('button', { name: 'From a scanner’s file' }).click();
  await page.getByLabel('Scanner’s file', { exact: true }).setInputFiles({
    name: 'counted.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from(`SC-1;7;${code}\nSC-2;4;${code}\nSC-2;1;${code}\nSC-2;4;Z-99\nGONE;1;${code}\n`),
  });
  await expect(page.getByText('Columns: code, quantity, bin.')).toBeVisible();
  const not = page.getByRole('list', { name: 'Not taken' });
  await expect(not).toContainText('Line 4: There is no bin Z-99 here.');
  await expect(not).toContainText('Line 5: No item has the code GONE.');
  await page.getByRole('button', { name: 'Take 2 lines' }).click();
  await expect(page.getByLabel('There are now of SC-1')).toHaveValue('7');
  await expect(page.getByRole('row').filter({ has: page.getByLabel('There are now of SC-2') })).toContainText('agrees');
  await page.getByRole('button', { name: /^Correct 2 lines/ }).click();
  await expect(page.getByText('Corrected 2 lines.')).toBeVisible();
  expect([await onHand(one), await onHand(two)]).toEqual([[`${code} 7`], [`${code} 5`]]);
});

test('what the business uses itself is taxed, borne by a department, and told by the reports of the books', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const itemId = await make.item('OWN-1', {});
  await make.opening(itemId, barn, '5');
  await page.goto('/setup?section=departments');
  await page.getByLabel('Name').fill('Open day');
  await page.getByLabel('Code').fill('OPEN');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Open day is added.')).toBeVisible();

  await page.goto(`/stock/correction?item=${itemId}`);
  await page.getByText('Plus or minus', { exact: true }).first().click();
  await page.getByLabel('Reason').selectOption({ label: 'Used in the business' });
  await page.getByLabel('Department').selectOption({ label: 'Open day' });
  await page.getByLabel('Tax on own use').selectOption({ index: 0 });
  await page.getByLabel('Note').fill('tasting at the open day');
  await page.getByLabel('Plus or minus of OWN-1').fill('-3');
  await expect(page.getByText('Tax of 1.20 is due on what is used: 20 % of 6.00.')).toBeVisible();
  await page.getByRole('button', { name: /^Correct 1 line/ }).click();
  await expect(page.getByText('Corrected 1 line.')).toBeVisible();

  await page.goto('/books/own-use?q=OWN-1');
  const row = page.getByRole('row').filter({ hasText: 'OWN-1 × 3' });
  await expect(row).toContainText('Open day');
  await expect(row).toContainText('1.20');
  await page.goto('/books/own-use');
  await expect(page.getByText('the same as all of these together.')).toBeVisible();
  await page.goto('/books/departments');
  const bears = page.getByRole('table', { name: 'What Open day bears' });
  await expect(bears).toContainText('7.20');
  await bears.getByRole('link', { name: '1 entry' }).click();
  await expect(page.getByRole('table', { name: 'Journal' })).toContainText('Open day');
});
