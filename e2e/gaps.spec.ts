import { expect, test } from './journey';
import { given } from './given';
import { choose, enterLine, open, signIn } from './person';
import type { Page } from '@playwright/test';

/** Writes an order for so many of an item and confirms it; answers its number. */
async function confirmed(page: Page, customer: string, named: string, line: string, sku: string): Promise<string> {
  await open(page, 'new quote');
  await choose(page, 'Customer', customer, named);
  await enterLine(page, line, sku);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Picked 0 of');
  return (await page.getByRole('heading', { level: 1 }).innerText()).trim();
}

test('a line that is short is filled from what another order holds, promised for a day, or lets others go first; what came in for it is told on Today', async ({
  page,
}) => {
  await signIn(page);
  const made = given(page);
  const itemId = await made.item('SCARCE-1', { salesPrice: '5.00' });
  await made.opening(itemId, await made.site(), '24');
  const holder = await confirmed(page, 'ashby', 'Ashby Club', 'scarce-1 20', 'SCARCE-1');
  const needy = await confirmed(page, 'brook', 'Brook Street Deli', 'scarce-1 30', 'SCARCE-1');

  await test.step('who holds the stock is told, and gives some of it once its effect is seen', async () => {
    await page.getByRole('button', { name: 'Why SCARCE-1 is short' }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog.getByRole('table', { name: 'Who holds SCARCE-1' })).toContainText(holder);
    await dialog.getByLabel(`${holder} gives`).fill('3');
    await expect(dialog.getByText(`${holder} line 1 becomes short of 3.`)).toBeVisible();
    await dialog.getByRole('button', { name: `Hold 3 for ${needy}` }).click();
    await expect(page.getByText(`${needy} holds 3 more of SCARCE-1.`)).toBeVisible();
    await expect(page.getByRole('region', { name: 'Changes' })).toContainText(`3 of SCARCE-1 from ${holder}`);
  });

  await test.step('it lets others go first, and what it held goes to them', async () => {
    await page.getByRole('button', { name: 'Why SCARCE-1 is short' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Let others go first' }).click();
    await expect(page.getByText('lets others go first', { exact: true })).toBeVisible();
    await page.goto('/outbound?show=all&q=Ashby');
    await page.getByRole('row', { name: new RegExp(holder) }).dblclick();
    await expect(page.getByRole('button', { name: 'all on the shelf' })).toBeVisible();
  });
});

test('lines are dragged into order, one comes from another site, and the order goes out whole', async ({ page }) => {
  await signIn(page);
  await open(page, 'new quote');
  await choose(page, 'Customer', 'ashby', 'Ashby Club');
  await enterLine(page, 'vs-10 2', 'VS-10');
  await enterLine(page, 'jar-340-gld 6', 'JAR-340-GLD');
  const skus = page.getByRole('table', { name: 'Lines' }).locator('[data-index] .code:first-child');
  await expect(skus).toHaveText(['VS-10', 'JAR-340-GLD']);

  await test.step('the second line is dragged before the first', async () => {
    const [first, second] = [page.locator('[data-index="0"]'), page.getByRole('button', { name: 'Move line 2', exact: true })];
    const [to, from] = [await first.boundingBox(), await second.boundingBox()];
    if (!to || !from) throw new Error('The lines are not in sight.');
    await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
    await page.mouse.down();
    await page.mouse.move(from.x + from.width / 2, from.y - 10, { steps: 4 });
    await page.mouse.move(from.x + from.width / 2, to.y + 5, { steps: 6 });
    await page.mouse.up();
    await expect(skus).toHaveText(['JAR-340-GLD', 'VS-10']);
  });

  await test.step('one comes from another site, and is picked there', async () => {
    await page.getByRole('button', { name: 'More for JAR-340-GLD' }).click();
    await page.getByRole('menuitem', { name: 'Another site' }).click();
    await page.getByLabel('JAR-340-GLD comes from').selectOption({ label: 'Harbour shop' });
    await page.getByLabel('Goes out whole, not in parts').check();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText('from Harbour shop')).toBeVisible();
    await expect(page.getByText('goes out whole')).toBeVisible();
    await page.getByRole('button', { name: /^Pick 2 lines/ }).click();
    await expect(page.getByRole('table', { name: 'Pick list' })).toContainText('Harbour shop');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Picked 8 of 8');
  });

  await test.step('a part of it is asked about, the whole goes', async () => {
    await page.getByRole('button', { name: /^Dispatch 2 lines/ }).click();
    await page.getByLabel('Dispatch of VS-10').fill('1');
    await page.getByRole('button', { name: /^Dispatch 2 lines to/ }).click();
    await expect(page.getByRole('button', { name: 'Send the part' })).toBeVisible();
    await page.getByLabel('Dispatch of VS-10').fill('2');
    await page.getByRole('button', { name: /^Dispatch 2 lines to/ }).click();
    await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Dispatched 8 of 8');
  });

  await test.step('its margin stands in the list, by customer too', async () => {
    await page.goto('/outbound/margin?by=customer&q=Ashby');
    await page.getByRole('button', { name: /^Orders of Ashby Club/ }).click();
    await expect(page.getByRole('row', { name: /Ashby Club/ }).first()).toBeVisible();
    await expect(page.getByText('only Ashby Club')).toBeVisible();
  });
});
