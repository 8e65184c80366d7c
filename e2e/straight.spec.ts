import { expect, test } from './journey';
import { given } from './given';
import { choose, enterLine, open, signIn } from './person';

test('what is short is swapped or sent straight from a supplier by keys alone; the supplier is ordered, sends it, bills it and is paid', async ({ page }) => {
  await signIn(page);
  const made = given(page);
  const run = `${Date.now() % 100_000}`;
  const supplier = `Mill ${run}`;
  const supplierId = await made.supplier(supplier);
  const site = await made.site();
  const other = await made.item(`URN-${run}`, { salesPrice: '7.00' });
  await made.opening(other, site, '40');
  await made.item(`VASE-${run}`, { salesPrice: '6.00', substitutes: [other] });
  const suppliers = [{ supplierId, packSize: '1', minimum: '0', price: '3.10' }];
  await made.item(`SACK-${run}`, { salesPrice: '5.00', purchasePrice: '3.10', suppliers });
  const press = async (menu: string, way: RegExp) => {
    await expect(page.getByRole('button', { name: menu })).toBeVisible();
    await page.keyboard.press('Control+.');
    const items = page.getByRole('menuitem');
    await expect(items.filter({ hasText: way })).toBeVisible();
    while (!way.test((await page.locator('[role="menuitem"]:focus').textContent()) ?? '')) await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await expect(page.getByLabel('New line')).toBeFocused();
  };

  await test.step('on the phone: one line is swapped, one comes straight, one is left short', async () => {
    await open(page, 'new quote');
    await choose(page, 'Customer', 'ashby', 'Ashby Club');
    await enterLine(page, `vase-${run} 12`, `VASE-${run}`);
    await press(`Fill what VASE-${run} is short of`, /^Swap for/);
    await expect(page.getByText(`instead of VASE-${run}`)).toBeVisible();
    await enterLine(page, `sack-${run} 20`, `SACK-${run}`);
    await press(`Fill what SACK-${run} is short of`, /straight from a supplier/);
    await expect(page.getByText('20 straight from a supplier')).toBeVisible();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Picked 0 of 12');
  });
  const sale = (await page.getByRole('heading', { level: 1 }).innerText()).trim();
  const address = page.url();

  await test.step('what is to come straight is ordered from the list of lines that wait', async () => {
    await page.goto(`/outbound/lines?show=to-order&q=SACK-${run}`);
    await page.getByLabel(`Choose SACK-${run} for ${sale}`).check();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByLabel(`The supplier sends of SACK-${run} for ${sale}`)).toHaveValue('20');
    await expect(page.getByLabel(`Price of SACK-${run} for ${sale}`)).toHaveValue('3.10');
    await expect(page.getByRole('region', { name: 'What is ordered' })).toContainText('62.00');
    await page.keyboard.press('Control+Enter');
    await expect(page).toHaveURL(address);
    await expect(page.getByText(`20 straight from ${supplier}`)).toBeVisible();
  });

  await test.step('the supplier has sent it: it is dispatched, and its cost is in the margin', async () => {
    await page.getByRole('link', { name: /^PO-/ }).first().click();
    await expect(page.getByText('straight to Ashby Club')).toBeVisible();
    await expect(page.getByRole('link', { name: sale })).toBeVisible();
    await page.getByRole('button', { name: 'Record what Ashby Club got' }).click();
    await page.getByLabel(`Delivered of SACK-${run}`).fill('21');
    await expect(page.getByText(`The customer ordered only 20 more of SACK-${run} from us.`)).toBeVisible();
    await page.getByLabel(`Delivered of SACK-${run}`).fill('20');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText('Delivered 20 of 20')).toBeVisible();
  });

  await test.step('its bill is posted and paid', async () => {
    await page.getByRole('link', { name: 'Enter its bill' }).click();
    await page.getByLabel('Their number').fill(`R-${run}`);
    await page.getByRole('button', { name: 'Post bill of 62.00' }).click();
    await expect(page.getByRole('heading', { name: /^BILL-/ })).toBeVisible();
    await page.getByRole('button', { name: /Record payment of 62.00/ }).click();
    await expect(page.getByRole('heading', { level: 1 }).locator('..')).toContainText('paid');
  });

  await test.step('the order says what went straight, and is found among those', async () => {
    await page.goto(address);
    await expect(page.getByText(`20 went straight from ${supplier}`)).toBeVisible();
    await expect(page.getByText('Cost of sales')).toContainText('62.00');
    await page.goto(`/outbound?show=direct&q=Ashby`);
    await expect(page.getByRole('row', { name: new RegExp(sale) })).toBeVisible();
  });

  await test.step('it is invoiced and paid; five of it the customer sends straight on to the supplier, and they are credited', async () => {
    const next = (name: RegExp) => page.getByRole('button', { name });
    await page.goto(`/books/invoices/new?orders=${address.split('/').at(-1) ?? ''}`);
    await next(/^Issue invoice of 100.00 GBP/).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^INV-/);
    await next(/^Record payment of 100.00/).click();
    await expect(page.getByText('paid', { exact: true })).toBeVisible();
    await page.goto(address);
    await page.getByRole('link', { name: 'Goods come back' }).click();
    await page.getByLabel('Find what comes back').fill(`SACK-${run}`);
    await page.keyboard.press('Enter');
    await page.getByLabel(`How many of SACK-${run} on ${sale}`).fill('5');
    await page.getByLabel(`Condition of SACK-${run} on ${sale}`).selectOption('On to the supplier');
    await page.getByLabel(`Why SACK-${run} on ${sale} comes back`).selectOption('Faulty');
    await next(/^Take back 1 line/).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^Return RET-/);
    await next(/^Credit INV-/).click();
    await next(/^Issue credit note of 25.00 GBP/).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^CN-/);
    await page.goto(address);
    await expect(page.getByRole('table').first()).toContainText('5 came back');
    await expect(page.getByText('Cost of sales')).toContainText('46.50');
  });
});
