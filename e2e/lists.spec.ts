import { expect, test, type Page } from './journey';
import { signIn } from './person';

const figure = (text: string | null): number => Number((text ?? '').replace(/[^\d.-]/g, ''));
const selected = (page: Page) => page.locator('tr[aria-selected="true"]');

test('the stock table says what everything is worth, which is what stands on the inventory accounts', async ({ page }) => {
  await signIn(page);
  await page.goto('/stock');
  const table = page.getByRole('table', { name: 'Stock' });
  const worth = table.locator('tfoot td').last();
  await expect(worth).toHaveText(/\d\.\d\d$/);
  const inAll = figure(await worth.textContent());
  const accounts = (await (await page.request.get('/api/books/accounts')).json()) as { rows: { type: string; purpose: string | null; balance: string }[] };
  const inventory = accounts.rows.filter(({ type, purpose }) => type === 'inventory' || purpose === 'inventory');
  const booked = inventory.reduce((sum, { balance }) => sum + Math.round(Number(balance) * 100), 0);
  expect(Math.round(inAll * 100)).toBe(booked);

  // Held to what is short it says that of these alone: as many as there are rows, and what their values add up to.
  await page.getByRole('button', { name: 'Short', exact: true }).click();
  await expect(async () => {
    const rows = table.locator('tbody tr[aria-rowindex]');
    const worths = await rows.locator('td:last-child').allTextContents();
    expect(await table.locator('tfoot td').nth(1).textContent()).toMatch(new RegExp(`^${worths.length} item`));
    const cents = (text: string | null) => Math.round(figure(text) * 100);
    expect(cents(await worth.textContent())).toBe(worths.reduce((sum, text) => sum + cents(text), 0));
    expect(cents(await worth.textContent())).toBeLessThan(booked);
  }).toPass();
});

test('a long list goes on to its end by keys, and a row opens in place', async ({ page }) => {
  await signIn(page);
  await page.goto('/books?show=all');
  const table = page.getByRole('table', { name: 'Books' });
  await expect(table.locator('tfoot')).toContainText('bills');
  const many = figure(await table.locator('tfoot td').nth(1).textContent());
  expect(many).toBeGreaterThan(100);
  await expect(async () => {
    await page.keyboard.press('End');
    await expect(selected(page)).toHaveAttribute('aria-rowindex', String(many + 1), { timeout: 1000 });
  }).toPass();
  await expect(selected(page)).toBeInViewport();
  expect(await table.locator('tbody tr').count()).toBeLessThan(80);
  await page.keyboard.press('Home');
  await expect(selected(page)).toHaveAttribute('aria-rowindex', '2');
  await expect(selected(page)).toBeInViewport();

  await page.goto('/stock');
  const stock = page.getByRole('table', { name: 'Stock' });
  await expect(selected(page)).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowRight');
  const inside = stock.locator('table');
  await expect(inside).toContainText('Barn store');
  await expect(inside.getByRole('link').first()).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await expect(inside).toHaveCount(0);
});

test('the trail goes on as it is scrolled', async ({ page }) => {
  await signIn(page);
  await page.goto('/stock/trail');
  const rows = page.getByRole('table').first().locator('tbody tr');
  await expect(rows.first()).toBeVisible();
  const first = await rows.count();
  await expect(async () => {
    await rows.last().scrollIntoViewIfNeeded();
    expect(await rows.count()).toBeGreaterThan(first);
  }).toPass();
});
