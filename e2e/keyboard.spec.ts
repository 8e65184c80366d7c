import { expect, test, type Page } from './journey';

const sku = 'KEYED-1';

/** A person who has no mouse; `tabs` tells how often they had to press Tab. */
function hands(page: Page) {
  let tabs = 0;
  const type = (text: string) => page.keyboard.type(text, { delay: 60 });
  const press = async (key: string) => {
    if (/(^|\+)Tab$/.test(key)) tabs += 1;
    await page.keyboard.press(key);
  };
  /** Goes to a page by its words in the scan bar, from wherever one is. */
  const go = async (words: string) => {
    await press('Control+/');
    await expect(page.getByRole('combobox', { name: 'Scan bar' })).toBeFocused();
    await type(words);
    await press('Enter');
  };
  /** Types letters where the focus is, and takes the first that fits. */
  const take = async (letters: string, option: string) => {
    await type(letters);
    await expect(page.getByRole('option', { name: option }).first()).toBeVisible();
    await press('Enter');
  };
  const isAt = (label: string | RegExp) => expect(page.getByLabel(label).first()).toBeFocused();
  return { type, press, go, take, isAt, tabs: () => tabs };
}

test('a whole morning by keyboard alone: the focus is where the next thing is typed', async ({ page }) => {
  const { type, press, go, take, isAt, tabs } = hands(page);
  const stages = page.getByRole('list', { name: 'Stages' });

  await test.step('signing in', async () => {
    await page.goto('/');
    await isAt('Mail address');
    await type('ines@larkmoor.example');
    await press('Enter');
    await isAt('Password');
    await type('larder-demo');
    await press('Enter');
    await expect(page.getByRole('navigation', { name: 'Areas' })).toBeVisible();
  });

  await test.step('an item: what is missing has the focus', async () => {
    await go('new item');
    await isAt('SKU');
    await type(sku);
    await press('Control+Enter');
    await isAt('Name');
    await type('Bee brush, keyed');
    await press('Control+Enter');
    await expect(page.getByRole('heading', { name: 'Bee brush, keyed' })).toBeVisible();
  });

  await test.step('an order: the supplier, then its lines', async () => {
    await go('new purchase order');
    await isAt('Supplier');
    await take('hexl', 'Hexley Joinery');
    await isAt('New line');
    await take(`6 ${sku}`, sku);
    await isAt('New line');
    await press('Control+Enter');
    await expect(stages).toContainText('Received 0 of 6');
  });

  await test.step('a receipt: three are scanned', async () => {
    await press('Control+Enter');
    await expect(page.getByRole('heading', { name: 'Receiving desk' })).toBeVisible();
    for (const many of ['1', '2', '3']) {
      await press('Control+/');
      await type(sku);
      await press('Enter');
      await expect(page.getByLabel(new RegExp(`^Quantity of ${sku}`))).toHaveValue(many);
    }
    await press('Control+Enter');
    await expect(page.getByText('Received 1 line.')).toBeVisible();
  });

  await test.step('a quote, its pick and its dispatch', async () => {
    await go('new quote');
    await isAt('Customer');
    await take('copse', 'Copse Lane School');
    await isAt('New line');
    await take(`2 ${sku}`, sku);
    await press('Control+Enter');
    await expect(
      page
        .getByRole('alert')
        .filter({ hasText: `${sku} costs the customer nothing.` })
        .first(),
    ).toBeVisible();
    await isAt('Price of line 1');
    await type('9.50');
    await press('Control+Enter');
    await expect(stages).toContainText('Picked 0 of 2');
    await expect(page.getByRole('button', { name: 'Pick 1 line Ctrl Enter' })).toBeVisible();
    await press('Control+Enter');
    await expect(page.getByRole('region', { name: 'What picking will change' })).toContainText('on the bench');
    await press('Control+Enter');
    await expect(stages).toContainText('Picked 2 of 2');
    await expect(page.getByRole('button', { name: 'Pack 1 line Ctrl Enter' })).toBeVisible();
    await press('Control+Enter');
    await expect(page.getByRole('button', { name: 'Pack 1 parcel Ctrl Enter' })).toBeVisible();
    await press('Control+Enter');
    await expect(page.getByRole('button', { name: 'Send 1 parcel Ctrl Enter' })).toBeVisible();
    await press('Control+Enter');
    await expect(page.getByRole('button', { name: 'Dispatch 1 parcel with own van Ctrl Enter' })).toBeVisible();
    await expect(page.getByRole('region', { name: 'What dispatching will change' })).toContainText('on the bench');
    await press('Control+Enter');
    await expect(stages).toContainText('Dispatched 2 of 2');
  });

  await test.step('a correction: the reason is asked where it is missing', async () => {
    await go('correct stock');
    await isAt('New line');
    await take(sku, sku);
    await isAt(`There are now of ${sku}`);
    await expect(page.getByRole('row').filter({ hasText: 'Bee brush, keyed' })).toContainText('1');
    await type('4');
    await press('Control+Enter');
    await isAt('Reason');
    await type('Fo');
    await expect(page.getByLabel('Reason').locator('option:checked')).toHaveText('Found');
    await expect(page.getByRole('region', { name: 'What this will change' }).getByRole('row').filter({ hasText: 'on hand' })).toContainText(/1\s*4/);
    await press('Control+Enter');
    await expect(page.getByText('Corrected 1 line.')).toBeVisible();
    await isAt('New line');
  });

  await test.step('a bill: what came stands ready', async () => {
    await go('enter a bill');
    await isAt('From');
    await take('hexl', 'Hexley Joinery');
    await isAt('Their number');
    await type('KEYED-B1');
    await expect(page.getByRole('row').filter({ hasText: sku }).getByRole('textbox').first()).toHaveValue('3');
    await expect(page.getByRole('button', { name: /^Post bill of/ })).toBeEnabled();
    await press('Control+Enter');
    await expect(page.getByRole('heading', { level: 1 })).toContainText('BILL-');
  });

  expect(tabs()).toBe(0);
});
