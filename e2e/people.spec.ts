import { expect, test } from './journey';
import { enterLine, signIn } from './person';

test('the demo says that it is one; a password that is easy to guess is not taken; another session is seen and ended', async ({ page, browser }) => {
  await page.goto('/');
  await expect(page.getByText('This is the demo: its data is made up')).toBeVisible();
  const elsewhere = await browser.newPage({ userAgent: 'Mozilla/5.0 (Android 15; Mobile) Firefox/140.0' });
  await signIn(elsewhere, 'nell@larkmoor.example');
  await signIn(page, 'nell@larkmoor.example');

  await page.getByRole('button', { name: 'Signed in as Nell Bowyer' }).click();
  await page.getByRole('menuitem', { name: 'Password and sessions' }).click();
  await expect(page.getByRole('heading', { name: 'Password and sessions' })).toBeVisible();
  const sessions = page.getByRole('table', { name: 'Sessions' });
  await expect(sessions.getByRole('row').filter({ hasText: 'this one' })).toHaveCount(1);
  await sessions.getByRole('row').filter({ hasText: 'Firefox, Android' }).first().getByRole('button').click();
  await expect(sessions.getByRole('row').filter({ hasText: 'Firefox, Android' })).toHaveCount(0);
  await elsewhere.reload();
  await expect(elsewhere.getByLabel('Mail address')).toBeVisible();

  const form = page.getByRole('form', { name: 'Password' });
  await form.getByLabel('Password you have now').fill('larder-demo');
  await form.getByLabel(/^New password/).fill('nell bowyer 2026');
  await form.getByRole('button', { name: 'Change the password' }).click();
  await expect(form.getByText('This is easy to guess.', { exact: false })).toBeVisible();
  await form.getByLabel('Password you have now').fill('something else');
  await form.getByLabel(/^New password/).fill('six lanterns above the orchard');
  await form.getByRole('button', { name: 'Change the password' }).click();
  await expect(form.getByText('This is not the password you have now.')).toBeVisible();
  await elsewhere.close();
});

test('each is offered what they do: at the sales desk a confirmed order says what happens now, on the floor it is to be picked', async ({ page, browser }) => {
  await signIn(page, 'priya@larkmoor.example');
  await expect(page.getByRole('button', { name: /^Look at the quotes/ })).toBeVisible();
  await page.goto('/outbound/orders/new');
  const customer = page.getByRole('combobox', { name: 'Customer' });
  await customer.pressSequentially('copse', { delay: 45 });
  await expect(page.getByRole('option', { name: 'Copse Lane School' })).toBeVisible();
  await customer.press('Enter');
  await enterLine(page, '2 BKT-15', 'BKT-15');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('region', { name: 'What happens now' })).toContainText('1 line can be picked: whoever is on the floor at');
  await expect(page.getByRole('button', { name: /^Pick/ })).toHaveCount(0);
  await expect(page.getByRole('button', { name: /^Cancel SO-/ })).toBeVisible();

  const floor = await browser.newPage();
  await signIn(floor, 'tom@larkmoor.example');
  await floor.goto(page.url());
  await expect(floor.getByRole('button', { name: /^Pick 1 line/ })).toBeVisible();
  await expect(floor.getByRole('button', { name: /^Cancel SO-/ })).toHaveCount(0);
  await floor.goto('/outbound');
  await expect(floor.getByRole('button', { name: /^Open SO-/ })).toBeVisible();
  await expect(floor.getByRole('link', { name: 'New quote' })).toHaveCount(0);
  await floor.goto('/items');
  await expect(floor.getByRole('button', { name: /^Open / })).toBeVisible();
  await expect(floor.getByRole('button', { name: /^Set up an item/ })).toHaveCount(0);
  await floor.close();
});

test('columns that one has hidden and moved are so on every machine, and nobody else’s are', async ({ page, browser }) => {
  await signIn(page);
  await page.goto('/stock');
  const heads = (of: typeof page) => of.getByRole('table', { name: 'Stock' }).getByRole('columnheader');
  await expect(heads(page).nth(3)).toContainText('Reserved');
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByLabel('Reserved', { exact: true }).click();
  await page.getByRole('button', { name: 'Move Value to the left' }).click();
  await page.keyboard.press('Escape');
  await expect(heads(page)).toContainText(['', 'Item', 'On hand', 'Free', 'On order', 'Value', 'Unit cost']);
  const elsewhere = await browser.newPage();
  await signIn(elsewhere);
  await elsewhere.goto('/stock');
  await expect(heads(elsewhere)).toContainText(['', 'Item', 'On hand', 'Free', 'On order', 'Value', 'Unit cost']);
  await elsewhere.close();
  const other = await browser.newPage();
  await signIn(other, 'wim@larkmoor.example');
  await other.goto('/stock');
  await expect(heads(other).nth(3)).toContainText('Reserved');
  await other.close();
});

test('somebody is let in for one site, works there and nowhere else, and is shut out again', async ({ page, browser }) => {
  await signIn(page);
  await page.goto('/setup?section=people');
  const form = page.getByRole('region', { name: 'New person' });
  await form.getByLabel('Name', { exact: true }).fill('Mabel Orr');
  await form.getByLabel('Mail address').fill('mabel@larkmoor.example');
  await form.getByLabel(/^First password/).fill('mabelmabelmabel');
  await form.getByLabel('Role', { exact: true }).selectOption('Floor');
  await form.getByLabel('At', { exact: true }).selectOption('Harbour shop');
  await expect(form).toContainText(
    'May look at items, stock and orders, receive goods, pick and dispatch, take back what customers return, correct stock, count bins, send goods between sites, move goods between bins, lend things and take them back and record what was used and made.',
  );
  await page.keyboard.press('Control+Enter');
  await expect(form).toContainText('This is easy to guess.');
  await form.getByLabel(/^First password/).fill('three snails under moss');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Mabel Orr can sign in now, with the password you gave.')).toBeVisible();
  const people = page.getByRole('table', { name: 'People' });
  await expect(people.getByRole('row', { name: /Mabel Orr/ })).toContainText('Floor at Harbour shop');

  const hers = await browser.newPage();
  await hers.goto(new URL('/', page.url()).href);
  await hers.getByLabel('Mail address').fill('mabel@larkmoor.example');
  await hers.getByLabel('Password').fill('three snails under moss');
  await hers.keyboard.press('Enter');
  await expect(hers.getByRole('navigation', { name: 'Areas' })).toBeVisible();
  await hers.goto(new URL('/inbound', page.url()).href);
  const orders = hers.getByRole('table', { name: 'Inbound' });
  await expect(orders.or(hers.getByText('Nothing is on order')).first()).toBeVisible();
  await expect(orders.getByText('Barn store')).toHaveCount(0);
  await hers.goto(new URL('/setup', page.url()).href);
  await expect(hers.getByRole('button', { name: 'People', exact: true })).toHaveCount(0);

  await people.getByText('Mabel Orr').click();
  await page.getByRole('button', { name: 'Retire' }).click();
  await expect(page.getByText('Mabel Orr cannot sign in any more.')).toBeVisible();
  await hers.goto(new URL('/stock', page.url()).href);
  await expect(hers.getByLabel('Mail address')).toBeVisible();
  await hers.close();
});
