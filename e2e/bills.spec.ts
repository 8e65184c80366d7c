import { expect, test } from './journey';
import { given } from './given';
import { choose, enterLine, signIn } from './person';

test('a bill is for some of a supplier’s orders, bears tax on a charge, and the charges of others are out of the way', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  const run = Date.now().toString(36).toUpperCase();
  const [supplierId, siteId] = [await make.supplier(`Several Orders ${run}`), await make.site()];
  const itemId = await make.item(`${run}-B`, {});
  const orders = [];
  for (const quantity of ['4', '6', '8']) {
    const order = await make.order(supplierId, siteId, [{ itemId, quantity, price: '5.00' }]);
    await make.receive(order, siteId, [quantity]);
    orders.push(order);
  }
  const [first, second, third] = orders.map(({ number }) => number) as [string, string, string];
  const order = (number: string) => page.getByRole('region', { name: 'Orders on this bill' }).getByLabel(number);

  // From the order itself only that order is on the bill; another is added with a tick.
  await page.goto(`/inbound/orders/${orders[1]?.id ?? 0}`);
  await page.getByRole('link', { name: 'Enter its bill' }).click();
  await expect(page.getByLabel(`Billed now, ${second} ${run}-B`)).toHaveValue('6');
  await expect(page.getByLabel(`Billed now, ${first} ${run}-B`)).toHaveCount(0);
  await order(third).check();
  await page.getByLabel(`Billed now, ${third} ${run}-B`).fill('5');
  await order(first).check();
  await order(first).uncheck();
  await expect(page.getByLabel(`Billed now, ${third} ${run}-B`)).toHaveValue('5');
  await page.getByLabel('Tax on goods as on the items').uncheck();
  await page.getByRole('button', { name: 'Add another line' }).click();
  await page.getByLabel('What line 1 is for').fill('Pallet');
  await page.getByLabel('Amount of line 1').fill('10.00');
  await page.getByLabel('Tax on line 1').selectOption('Standard rate, 20 %');
  await page.getByLabel('Their number').fill('SO-7');
  await page.getByRole('button', { name: 'Post bill of 67.00' }).click();
  await expect(page.getByRole('heading', { name: /^BILL-/ })).toBeVisible();
  await expect(page.getByRole('main')).toContainText('Net 65.00, tax 2.00');
  await expect(page.getByRole('main')).toContainText('2.00 tax can be claimed back.');

  // A worksheet on its receipt; the carrier is not known yet and is added on the spot.
  await page.goto(`/inbound/orders/${orders[0]?.id ?? 0}`);
  await page.getByRole('link', { name: 'Landed cost' }).click();
  await expect(page.getByText('1 receipt chosen')).toBeVisible();
  await page.getByRole('button', { name: /Start a landed cost worksheet/ }).click();
  const charge = page.getByRole('group', { name: 'Charge 1' });
  await charge.getByLabel('Amount').fill('-12');
  await expect(charge.getByText('An amount above zero, such as 640.00.')).toBeVisible();
  await charge.getByLabel('Amount').fill('12');
  await charge.getByLabel('Currency').fill('EUR');
  await charge.getByLabel('GBP for one').fill('0');
  await expect(charge.getByText('A rate above zero, such as 0.86.')).toBeVisible();
  await charge.getByLabel('GBP for one').fill('0.85');
  const carrier = charge.getByRole('combobox', { name: 'Billed by' });
  await carrier.click();
  await carrier.pressSequentially(`Wagon ${run}`, { delay: 45 });
  await expect(page.getByRole('option', { name: `Add “Wagon ${run}” as a supplier` })).toBeVisible();
  await carrier.press('ArrowDown');
  await carrier.press('Enter');
  await expect(carrier).toHaveValue(`Wagon ${run}`);
  await page.getByRole('button', { name: 'Post 10.20 of charges' }).click();
  await expect(page.getByRole('heading', { name: /^LC-/ })).toBeVisible();

  // The supplier's own page of a bill keeps what the carrier will bill out of sight; the carrier's shows it at once, and it bears tax.
  await page.goto('/books/bills/new');
  await choose(page, 'From', 'several orders', `Several Orders ${run}`);
  await expect(page.getByRole('button', { name: /Show \d+ charges? expected from others/ })).toBeVisible();
  await expect(page.getByLabel(/^Billed for Freight/).filter({ visible: true })).toHaveCount(0);
  await choose(page, 'From', `wagon`, `Wagon ${run}`);
  await page
    .getByLabel(/^Billed for Freight/)
    .filter({ visible: true })
    .fill('10.20');
  await page
    .getByLabel(/^Tax on Freight/)
    .filter({ visible: true })
    .selectOption('Standard rate, 20 %');
  await page.getByLabel('Their number').fill('W-1');
  await page.getByRole('button', { name: 'Post bill of 12.24' }).click();
  await expect(page.getByRole('main')).toContainText('10.20 of estimated charges are cleared.');
});

test('an order in cases is changed, a line called off, and its sums follow; a copy keeps the cases', async ({ page }) => {
  await signIn(page);
  await page.goto('/inbound/orders/new');
  await choose(page, 'Supplier', 'bright', 'Brightwick Glass');
  await enterLine(page, '5 jar-340-blk', 'JAR-340-BLK');
  await expect(page.getByLabel('Unit of line 1').locator('option').first()).toHaveText('each');
  await expect(page.getByLabel('Unit of line 1').locator('option:checked')).toHaveText('case of 48');
  await page.getByLabel('Price of line 1').fill('14.40');
  await page.getByRole('button', { name: /Place order of 1 line/ }).click();
  await expect(page.getByText('Received 0 of 240')).toBeVisible();
  await page.getByRole('link', { name: 'Change', exact: true }).click();
  await page.getByLabel('No longer wanted of JAR-340-BLK').fill('48');
  await page.getByRole('button', { name: /^Change PO-/ }).click();
  const line = page.getByRole('table', { name: 'Lines' }).getByRole('row').nth(1);
  await expect(line).toContainText('48 cancelled');
  await expect(line).toContainText('57.60');
  await expect(page.getByText('Received 0 of 192')).toBeVisible();
  await page.getByRole('link', { name: 'Copy' }).click();
  await expect(page.getByLabel('Quantity of line 1')).toHaveValue('5');
  await expect(page.getByRole('row').filter({ hasText: 'JAR-340-BLK' })).toContainText('case of 48');
});
