import { given } from './given';
import { expect, test } from './journey';
import { signIn } from './person';

test('a sale makes an item low: somebody else is told on screen and by mail, and tops it up by a transfer and a purchase order', async ({
  page,
  browser,
  baseURL,
}) => {
  await signIn(page);
  const make = given(page);
  const [barn, harbour, supplierId] = [await make.site('Barn store'), await make.site('Harbour shop'), await make.supplier('Alder Bindings')];
  const itemId = await make.item('STRAP-9', {
    policies: [
      { siteId: barn, reorderPoint: '5', orderUpTo: '20' },
      { siteId: harbour, reorderPoint: '4', orderUpTo: '10' },
    ],
    suppliers: [{ supplierId, price: '3.00', packSize: '6' }],
  });
  await make.opening(itemId, barn, '9');
  await make.opening(itemId, harbour, '13');

  const other = await browser.newContext({ baseURL: baseURL as string });
  const wim = await other.newPage();
  await signIn(wim, 'wim@larkmoor.example');
  // What was told before is seen.
  await wim.goto('/alerts');
  await expect(wim.getByRole('heading', { name: 'Alerts' })).toBeVisible();
  await expect(wim.getByRole('link', { name: 'Alerts', exact: true })).toBeVisible();

  await wim.goto('/planning/events');
  await make.confirmed('Copse Lane School', barn, itemId, '7');
  await expect(wim.getByRole('link', { name: 'Alerts, 1 new' })).toBeVisible();
  await wim.goto('/alerts');
  await wim.getByRole('link', { name: 'STRAP-9 at Barn store is low: 2 free, reorder at 5' }).click();
  await expect(wim.getByRole('heading', { name: 'Top up' })).toBeVisible();
  // Three are above the harbour's own level: they come first, and the rest is bought in packs of six.
  const brought = wim.getByRole('region', { name: 'From Harbour shop to Barn store' });
  await expect(brought.getByLabel('Order of STRAP-9 for Barn store')).toHaveValue('3');
  const bought = wim.getByRole('region', { name: 'Alder Bindings' });
  await expect(bought.getByLabel('Order of STRAP-9 for Barn store')).toHaveValue('18');
  await brought.getByLabel('Choose STRAP-9 for Barn store').check();
  await bought.getByLabel('Choose STRAP-9 for Barn store').check();
  await wim.getByRole('button', { name: /^Order 2 proposals/ }).click();
  await expect(wim.getByRole('link', { name: /Harbour shop to Barn store/ })).toBeVisible();
  await expect(wim.getByText('Nothing needs topping up.')).toBeVisible();
  await wim.getByRole('link', { name: /Alder Bindings/ }).click();
  await expect(wim.getByText('STRAP-9').first()).toBeVisible();

  await page.goto('/post?q=STRAP-9');
  const letter = page.getByRole('row').filter({ hasText: 'STRAP-9 at Barn store is low: 2 free' });
  await expect(letter).toContainText('wim@larkmoor.example');
  await expect(letter).toContainText('taken in by our own mail server');
  await page.goto('/alerts/all');
  await expect(page.getByRole('row').filter({ hasText: 'STRAP-9 at Barn store' }).filter({ hasText: 'Wim Achter' })).toContainText('mailed');
  await other.close();
});

test('one thing is told in a round-up, and no more of another', async ({ page }) => {
  test.setTimeout(150_000);
  await signIn(page, 'wim@larkmoor.example');
  await page.goto('/alerts/settings?stop=low');
  await page.getByRole('button', { name: /^Stop Low/ }).click();
  await expect(page.getByText('What you are told is kept.')).toBeVisible();
  await page.goto('/alerts/settings');
  await expect(page.getByLabel('Low: I am told')).toHaveValue('no');
  await page.getByLabel('Short for a customer: I am told').selectOption('round-up');
  await page.getByLabel('Short for a customer: by mail too').check();
  await page.getByLabel('Round-up at').fill('25:00');
  await page.getByRole('button', { name: /^Save what I am told/ }).click();
  await expect(page.getByText('Give a time such as 07:30.')).toBeVisible();
  await page.getByLabel('Round-up at').fill('00:00');
  await page.getByRole('button', { name: /^Save what I am told/ }).click();
  await expect(page.getByText('What you are told is kept.')).toBeVisible();
  await page.goto('/alerts');
  // It goes out within a minute, with all that is so then.
  await expect(page.getByRole('link', { name: /^Round-up: \d+ things? to look at/ })).toBeVisible({ timeout: 100_000 });
  await page.goto('/post?q=Round-up');
  await expect(page.getByRole('row').filter({ hasText: 'Round-up' }).first()).toContainText('taken in');
});

test('a suggestion is looked at with its back-test, taken, and another refused with why', async ({ page }) => {
  await signIn(page);
  await page.goto('/planning/levels?q=FD-25');
  const row = page.getByRole('row').filter({ hasText: 'FD-25' }).filter({ hasText: 'Barn store' });
  await row.dblclick();
  await expect(page.getByRole('img', { name: /are expected next week/ })).toBeVisible();
  const tried = page.getByRole('table', { name: 'Ways of forecasting, tried on the past' });
  await expect(tried.getByRole('row').filter({ hasText: 'Season and trend' })).toContainText('%');
  await expect(page.getByText(/days of Larkmoor honey show do not count/)).toBeVisible();
  const upTo = await page.getByLabel('Order up to').inputValue();
  await page.getByLabel('Reorder point').fill(upTo);
  await page.getByRole('button', { name: /^Set / }).click();
  await expect(page.getByText('Order up to more than the reorder point.').first()).toBeVisible();
  await page.getByLabel('Reorder point').fill('40');
  await page.getByRole('button', { name: new RegExp(`^Set 40 and ${upTo}`) }).click();
  await expect(page.getByText(`FD-25 at Barn store: reorder at 40, up to ${upTo}.`)).toBeVisible();
  await page.goto('/planning/levels?q=FD-25&state=all');
  await expect(row).toContainText(`40, up to ${upTo}`);
  await expect(row).toContainText('changed');

  await page.goto('/planning/levels?q=JAR-114&state=differs');
  const jar = page.getByRole('row').filter({ hasText: 'JAR-114' }).first();
  await jar.getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Refuse…' }).click();
  await page.getByRole('button', { name: 'Refuse', exact: true }).click();
  await expect(page.getByText('This must be filled.').first()).toBeVisible();
  await page.getByLabel('Why').fill('The van takes what is left.');
  await page.getByRole('button', { name: 'Refuse', exact: true }).click();
  await expect(page.getByText(/^Refused what is suggested for JAR-114/)).toBeVisible();
  await page.goto('/planning/levels?state=refused');
  await expect(page.getByRole('row').filter({ hasText: 'The van takes what is left.' })).toBeVisible();
});

test('an event is marked, and the past is looked at anew', async ({ page }) => {
  await signIn(page);
  await page.goto('/planning/events');
  await page.getByLabel('Name').fill('Harbour fair');
  await page.getByLabel('From', { exact: true }).fill('-20');
  await page.getByLabel('To', { exact: true }).fill('-21');
  await page.getByRole('button', { name: /^Add the event/ }).click();
  await expect(page.getByText('It ends before it begins.')).toBeVisible();
  await page.getByLabel('To', { exact: true }).fill('-19');
  await page.getByRole('button', { name: /^Add the event/ }).click();
  await expect(page.getByRole('row').filter({ hasText: 'Harbour fair' })).toContainText('all items at all sites');
  await page.goto('/planning/levels');
  await page.getByRole('button', { name: 'Look at the past anew' }).click();
  await expect(page.getByText(/asked by Ines Marlow/)).toBeVisible();
});

test('what runs low is narrowed down, kept for everybody, and taken out with chosen fields', async ({ page, browser, baseURL }) => {
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  await make.item('RUNLOW-1', { policies: [{ siteId: barn, reorderPoint: '3', orderUpTo: '9' }] });
  await page.goto('/planning/low?q=RUNLOW');
  const row = page.getByRole('row').filter({ hasText: 'RUNLOW-1' });
  await expect(row).toContainText('out');
  await page.getByRole('button', { name: 'Out', exact: true }).click();
  await expect(row).toBeVisible();
  await page.getByRole('button', { name: /^Kept filters/ }).click();
  const dialog = page.getByRole('dialog', { name: 'Kept filters' });
  await dialog.getByLabel('Keep these filters and columns as').fill('Nothing left');
  await dialog.getByLabel('For everybody').check();
  await dialog.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(dialog.getByText('for all')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Export', exact: true }).click();
  const download = page.waitForEvent('download');
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Export/ })
    .click();
  expect((await download).suggestedFilename()).toBe('running low.csv');

  const other = await (await browser.newContext({ baseURL: baseURL as string })).newPage();
  await signIn(other, 'wim@larkmoor.example');
  await other.goto('/planning/low');
  await other.getByRole('button', { name: /^Kept filters/ }).click();
  const theirs = other.getByRole('dialog', { name: 'Kept filters' });
  await expect(theirs.getByText('from Ines Marlow')).toBeVisible();
  await theirs.getByRole('link', { name: 'Nothing left' }).click();
  await other.keyboard.press('Escape');
  await expect(other.getByRole('row').filter({ hasText: 'RUNLOW-1' })).toBeVisible();
  await other.close();
});
