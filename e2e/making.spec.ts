import { given } from './given';
import { expect, test } from './journey';
import { signIn } from './person';

test('what a hive is made of is written down over two levels, costs what its parts cost, and is made as far as they are free; what is missing is ordered', async ({
  page,
}) => {
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const supplierId = await make.supplier('Journey Joinery');
  const part = (sku: string, price: string) => make.item(sku, { purchasePrice: price, suppliers: [{ supplierId, price }] });
  const hive = await make.item('MK-HIVE', { purchasePrice: '70.00' });
  const box = await make.item('MK-BOX', {});
  const board = await part('MK-BOARD', '2.00');
  const roof = await part('MK-ROOF', '9.00');
  for (const [itemId, many] of [
    [board, '50'],
    [roof, '3'],
  ] as const)
    await make.opening(itemId, barn, many);

  // The box first, from the item's own page.
  await page.goto(`/items/${box}?show=making`);
  await page.getByRole('link', { name: 'Say what it is made of' }).click();
  await expect(page.getByText('Makes MK-BOX')).toBeVisible();
  const newPart = page.getByRole('combobox', { name: 'New part' });
  await newPart.pressSequentially('8 mk-board', { delay: 45 });
  await expect(page.getByRole('option', { name: 'MK-BOARD' })).toBeVisible();
  await newPart.press('Enter');
  await expect(page.getByLabel('How many MK-BOARD')).toHaveValue('8');
  await page.getByLabel('Waste of MK-BOARD, per cent on top').fill('25');
  const costs = page.getByRole('region', { name: 'What one costs' });
  // Ten boards at 2.00.
  await expect(costs.getByRole('row', { name: /^Made 20\.00/ })).toBeVisible();
  await page.getByRole('button', { name: 'Add a cost' }).click();
  await page.getByLabel('Cost 1', { exact: true }).fill('Joiner');
  await page.getByLabel('How many of cost 1').fill('0.5');
  await page.getByLabel('Rate of cost 1').fill('18');
  await page.getByLabel('Account of cost 1').selectOption({ label: '5400 Labour put into goods' });
  await expect(costs.getByRole('row', { name: /^Made 29\.00/ })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('What MK-BOX is made of is written down.')).toBeVisible();

  // Then the hive, which takes two of them.
  await page.goto('/making/boms/new');
  const made = page.getByRole('combobox', { name: 'What is made' });
  await made.pressSequentially('mk-hive', { delay: 45 });
  await expect(page.getByRole('option', { name: 'MK-HIVE' })).toBeVisible();
  await made.press('Enter');
  await expect(page.getByText('Makes MK-HIVE')).toBeVisible();
  for (const [words, sku] of [
    ['2 mk-box', 'MK-BOX'],
    ['1 mk-roof', 'MK-ROOF'],
  ] as const) {
    await newPart.click();
    await newPart.pressSequentially(words, { delay: 45 });
    await expect(page.getByRole('option', { name: sku })).toBeVisible();
    await newPart.press('Enter');
    await expect(page.getByLabel(`How many ${sku}`)).toBeFocused();
  }
  await expect(costs.getByRole('row', { name: /^Made 60\.00/ })).toBeVisible();
  await expect(costs.getByRole('row', { name: /^Made costs less by 10\.00/ })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('What MK-HIVE is made of is written down.')).toBeVisible();

  // A board cannot be made of hives.
  await page.goto(`/making/boms/new?item=${board}`);
  await newPart.pressSequentially('mk-hive', { delay: 45 });
  await expect(page.getByRole('option', { name: 'MK-HIVE' })).toBeVisible();
  await newPart.press('Enter');
  await expect(page.getByLabel('How many MK-HIVE')).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(
    page.getByText('MK-BOARD would contain itself: MK-BOARD contains MK-HIVE, which contains MK-BOX, which contains MK-BOARD.').first(),
  ).toBeVisible();

  // Fifty boards make five boxes, so two hives; four want thirty more boards and a roof.
  await page.goto(`/making/can-make?at=${barn}&q=mk-`);
  const rows = page.getByRole('table', { name: 'Can be made' });
  await expect(rows.getByRole('row').filter({ hasText: 'MK-HIVE' })).toContainText(/MK-HIVE.*2MK-BOARD/);
  await page.goto(`/making/items/${hive}?at=${barn}&many=4`);
  const needed = page.getByRole('table', { name: 'Needed' });
  await expect(needed.getByRole('row', { name: /^MK-BOARD/ })).toContainText('30');
  await expect(needed.getByRole('row', { name: /^MK-ROOF/ })).toContainText('from Journey Joinery');
  await page.getByRole('button', { name: /^Order 2 parts/ }).click();
  await page.getByRole('link', { name: /^PO-.*Journey Joinery/ }).click();
  await expect(page.getByRole('link', { name: 'MK-ROOF' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'MK-BOARD' })).toBeVisible();
  // Where it goes stands with the part.
  await page.goto(`/items/${board}?show=making`);
  await expect(page.getByRole('table', { name: 'Goes into' }).getByRole('row', { name: /^MK-HIVE/ })).toContainText('20 in one');
});
