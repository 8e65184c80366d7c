import { expect, test } from './journey';
import { given } from './given';
import { signIn } from './person';

test('two quotes are confirmed at once, found as ready, and picked in one round', async ({ page }) => {
  await signIn(page);
  const made = given(page);
  const sku = `STAGE-${Date.now() % 100_000}`;
  const site = await made.site();
  const itemId = await made.item(sku, { salesPrice: '9.00' });
  await made.opening(itemId, site, '9');
  const quotes = [await made.quote('Fenwick', site, itemId, '2'), await made.quote('Fenwick', site, itemId, '3')];
  const choose = async () => {
    for (const { number } of quotes) await page.getByRole('checkbox', { name: `Choose ${number}` }).check();
  };

  await page.goto('/outbound?show=quotes&q=Fenwick');
  await choose();
  const chosen = page.getByRole('complementary', { name: 'Chosen orders' });
  await chosen.getByRole('button', { name: 'Confirm 2 quotes' }).click();
  await expect(page.getByText('Confirmed 2 quotes.')).toBeVisible();
  for (const { number } of quotes) await expect(page.getByRole('checkbox', { name: `Choose ${number}` })).toBeHidden();

  await page.getByRole('button', { name: 'Ready to pick' }).click();
  await expect(page).toHaveURL(/show=ready/);
  await choose();
  await chosen.getByRole('button', { name: 'Pick 2 orders in one round' }).click();
  await expect(page).toHaveURL(/\/outbound\/rounds\/\d+$/);
  for (const { number } of quotes) await expect(page.getByText(number).first()).toBeVisible();
});
