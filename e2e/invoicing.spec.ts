import { expect, test } from './journey';
import { given } from './given';
import { signIn } from './person';

test('what went out in two dispatches is invoiced, paid in part and too much, paid back, and one of it credited', async ({ page }) => {
  test.slow();
  await signIn(page);
  const made = given(page);
  const sku = `BILLED-${Date.now() % 100_000}`;
  const site = await made.site();
  const itemId = await made.item(sku, { salesPrice: '9.00' });
  await made.opening(itemId, site, '5');
  const order = await made.confirmed('Fenwick', site, itemId, '5');
  const next = (name: RegExp) => page.getByRole('button', { name });

  await test.step('two of it go out, then three', async () => {
    for (const [many, picked] of [
      ['2', '2'],
      ['3', '5'],
    ] as const) {
      await page.goto(`/outbound/orders/${order.id}`);
      await next(/^Pick 1 line/).click();
      await page
        .getByLabel(new RegExp(`of ${sku}`))
        .first()
        .fill(many);
      await next(/^Put 1 line on the bench/).click();
      // Its steps move in the bar as what lies on the bench comes in.
      await expect(page.getByRole('list', { name: 'Stages' })).toContainText(`Picked ${picked} of 5`);
      await expect(next(/^Pack/)).toBeVisible();
      await next(/^Dispatch 1 line/).click();
      await next(/^Dispatch 1 line/).click();
      await expect(page.getByRole('region', { name: 'Postings' })).toContainText(`dispatch of ${many}`);
    }
  });

  await test.step('it is to be invoiced, and the order leads there', async () => {
    await page.goto(`/outbound/to-invoice?q=${order.number}`);
    await expect(page.getByRole('row', { name: new RegExp(order.number) })).toContainText('45.00 GBP');
    await page.goto(`/outbound/orders/${order.id}`);
    await next(new RegExp(`^Invoice ${order.number}`)).click();
    await expect(page.getByRole('heading', { name: 'New invoice' })).toBeVisible();
    await expect(next(/^Issue invoice of 45.00 GBP/)).toBeEnabled();
  });

  await test.step('one dispatch is left out, words and a charge are changed; an empty charge is said where it stands', async () => {
    await page
      .getByRole('checkbox', { name: new RegExp(order.number) })
      .nth(1)
      .uncheck();
    await expect(next(/^Issue invoice of 18.00 GBP/)).toBeEnabled();
    await page.getByLabel(`Words for ${sku}`).fill('As agreed on the phone');
    await page.getByRole('button', { name: 'Add a charge' }).click();
    await page.getByLabel('What charge 1 is for').fill('Gift wrapping');
    await next(/^Issue invoice/).click();
    await expect(page.getByLabel('Amount of charge 1')).toBeFocused();
    await page.getByLabel('Amount of charge 1').fill('2.50');
    await next(/^Issue invoice of 20.50 GBP/).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^INV-\d+$/);
    await expect(page.getByRole('table', { name: 'Lines' })).toContainText('As agreed on the phone');
  });

  const number = (await page.getByRole('heading', { level: 1 }).textContent()) ?? '';
  await test.step('it is a PDF, and noted as handed over', async () => {
    const link = await page.getByRole('link', { name: 'PDF' }).getAttribute('href');
    const paper = await page.request.get(link ?? '');
    expect((await paper.body()).subarray(0, 5).toString()).toBe('%PDF-');
    await page.getByRole('button', { name: 'Handed over without mail' }).click();
    await expect(page.getByRole('region', { name: 'About it' })).toContainText('Handed over');
  });

  await test.step('it is paid in part, then too much, which is asked; what is too much is paid back', async () => {
    await page.getByLabel('Amount, GBP').fill('10');
    await next(/^Record payment of 10/).click();
    await expect(next(/^Record payment of 10.50/)).toBeEnabled();
    await page.getByLabel('Amount, GBP').fill('12.50');
    await next(/^Record payment of 12.50/).click();
    await page.getByRole('button', { name: 'Record more than is open' }).click();
    await expect(page.getByText('to pay back')).toBeVisible();
    await next(/^Record money back of 2.00/).click();
    await expect(page.getByRole('region', { name: 'Payments' })).toContainText('-2.00');
    await expect(page.getByText('paid', { exact: true })).toBeVisible();
  });

  await test.step('one is credited: that is owed to the customer', async () => {
    await page.getByRole('link', { name: 'Credit' }).click();
    await page.getByLabel('How many of line 1').fill('3');
    await expect(page.getByRole('alert').filter({ hasText: 'Only 2 of it are left to credit.' })).toBeVisible();
    await page.getByLabel('How many of line 1').fill('1');
    await page.getByLabel('Why').fill('One was broken.');
    await next(/^Issue credit note of 9.00 GBP/).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^CN-\d+$/);
    await page.getByRole('link', { name: number }).click();
    await expect(page.getByText('to pay back')).toBeVisible();
  });

  await test.step('the account of the customer tells all of it', async () => {
    await page.getByRole('link', { name: /^Account of/ }).click();
    const account = page.getByRole('table', { name: 'Account' });
    await expect(account.getByRole('row', { name: new RegExp(number) })).toContainText('20.50');
    await expect(account).toContainText('Paid back');
    await expect(page.getByRole('table', { name: 'Open invoices' }).getByRole('row', { name: new RegExp(number) })).toContainText('-9.00');
  });
});

test('orders of several customers are invoiced at once, one for each', async ({ page }) => {
  await signIn(page);
  const made = given(page);
  const sku = `EACH-${Date.now() % 100_000}`;
  const site = await made.site();
  const itemId = await made.item(sku, { salesPrice: '9.00' });
  await made.opening(itemId, site, '3');
  const orders = [await made.confirmed('Hazel Court', site, itemId, '1'), await made.confirmed('Cider Loft', site, itemId, '2')];
  for (const order of orders) {
    await page.goto(`/outbound/orders/${order.id}`);
    await page.getByRole('button', { name: /^Pick 1 line/ }).click();
    await page.getByRole('button', { name: /^Put 1 line on the bench/ }).click();
    await page.getByRole('button', { name: /^Dispatch 1 line/ }).click();
    await page.getByRole('button', { name: /^Dispatch 1 line/ }).click();
    await expect(page.getByRole('button', { name: new RegExp(`^Invoice ${order.number}`) })).toBeVisible();
  }
  await page.goto(`/books/invoices/new?orders=${orders.map(({ id }) => id).join(',')}`);
  await expect(page.getByRole('table', { name: 'What is issued' })).toContainText('Cider Loft');
  await page.getByRole('button', { name: /^Issue 2 invoices/ }).click();
  await expect(page.getByRole('status').filter({ hasText: '2 invoices issued.' })).toBeVisible();
  await page.goto('/books/debtors?q=cider');
  await expect(page.getByRole('row', { name: /Cider Loft/ })).toBeVisible();
});
