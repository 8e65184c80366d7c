import { expect, test } from './journey';
import { choose, enterLine, open, paste, signIn } from './person';

test('prices are kept in a list; a phone order is typed by keyboard alone at those prices, a part of it is confirmed, and the rest stays a quote', async ({
  page,
}) => {
  await signIn(page);

  await test.step('a list is made for some customers, and given to one of them with an address of theirs', async () => {
    await page.goto('/outbound/prices/new');
    await expect(page.getByLabel('Name', { exact: true })).toBeFocused();
    await page.keyboard.type('Friends of the house');
    await page.getByLabel('Item to give a price').fill('jar-340-gld');
    await page.getByRole('option', { name: /JAR-340-GLD/ }).click();
    await page.keyboard.type('0.60');
    await page.getByLabel('Item to give a price').fill('jar-340-gld');
    await page.getByRole('option', { name: /JAR-340-GLD/ }).click();
    await page.getByLabel('Price of JAR-340-GLD').nth(1).fill('0.50');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText('Line 1 says another price for the same quantity on some of these days.').first()).toBeVisible();
    await page.getByLabel('From how many JAR-340-GLD').nth(1).fill('96');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('heading', { level: 1, name: 'Friends of the house' })).toBeVisible();
    const { rows } = (await (await page.request.get('/api/setup/parties?as=customer&q=ashby')).json()) as { rows: { id: number }[] };
    await page.goto(`/outbound/customers/${rows[0]?.id}?show=facts`);
    await page.getByLabel('Price list').selectOption({ label: 'Friends of the house' });
    await page.getByRole('button', { name: 'Add an address' }).click();
    await page.keyboard.type('Clubhouse');
    await page.getByLabel('Address there').fill('Ashby Club\nThe clubhouse');
    await page.keyboard.press('Control+s');
    await expect(page.getByText('Ashby Club is saved.')).toBeVisible();
  });

  let quote = '';
  await test.step('the order is typed without the mouse and without Tab: words, codes, a block from a spreadsheet', async () => {
    await open(page, 'new quote');
    await choose(page, 'Customer', 'ashby', 'Ashby Club');
    await expect(page.getByLabel('New line')).toBeFocused();
    await enterLine(page, 'jar-340-gld 48', 'JAR-340-GLD');
    await expect(page.getByLabel('Price of line 1')).toHaveValue('0.60');
    await enterLine(page, '48 jar-340-gld', 'JAR-340-GLD');
    await expect(page.getByLabel('Quantity of line 1')).toHaveValue('96');
    await expect(page.getByLabel('Price of line 1')).toHaveValue('0.50');
    await paste(page, 'BX-12\t8\nVS-10\t2\nno such code\t4');
    await expect(page.getByText('2 lines pasted.')).toBeVisible();
    await expect(page.getByLabel('Pasted lines that are left')).toContainText('no such code');
    await page.getByRole('button', { name: 'Leave them away' }).click();
    await page.getByLabel('Per cent off line 2').fill('10');
    await page.getByLabel('Their number').fill('AC 77');
    await page.getByLabel('Goes to').selectOption({ label: 'Clubhouse' });
    await page.keyboard.press('Control+s');
    await expect(page.getByRole('heading', { level: 1, name: /^SO-/ })).toBeVisible();
    quote = (await page.getByRole('heading', { level: 1 }).innerText()).trim();
  });

  await test.step('a part is confirmed: what is not stays a quote with the same number of theirs', async () => {
    await page.getByRole('button', { name: 'Confirm a part' }).click();
    await page.getByLabel('Of VS-10 confirmed now').fill('0');
    await page.getByRole('button', { name: 'Confirm this part' }).click();
    await expect(page.getByRole('status').filter({ hasText: `${quote} is confirmed; the rest is` })).toBeVisible();
    await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Picked 0 of 104');
    await expect(page.getByText('The clubhouse')).toBeVisible();
    await page.goto('/outbound?show=all&q=AC%2077');
    await expect(page.getByRole('row', { name: /Ashby Club/ })).toHaveCount(2);
  });

  await test.step('a confirmed order is changed, down to what is picked; what that does is seen before', async () => {
    await page.goto('/outbound?show=all&q=AC%2077');
    await page.getByRole('row', { name: new RegExp(quote) }).click();
    await page.keyboard.press('Control+Enter');
    await page.getByRole('link', { name: 'Change' }).click();
    await page.getByLabel('Quantity of BX-12').fill('6');
    await expect(page.getByRole('region', { name: 'What this will change' }).getByRole('row').filter({ hasText: 'reserved' })).toBeVisible();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText(`${quote} is changed.`)).toBeVisible();
    await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Picked 0 of 102');
  });

  await test.step('while nothing is picked it may be a quote again', async () => {
    await page.getByRole('button', { name: 'Back to a quote' }).click();
    await expect(page.getByText('quote: nothing is reserved yet')).toBeVisible();
    await expect(page.getByLabel('Per cent off line 2')).toHaveValue('10');
  });
});

test('a quote that was not saved is offered again after the window was closed', async ({ page }) => {
  await signIn(page);
  await open(page, 'new quote');
  await choose(page, 'Customer', 'penny', 'Penny Lark');
  await enterLine(page, '5 bx-12', 'BX-12');
  await page.evaluate(() => window.addEventListener('beforeunload', (event) => event.stopImmediatePropagation(), true));
  await page.goto('about:blank');
  await page.goto('/outbound/orders/new');
  await page.getByRole('button', { name: 'Go on with it' }).click();
  await expect(page.getByLabel('Quantity of line 1')).toHaveValue('5');
  await expect(page.getByRole('combobox', { name: 'Customer' })).toHaveValue('Penny Lark');
});
