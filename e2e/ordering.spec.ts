import { expect, test } from './journey';
import { given } from './given';
import { signIn } from './person';

test('an order goes by the supplier’s terms, carries its carriage to the worksheet, and costs another price for what is still to come', async ({ page }) => {
  await signIn(page);
  const { supplier, item, site, orderNow, receive } = given(page);
  const name = `Terms ${Date.now() % 100_000}`;
  const supplierId = await supplier(name);
  const sku = `TRM-${Date.now() % 100_000}`;
  await item(sku, {
    purchasePrice: '1.40',
    suppliers: [{ supplierId, code: 'T-1', packSize: '12', minimum: '24', price: '1.10', breaks: [{ from: '120', price: '0.95' }] }],
  });
  await page.goto('/inbound/orders/new');
  await page.getByLabel('Supplier', { exact: true }).fill(name);
  await page.getByRole('option', { name }).click();
  await page.getByLabel('New line').fill(`6 ${sku}`);
  await page.getByRole('option', { name: new RegExp(sku) }).waitFor();
  await page.keyboard.press('Enter');
  const price = page.getByLabel('Price of line 1');
  await expect(price).toHaveValue('1.10');
  await expect(page.getByText('They deliver at least 24.')).toBeVisible();
  await page.getByRole('button', { name: 'Take 24' }).click();
  await expect(page.getByLabel('Quantity of line 1')).toHaveValue('24');
  await page.getByLabel('Quantity of line 1').fill('120');
  await expect(price).toHaveValue('0.95');
  await price.fill('1.00');
  await expect(page.getByText('Agreed is 0.95.')).toBeVisible();
  await page.getByRole('button', { name: 'Take it' }).click();
  await page.getByRole('button', { name: 'Add a charge' }).click();
  await page.getByLabel('Charge for').fill('Carriage');
  await page.getByLabel('Amount').fill('24.00');
  await page.getByLabel('Tax', { exact: true }).selectOption({ label: 'No tax' });
  await expect(page.getByText('138.00 GBP')).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { level: 1, name: /^PO-/ })).toBeVisible();
  await expect(page.getByText('138.00 GBP')).toBeVisible();

  const id = Number(/orders\/(\d+)/.exec(page.url())?.[1]);
  await receive(await orderNow(id), await site(), ['50']);
  await page.reload();
  await page.getByRole('link', { name: 'Change', exact: true }).click();
  await page.getByLabel(`Another price of ${sku}`).fill('1.20');
  await page.keyboard.press('Control+Enter');
  const lines = page.getByRole('table', { name: 'Lines' });
  await expect(lines.getByRole('row').nth(1)).toContainText('70 cancelled');
  await expect(lines.getByRole('row').nth(2)).toContainText('1.20');
  await expect(page.getByText('155.50 GBP')).toBeVisible(); // 50 × 0.95 + 70 × 1.20 + 24

  await page.goto('/books/landed');
  await page.getByLabel('Find receipts and worksheets').fill(name);
  await page.getByLabel(new RegExp(`Choose the receipt of PO-`)).first().check();
  await page.keyboard.press('Control+Enter');
  const charge = page.getByRole('group', { name: 'Charge 1' });
  await expect(charge.getByLabel('Charge', { exact: true })).toHaveValue('Carriage');
  await expect(charge.getByLabel('Amount')).toHaveValue('24.00');
});

test('an order goes straight to a customer: it is marked, found by that, and what was delivered there is recorded', async ({ page }) => {
  await signIn(page);
  const { supplier, item } = given(page);
  const name = `Mill ${Date.now() % 100_000}`;
  const supplierId = await supplier(name);
  const sku = `STR-${Date.now() % 100_000}`;
  await item(sku, { purchasePrice: '18.00', suppliers: [{ supplierId, packSize: '1', minimum: '0', price: '18.00' }] });
  await page.goto('/inbound/orders/new');
  await page.getByLabel('Supplier', { exact: true }).fill(name);
  await page.getByRole('option', { name }).click();
  await page.getByLabel('Deliver to').selectOption({ label: 'straight to a customer' });
  await page.getByLabel('New line').fill(`40 ${sku}`);
  await page.getByRole('option', { name: new RegExp(sku) }).waitFor();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Choose the customer.')).toBeVisible();
  await page.getByLabel('Customer it goes to').fill('Marsh');
  await page.getByRole('option', { name: 'Marsh End Honey' }).click();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('straight to Marsh End Honey')).toBeVisible();
  const number = await page.getByRole('heading', { level: 1 }).innerText();
  await page.getByRole('button', { name: 'Record what Marsh End Honey got' }).click();
  await page.getByLabel(`Delivered of ${sku}`).fill('41');
  await expect(page.getByText(/wants only 40 more/)).toBeVisible();
  await page.getByRole('button', { name: 'All of it was delivered' }).click();
  await expect(page.getByLabel(`Delivered of ${sku}`)).toHaveValue('40');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Delivered 40 of 40')).toBeVisible();
  await page.goto('/inbound?show=all&to=customer');
  await page.getByLabel('Find purchase orders').fill(number);
  await expect(page.getByRole('row', { name: new RegExp(number) })).toContainText('straight to Marsh End Honey');
});
