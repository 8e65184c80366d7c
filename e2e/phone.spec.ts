import { expect, test } from './journey';
import { given } from './given';
import { signIn } from './person';

test('an order of eight lines on the phone, by keys alone and without one Tab: each gap is filled another way', async ({ page }) => {
  await signIn(page);
  const made = given(page);
  const run = `${Date.now() % 100_000}`;
  const [barn, harbour] = [await made.site(), await made.site('Harbour shop')];
  const supplierId = await made.supplier(`Forge ${run}`);
  const sku = (name: string) => `${name}-${run}`;
  const suppliers = [{ supplierId, packSize: '1', minimum: '0', price: '3.00' }];
  const item = (name: string, part: object = {}) => made.item(sku(name), { salesPrice: '6.00', purchasePrice: '3.00', suppliers, ...part });
  await made.opening(await item('WHOLE'), barn, '20');
  const late = await item('LATER');
  await made.order(supplierId, barn, [{ itemId: late, quantity: '30', price: '3.00' }], new Date(Date.now() + 4 * 86_400_000).toISOString().slice(0, 10));
  await made.opening(await item('BROUGHT'), harbour, '9');
  const other = await item('OTHER');
  await made.opening(other, barn, '15');
  await item('SWAPPED', { substitutes: [other] });
  await item('DIRECT');
  await made.opening(await item('SPLIT'), barn, '4');
  await item('SHORT');
  await made.opening(await item('ELSE'), harbour, '12');

  const keys = page.keyboard;
  const line = async (text: string, name: string) => {
    await expect(page.getByLabel('New line')).toBeFocused();
    await keys.type(text, { delay: 45 });
    await expect(page.getByRole('option', { name: sku(name) })).toBeVisible();
    await keys.press('Enter');
    await expect(page.getByLabel('New line')).toHaveValue('');
  };
  const fill = async (name: string, way: RegExp) => {
    await expect(page.getByRole('button', { name: `Fill what ${sku(name)} is short of` })).toBeVisible();
    await keys.press('Control+.');
    const items = page.getByRole('menuitem');
    await expect(items.filter({ hasText: way })).toBeVisible();
    while (!way.test((await page.locator('[role="menuitem"]:focus').textContent()) ?? '')) await keys.press('ArrowDown');
    await keys.press('Enter');
  };

  await keys.press('Control+/');
  await expect(page.getByRole('combobox', { name: 'Scan bar' })).toBeFocused();
  await keys.type('new quote', { delay: 45 });
  await expect(page.getByRole('listbox', { name: 'Found' }).getByRole('option').first()).toBeVisible();
  await keys.press('Enter');
  await expect(page.getByLabel('Customer')).toBeFocused();
  await keys.type('ashby', { delay: 45 });
  await expect(page.getByRole('option', { name: 'Ashby Club' })).toBeVisible();
  await keys.press('Enter');

  await line(`whole-${run} 5`, 'WHOLE');
  await line(`later-${run} 10`, 'LATER');
  await fill('LATER', /^Promise /);
  await expect(page.getByText(/^promised for /)).toBeVisible();
  await line(`8 brought-${run}`, 'BROUGHT');
  await fill('BROUGHT', /^Bring 8 from Harbour shop/);
  await expect(page.getByText('8 brought from Harbour shop')).toBeVisible();
  await line(`swapped-${run} 3`, 'SWAPPED');
  await fill('SWAPPED', /^Swap for/);
  await expect(page.getByText(`instead of ${sku('SWAPPED')}`)).toBeVisible();
  await line(`direct-${run} 7`, 'DIRECT');
  await fill('DIRECT', /straight from a supplier/);
  await expect(page.getByText('7 straight from a supplier')).toBeVisible();
  await line(`split-${run} 10`, 'SPLIT');
  await fill('SPLIT', /^Have 6 sent straight/);
  await expect(page.getByText('6 straight from a supplier')).toBeVisible();
  await line(`short-${run} 2`, 'SHORT');
  await line(`else-${run} 11`, 'ELSE');
  await fill('ELSE', /^Ship from Harbour shop/);
  await expect(page.getByLabel(`${sku('ELSE')} comes from`)).toBeVisible();
  await keys.press('Control+Enter');

  await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Picked 0 of');
  await expect(page.getByText(/8 from TR-\d+ on/)).toBeVisible();
  await expect(page.getByText(/10 from PO-\d+ on/)).toBeVisible();
  await expect(page.getByText('from Harbour shop', { exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: `Why ${sku('SHORT')} is short` })).toBeVisible();
});
