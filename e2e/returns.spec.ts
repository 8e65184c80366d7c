import { expect, test } from './journey';
import { given } from './given';
import { scan, signIn } from './person';

test('two of five serials come back, one to the shelf and one thrown away; they are credited at the price paid, and the rest stays with the customer', async ({
  page,
}) => {
  test.slow();
  await signIn(page);
  const made = given(page);
  const sku = `BACK-${Date.now() % 100_000}`;
  const serials = [1, 2, 3, 4, 5].map((n) => `${sku}-S${n}`);
  const site = await made.site();
  const itemId = await made.item(sku, { salesPrice: '9.00', tracking: 'serial' });
  await made.opening(itemId, site, '5', serials);
  const order = await made.sell('Fenwick', site, itemId, '5');
  const next = (name: RegExp) => page.getByRole('button', { name });
  const coming = page.getByRole('table', { name: 'What comes back' });

  await test.step('it was invoiced', async () => {
    await page.goto(`/books/invoices/new?orders=${order.id}`);
    await next(/^Issue invoice of 45.00 GBP/).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^INV-/);
  });

  await test.step('scanned on the counter: whose it is and on which order is known; another scan is another serial; what nobody has is said', async () => {
    await page.goto('/outbound/returns/new');
    await expect(page.getByLabel('Find what comes back')).toBeVisible();
    await scan(page, serials[1] as string);
    await expect(coming.getByRole('row')).toHaveCount(2);
    await expect(page.getByLabel('Customer', { exact: true })).toHaveValue(/Fenwick/);
    await scan(page, serials[3] as string);
    await expect(coming.getByRole('row')).toHaveCount(3);
    await scan(page, 'NOBODY-HAS-THIS');
    await expect(page.getByText('Nothing that NOBODY-HAS-THIS means is with a customer')).toBeVisible();
  });

  await test.step('why is asked where it belongs; the second is thrown away', async () => {
    await next(/^Take back 2 lines/).click();
    const why = page.getByLabel(new RegExp(`^Why ${sku} ${serials[1] ?? ''}`));
    await expect(why).toBeFocused();
    await why.selectOption('Not wanted any more');
    await page.getByLabel(new RegExp(`^Why ${sku} ${serials[3] ?? ''}`)).selectOption('Faulty');
    await page.getByLabel(new RegExp(`^Condition of ${sku} ${serials[3] ?? ''}`)).selectOption('Thrown away');
    await expect(page.getByText(`2.00 that ${sku} had cost is written off.`)).toBeVisible();
    await next(/^Take back 2 lines/).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^Return RET-\d+$/);
  });

  await test.step('it is credited at the price paid, and then nothing is left to credit', async () => {
    await expect(page.getByRole('region', { name: 'Credit' })).toContainText(`2 of ${sku}`);
    await next(/^Credit INV-/).click();
    await expect(page.getByLabel('How many of line 1')).toHaveValue('2');
    await next(/^Issue credit note of 18.00 GBP/).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^CN-/);
    await page.goto(`/outbound/returns?q=${order.number}`);
    await expect(page.getByRole('row', { name: /RET-/ })).toContainText('received');
  });

  await test.step('three are still with the customer; of the order two came back; it has a receipt', async () => {
    await page.goto(`/outbound/orders/${order.id}`);
    await expect(page.getByRole('table').first()).toContainText('2 came back');
    await page.getByRole('link', { name: 'Goods come back' }).click();
    await expect(page.getByRole('table', { name: 'What they have' }).getByRole('row')).toHaveCount(4);
    await page.goto(`/outbound/returns?q=${order.number}`);
    await page.keyboard.press('ArrowDown');
    await page.getByRole('row', { name: /RET-/ }).dblclick();
    const receipt = await page.request.get((await page.getByRole('link', { name: 'Receipt' }).getAttribute('href')) ?? '');
    expect((await receipt.body()).subarray(0, 5).toString()).toBe('%PDF-');
  });

  await test.step('undone, it waits for the goods again, and can be discarded', async () => {
    await page.getByRole('button', { name: /^Undo RET-/ }).click();
    await page.getByRole('dialog').getByRole('button', { name: /^Undo/ }).click();
    await expect(next(/^Take back 2 lines/)).toBeVisible();
    await page.getByRole('button', { name: 'Discard' }).click();
    await page.goto(`/outbound/returns?q=${order.number}`);
    await expect(page.getByRole('row', { name: /RET-/ })).toContainText('discarded');
  });
});

test('a return is announced, found, and added up in the report', async ({ page }) => {
  await signIn(page);
  const made = given(page);
  const sku = `SOON-${Date.now() % 100_000}`;
  const site = await made.site();
  const itemId = await made.item(sku, { salesPrice: '9.00' });
  await made.opening(itemId, site, '4');
  const order = await made.sell('Fenwick', site, itemId, '4');
  const next = (name: RegExp) => page.getByRole('button', { name });
  await page.goto(`/outbound/returns/new?order=${order.id}`);
  await page.getByRole('button', { name: `Take back ${sku}` }).click();
  const many = page.getByLabel(`How many of ${sku} on ${order.number}`);
  await expect(many).toBeFocused();
  await many.fill('5');
  await page.getByLabel(new RegExp(`^Why ${sku}`)).selectOption('We sent the wrong thing');
  await expect(page.getByText(`Only 4 of ${sku} on ${order.number} line 1 are with this customer.`).first()).toBeVisible();
  await many.fill('3');
  await page.getByRole('button', { name: 'Expect it later' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^Return RET-/);
  await page.goto('/outbound/returns?show=expected');
  await page.getByRole('row', { name: new RegExp(`^RET-.*${sku}`) }).dblclick();
  await next(/^Take back 1 line/).click();
  await expect(page.getByRole('button', { name: /^Undo RET-/ })).toBeVisible();
  await page.goto(`/outbound/returns/report?by=item&q=${sku}`);
  await expect(page.getByRole('row', { name: new RegExp(sku) })).toContainText('6.00');
});
