import { expect, test } from './journey';
import { given } from './given';
import { scan, signIn } from './person';

test.use({ viewport: { width: 390, height: 844 } });

test('four orders are picked in one round on the phone, each scan into its slot; a bin that gives less is to be counted', async ({ page }) => {
  await signIn(page);
  const made = given(page);
  const run = `${Date.now() % 100_000}`;
  const site = await made.site();
  const itemId = await made.item(`ROUND-${run}`, { salesPrice: '5.00' });
  await made.opening(itemId, site, '9');
  const numbers: string[] = [];
  for (const quantity of ['1', '2', '1', '3']) numbers.push((await made.confirmed('Ashby', site, itemId, quantity)).number);

  await test.step('the four are chosen and begun', async () => {
    await page.goto('/outbound/picking');
    for (const number of numbers) await page.getByLabel(`Choose ${number}`).check();
    await page.getByRole('button', { name: /^Pick 4 orders in one round/ }).click();
    await expect(page.getByRole('heading', { name: /^Round \d+/ })).toBeVisible();
    await expect(page.getByRole('region', { name: 'Slots' })).toContainText(`Slot 4 ${numbers[3] ?? ''}`);
  });
  const round = page.url();

  await test.step('others see who picks them, and cannot take them', async () => {
    await page.goto('/outbound/picking');
    await expect(page.getByRole('region', { name: 'Being picked' })).toContainText('Ines Marlow');
    await expect(page.getByLabel(`Choose ${numbers[0] ?? ''}`)).toHaveCount(0);
    await page.goto(round);
  });

  await test.step('six of seven are scanned, each into a slot; one is missing', async () => {
    const picked = (slot: number) => page.getByLabel(new RegExp(`^Picked of ROUND-${run} from .* into slot ${slot}$`));
    await expect(picked(4)).toHaveValue('3');
    for (let n = 0; n < 6; n += 1) await scan(page, `ROUND-${run}`);
    await expect(picked(4)).toHaveValue('2');
    await expect(picked(1)).toHaveValue('1');
    await page.getByLabel('Why fewer than asked').fill('an empty box');
    await page.getByRole('button', { name: /^Put 4 lines on the bench/ }).click();
    await expect(page.getByText('4 lines of round', { exact: false })).toBeVisible();
    await page.getByRole('button', { name: 'End the round' }).click();
    await expect(page.getByText(/^This round is ended/)).toBeVisible();
    await page.getByRole('button', { name: /^What is to be picked/ }).click();
    await expect(page.getByRole('heading', { name: 'To pick' })).toBeVisible();
    await expect(page.getByLabel(`Choose ${numbers[3] ?? ''}`)).toBeVisible();
    await expect(page.getByLabel(`Choose ${numbers[0] ?? ''}`)).toHaveCount(0);
  });

  await test.step('the bin is to be counted, as Today says', async () => {
    await page.goto('/');
    await expect(page.getByText(`ROUND-${run}`)).toBeVisible();
    await expect(page.getByText(/an empty box/)).toBeVisible();
  });
});
