import { expect, test } from '@playwright/test';
import { enterLine, scan, signIn } from './person';

test.describe.configure({ retries: 1 });

test('on a phone: goods without an order are received by scanning the bin and the goods', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, 'tom@larkmoor.example');
  await page.goto('/inbound/loose');
  await expect(page.getByLabel('Into bin')).toBeVisible();
  await page.waitForTimeout(500);
  await scan(page, 'A-01-1');
  await expect(page.getByLabel('Into bin').locator('option:checked')).toHaveText(/A-01-1/);
  await scan(page, 'SM-STD');
  await expect(page.getByLabel('Quantity of SM-STD')).toHaveValue('1');
  await page.getByLabel('Quantity of SM-STD').fill('3');
  await expect(page.getByLabel('Bin of SM-STD').locator('option:checked')).toHaveText(/A-01-1/);
  await expect(page.getByRole('region', { name: 'What this will change' }).getByText('on hand')).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.getByRole('button', { name: /Receive 1 line/ }).click();
  await expect(page.getByText('Received 1 line.')).toBeVisible();
});

test('equipment comes in without an order, its bill to follow; one goes back, and the credit for it is entered', async ({ page }) => {
  await signIn(page);
  await page.goto('/inbound/loose');
  const from = page.getByRole('combobox', { name: 'From (or nobody)' });
  await from.click();
  await from.pressSequentially('ashg', { delay: 45 });
  await expect(page.getByRole('option', { name: 'Ashgrove Metalworks' })).toBeVisible();
  await from.press('Enter');
  await page.getByLabel('Paid already').selectOption('no');
  await enterLine(page, '2 EX-4', 'EX-4');
  await page.getByLabel('One costs: EX-4').fill('310.00');
  await page
    .getByLabel(/Serials/)
    .first()
    .fill('EQ-901\nEQ-902');
  await expect(page.getByText('All 2 serials given.')).toBeVisible();
  await page.getByRole('button', { name: /Receive 1 line/ }).click();
  await expect(page.getByText('Received 1 line.')).toBeVisible();

  await page.goto('/inbound?show=all');
  await page.getByLabel('Find purchase orders').fill('ashgrove');
  const first = page.getByRole('row').filter({ hasText: 'Ashgrove Metalworks' }).first();
  await first.dblclick();
  await expect(page.getByText('Came in without an order')).toBeVisible();
  await page.getByRole('link', { name: 'Enter its bill' }).click();
  await page.getByLabel('Their number').fill('AM-31');
  await page.getByRole('button', { name: /Post bill of/ }).click();
  await expect(page.getByRole('heading', { name: /BILL-/ })).toBeVisible();
  await page.goBack();
  await page.goBack();

  await page.getByRole('link', { name: 'Return goods' }).click();
  await page.getByLabel('Why it goes back').fill('motor hums');
  await page.getByLabel(/Goes back, EX-4 from .* EQ-902/).fill('1');
  await page.getByRole('button', { name: /Send back 1 line/ }).click();
  await expect(page.getByRole('heading', { name: /^PO-/ })).toBeVisible();
  await page.getByRole('link', { name: 'Enter its bill' }).click();
  await page.getByLabel('It is a').selectOption('credit');
  await page.getByLabel('Their number').fill('AM-C1');
  await expect(page.getByText('for 1 sent back')).toBeVisible();
  await page.getByRole('button', { name: /Post credit of/ }).click();
  await expect(page.getByRole('heading', { name: /BILL-/ })).toBeVisible();
});
