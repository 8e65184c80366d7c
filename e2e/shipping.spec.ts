import { expect, test } from './journey';
import { given } from './given';
import { choose, scan, signIn } from './person';

test('what was picked on the phone is packed into two parcels by scanning, booked with a carrier, sent, brought back, sent again and billed', async ({
  page,
}) => {
  test.slow();
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page);
  const made = given(page);
  const sku = `BOXED-${Date.now() % 100_000}`;
  const site = await made.site();
  const itemId = await made.item(sku, { salesPrice: '9.00', weightKg: '2' });
  await made.opening(itemId, site, '5');
  const order = await made.confirmed('Ashby', site, itemId, '5');
  const parcels: string[] = [];
  const card = page.getByRole('region', { name: /^SH-\d+$/ });

  await test.step('it is picked and packed', async () => {
    await page.goto(`/outbound/orders/${order.id}`);
    await page.getByRole('button', { name: /^Pick 1 line/ }).click();
    await page.getByRole('button', { name: /^Put 1 line on the bench/ }).click();
    await page.getByRole('button', { name: /^Pack 1 line/ }).click();
    for (let n = 0; n < 3; n += 1) await scan(page, sku);
    await expect(page.getByLabel(`${sku} in Parcel 1`)).toHaveValue('3');
    await page.getByRole('button', { name: 'Another parcel' }).click();
    await expect(page.getByLabel(`${sku} in Parcel 2`)).toHaveValue('2');
    await page.getByLabel('Weight, kg').fill('4.5');
    await page.getByRole('button', { name: /^Pack 2 parcels/ }).click();
    const packed = page.getByRole('region', { name: 'Packed' });
    await expect(packed).toContainText('6 kg');
    await expect(packed).toContainText('4.5 kg');
    parcels.push(...((await packed.textContent())?.match(/PC-\d+/g) ?? []));
    expect(parcels).toHaveLength(2);
  });

  await test.step('what is packed is not put back', async () => {
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect(page.getByRole('dialog')).toContainText(/is packed in parcel PC-\d+/);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
  });

  await test.step('it is booked, and its labels are printed', async () => {
    await page.getByRole('button', { name: /^Send 2 parcels/ }).click();
    await expect(page.getByRole('radio', { name: /^Heronway, Steady/ })).toBeChecked();
    await page.getByLabel('Charge the customer, before tax').fill('7.50');
    await page.getByRole('button', { name: /^Book 2 parcels with Heronway/ }).click();
    await expect(card).toContainText('booked, still here', { timeout: 30_000 });
    await expect(card).toContainText('the customer is charged 7.50');
    await expect(card).toContainText(/HW\d+/);
    await card.getByRole('button', { name: 'Print 2 labels' }).click();
    await expect(card.getByRole('link', { name: 'Open the PDF' })).toBeVisible();
  });

  await test.step('it goes out, comes back, and goes again; what the driver has stays gone', async () => {
    for (const _ of [1, 2]) {
      await page.getByRole('button', { name: /^Dispatch SH-\d+ with Heronway/ }).click();
      await page.getByRole('button', { name: /^Dispatch 2 parcels with Heronway/ }).click();
      await expect(card).toContainText('dispatched');
      if (_ === 2) break;
      // The row of the dispatch: it comes in with the postings, which may be a moment after the parcels.
      await page.getByRole('region', { name: 'Postings' }).getByRole('row').filter({ hasText: 'dispatch of 5' }).getByRole('button', { name: 'Undo' }).click();
      await page.getByRole('dialog').getByRole('button', { name: /^Undo/ }).click();
      await expect(card).toContainText('booked, still here');
    }
    await card.getByRole('button', { name: 'The driver has it' }).click();
    await expect(card).toContainText('on its way');
  });

  await test.step('the carrier bills one of them dearer than it was booked', async () => {
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.goto('/books/bills/new');
    await choose(page, 'From', 'heron', 'Heronway Parcels');
    await page.getByLabel('Their number').fill(`HERON ${sku}`);
    const row = page.getByRole('row', { name: new RegExp(parcels[0] as string) });
    const booked = Number(/\b\d{1,6}\.\d\d/.exec((await row.getByRole('cell').nth(2).textContent()) ?? '')?.[0]);
    await page.getByLabel(`Billed for ${parcels[0] ?? ''}`).fill((booked + 1).toFixed(2));
    await expect(page.getByText('Parcels came to 1.00 more than booked.')).toBeVisible();
    await page.getByRole('button', { name: /^Post bill of/ }).click();
    await expect(page.getByRole('heading', { name: /^BILL-/ })).toBeVisible();
    await expect(page.getByText(`${parcels[0] ?? ''} for ${order.number}`, { exact: false })).toBeVisible();
  });
});

test('a carrier that does not carry there says why; without one the customer collects what was packed', async ({ page }) => {
  await signIn(page);
  const made = given(page);
  const sku = `HEAVY-${Date.now() % 100_000}`;
  const site = await made.site();
  const itemId = await made.item(sku, { salesPrice: '9.00', weightKg: '20' });
  await made.opening(itemId, site, '2');
  const order = await made.confirmed('Ashby', site, itemId, '2');
  await page.goto(`/outbound/orders/${order.id}`);
  await page.getByRole('button', { name: /^Pick 1 line/ }).click();
  await page.getByRole('button', { name: /^Put 1 line on the bench/ }).click();
  await page.getByRole('button', { name: /^Pack 1 line/ }).click();
  await page.getByRole('button', { name: /^Pack 1 parcel/ }).click();
  await page.getByRole('button', { name: /^Send 1 parcel/ }).click();
  await expect(page.getByText('A parcel of 40 kg is too heavy: it carries up to 30 kg.')).toBeVisible();
  await expect(page.getByRole('radio', { name: /^Heronway/ })).toBeDisabled();
  await page.getByRole('radio', { name: 'The customer collects' }).check();
  await page.getByRole('button', { name: /^Dispatch 1 parcel to the customer/ }).click();
  await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Dispatched 2 of 2');
  await expect(page.getByRole('region', { name: /^SH-\d+$/ })).toContainText('the customer collects');
});
