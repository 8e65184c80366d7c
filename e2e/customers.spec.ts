import { expect, test } from './journey';
import { given } from './given';
import { choose, enterLine, open, signIn } from './person';

test('a customer abroad buys in their currency and within a limit; what they bought is ordered again from their page', async ({ page }) => {
  await signIn(page);
  const made = given(page);
  const run = `${Date.now() % 100_000}`;
  const customer = `Fromagerie ${run}`;
  const site = await made.site();
  const itemId = await made.item(`CHEESE-${run}`, { salesPrice: '4.00' });
  await made.opening(itemId, site, '100');
  const next = (name: RegExp) => page.getByRole('button', { name });
  const standing = (name: string) => page.getByText(name, { exact: true }).locator('..');

  await test.step('they pay in euros, and may owe 60.00 pounds', async () => {
    await page.goto('/outbound/customers/new');
    await page.getByLabel('Name', { exact: true }).fill(customer);
    await page.getByLabel('Pays in').fill('eur');
    await page.getByLabel(/^Credit limit/).fill('60');
    await next(/^Add the customer/).click();
    await expect(page.getByRole('heading', { level: 1, name: customer })).toBeVisible();
    await expect(standing('Credit limit')).toContainText('60.00 left');
  });

  await test.step('a quote is in their currency; its price follows the rate that is typed', async () => {
    await open(page, 'new quote');
    await choose(page, 'Customer', `fromagerie ${run}`, customer);
    await expect(page.getByLabel('Currency')).toHaveValue('EUR');
    await page.getByLabel('GBP for one EUR').fill('0.80');
    await page.getByLabel('New line').focus();
    await enterLine(page, `cheese-${run} 10`, `CHEESE-${run}`);
    await expect(page.getByLabel('Price of line 1')).toHaveValue('5.00');
    await expect(page.getByText('50.00 EUR')).toBeVisible();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Picked 0 of 10');
  });

  await test.step('it is picked, dispatched and invoiced in euros', async () => {
    await next(/^Pick 1 line/).click();
    await next(/^Put 1 line on the bench/).click();
    await next(/^Dispatch 1 line/).click();
    await next(/^Dispatch 1 line/).click();
    await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Dispatched 10 of 10');
    await next(/^Invoice SO-/).click();
    await next(/^Issue invoice of 50.00 EUR/).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^INV-/);
  });

  await test.step('from their page the same is ordered again, at the rate of the last time; beyond their limit it is asked', async () => {
    await page.goto('/outbound/customers');
    await page.getByLabel('Find customers').fill(customer);
    // Not before the others are gone: a row that moves is not pressed twice.
    await expect(page.getByRole('table', { name: 'Customers' }).locator('tbody tr[aria-rowindex]')).toHaveCount(1);
    await page.getByRole('row', { name: new RegExp(customer) }).dblclick();
    await expect(standing('They owe')).toContainText('40.00 GBP');
    await expect(standing('Credit limit')).toContainText('20.00 left');
    await page.getByRole('button', { name: 'What they buy' }).click();
    await page.getByLabel(`Order CHEESE-${run} again`).check();
    await next(/^New quote of 1 item/).click();
    await expect(page.getByLabel('Quantity of line 1')).toHaveValue('10');
    await expect(page.getByLabel('GBP for one EUR')).toHaveValue('0.8');
    await expect(page.getByLabel('Price of line 1')).toHaveValue('5.00');
    await expect(page.getByLabel('New line')).toBeFocused();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText(`${customer} would owe 80.00 GBP, 20.00 more than they may.`).first()).toBeVisible();
    await next(/^Confirm it all the same/).click();
    await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Picked 0 of 10');
  });
});
