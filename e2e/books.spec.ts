import { execFileSync } from 'node:child_process';
import { existsSync, writeFileSync } from 'node:fs';
import { expect, test, type Page } from './journey';
import { given } from './given';
import { choose, signIn } from './person';

const able = existsSync('/usr/bin/hledger');
const row = (page: Page, name: string) => page.getByRole('row').filter({ hasText: name });

test('a container’s charges are estimated, one line left out, billed above and below, and the clearing account stands at nothing', async ({ page }) => {
  await signIn(page);
  await page.goto('/books/clearing');
  for (const name of ['Freight', 'Transport insurance']) await page.getByRole('checkbox', { name: `Choose ${name} of LC-1002` }).check();
  await page.getByRole('button', { name: /Enter the bill for these/ }).click();
  await expect(page.getByRole('heading', { name: 'Enter a bill' })).toBeVisible();
  const billed = (name: string) => page.getByLabel(`Billed for ${name}, LC-1002`);
  await expect(billed('Freight')).toHaveValue('518.40');
  await billed('Freight').fill('530.00');
  await billed('Transport insurance').fill('');
  await page.getByLabel('Their number').fill('QF-9001');
  const will = page.getByRole('region', { name: 'What this will change' });
  await expect(will.getByText('518.40 of estimated charges are cleared.')).toBeVisible();
  await expect(will.getByText('Charges came to 11.60 more than estimated')).toBeVisible();
  await page.getByRole('button', { name: /Post bill of 530.00/ }).click();
  await expect(page.getByRole('heading', { name: /BILL-/ })).toBeVisible();

  await page.goto('/books/clearing');
  await expect(row(page, 'Transport insurance')).toContainText('61.75');
  await expect(row(page, 'Freight')).toHaveCount(0);
  await page.getByRole('checkbox', { name: 'Choose Transport insurance of LC-1002' }).check();
  await page.getByRole('button', { name: /Enter the bill for these/ }).click();
  await page.getByLabel('Billed for Transport insurance, LC-1002').fill('60.00');
  await page.getByLabel('No more bills for Transport insurance, LC-1002').check();
  await page.getByLabel('Their number').fill('CU-77');
  await expect(page.getByText('1.75 below the estimate: landed cost variance')).toBeVisible();
  await page.getByRole('button', { name: /Post bill of 60.00/ }).click();
  await expect(page.getByRole('heading', { name: /BILL-/ })).toBeVisible();
  await page.goto('/books/clearing');
  await expect(page.getByText('the account stands at zero')).toBeVisible();

  // The supplier's own bill, the veils dearer than ordered; half of it is paid.
  await page.goto('/books/bills/new');
  await choose(page, 'From', 'isker', 'Isker Hive Works');
  await page.getByLabel('Their number').fill('IHW-1');
  await page.getByLabel(/^Price, PO-\d+ VEIL-RND$/).fill('7.65');
  await expect(page.getByText('0.30 more for each than ordered, 72.00 in all')).toBeVisible();
  await page.getByRole('button', { name: /Post bill of/ }).click();
  await expect(page.getByRole('region', { name: 'What this did' })).toContainText('Stock is worth 72.00 more.');
  await page.getByLabel('Amount, GBP').fill('500.00');
  await page.getByRole('button', { name: /Record payment of 500.00/ }).click();
  await expect(page.getByText(/part paid/)).toBeVisible();
  await page.getByLabel('Amount, GBP').fill('5000.00');
  await page.getByRole('button', { name: /Record payment of 5000.00/ }).click();
  await expect(page.getByText(/Pay 5000.00 all the same\?/).first()).toBeVisible();
});

test('a new worksheet: freight by weight asks what one weighs, duty leaves a line out, and it can be undone', async ({ page }) => {
  await signIn(page);
  await page.goto('/books/landed?q=fernhill');
  await page
    .getByRole('checkbox', { name: /Choose the receipt of PO-/ })
    .first()
    .check();
  await page.getByRole('button', { name: /Start a landed cost worksheet/ }).click();
  await page.getByLabel('Amount').fill('24.00');
  await page.getByLabel('Spread').selectOption('weight');
  const weight = page.getByLabel(/^Weight of /);
  await expect(weight.first()).toBeVisible();
  for (let left = await weight.count(); left > 0; left -= 1) {
    await weight.first().fill('1.2');
    await page.getByRole('button', { name: 'Keep' }).first().click();
    await expect(weight).toHaveCount(left - 1);
  }
  await expect(page.getByText('24.00 of charges are expected from bills to come.')).toBeVisible();
  await page.getByRole('button', { name: /Post 24.00 of charges/ }).click();
  await expect(page.getByRole('heading', { name: /^LC-/ })).toBeVisible();
  await page.getByLabel('Amount').fill('30.00');
  await Promise.all([
    page.waitForResponse((answer) => answer.request().method() !== 'GET' && answer.url().includes('/api/landed/sheets/') && !answer.url().includes('preview')),
    page.getByRole('button', { name: /Post the changes of LC-/ }).click(),
  ]);
  const sheet = (await page.getByRole('heading', { name: /^LC-/ }).textContent()) ?? '';
  await page.goto('/books/clearing');
  await expect(page.getByRole('region', { name: sheet })).toContainText('30.00');
  await page.getByRole('link', { name: sheet }).click();
  await page.getByRole('button', { name: /^Undo LC-/ }).click();
  await expect(page.getByText('It was undone; nothing of it stands.')).toBeVisible();
});

test('two receipts of six kinds: freight by weight, handling by volume, duty by value with two left out; a bill at other prices; two later bills, and nothing stays open', async ({
  page,
}) => {
  await signIn(page);
  const { supplier, site, item, order, receive } = given(page);
  const run = Date.now().toString(36).toUpperCase();
  const name = `Tollgate Imports ${run}`;
  const [supplierId, siteId] = [await supplier(name), await site()];
  const kinds: [string, string, string, string, string][] = [
    ['A', '10', '10.00', '1', '10'],
    ['B', '20', '5.00', '0.5', '10'],
    ['C', '5', '40.00', '4', '60'],
    ['D', '50', '1.00', '0.1', '2'],
    ['E', '10', '20.00', '3', '20'],
    ['F', '25', '2.00', '1', '4'],
  ];
  const lines = [];
  for (const [letter, quantity, price, weightKg, lengthCm] of kinds)
    lines.push({ quantity, price, itemId: await item(`${run}-${letter}`, { weightKg, lengthCm, widthCm: '10', heightCm: '10', purchasePrice: price }) });
  for (const half of [lines.slice(0, 3), lines.slice(3)])
    await receive(
      await order(supplierId, siteId, half),
      siteId,
      half.map(({ quantity }) => quantity),
    );

  await page.goto(`/books/landed?q=${run}`);
  const receipts = page.getByRole('checkbox', { name: /Choose the receipt of PO-/ });
  await expect(receipts).toHaveCount(2);
  for (const at of [0, 1]) await receipts.nth(at).check();
  await page.getByRole('button', { name: /Start a landed cost worksheet/ }).click();
  const charges: [string, string, string][] = [
    ['Freight', '200.00', 'weight'],
    ['Handling', '50.00', 'volume'],
    ['Duty', '60.00', 'value'],
  ];
  for (const [index, [charge, amount, way]] of charges.entries()) {
    if (index > 0) await page.getByRole('button', { name: 'Add a charge' }).click();
    const card = page.getByRole('group', { name: `Charge ${index + 1}` });
    await card.getByLabel('Charge', { exact: true }).fill(charge);
    await card.getByLabel('Amount').fill(amount);
    await card.getByLabel('Spread').selectOption(way);
  }
  for (const letter of ['D', 'F']) await page.getByRole('checkbox', { name: `Duty falls on ${run}-${letter}` }).uncheck();
  for (const [letter, unitCost] of [
    ['A', '13.50'],
    ['C', '55.00'],
    ['F', '4.20'],
  ])
    await expect(row(page, `${run}-${letter}`)).toContainText(unitCost as string);
  await page.getByRole('button', { name: /Post 310.00 of charges/ }).click();
  await expect(page.getByRole('heading', { name: /^LC-/ })).toBeVisible();
  const sheet = (await page.getByRole('heading', { name: /^LC-/ }).textContent()) ?? '';

  await page.goto('/books/bills/new');
  await choose(page, 'From', run.toLowerCase(), name);
  await page.getByLabel('Their number').fill('T-1');
  await page.getByLabel(new RegExp(`^Price, PO-\\d+ ${run}-A$`)).fill('11.00');
  await expect(page.getByText('1.00 more for each than ordered, 10.00 in all')).toBeVisible();
  await page.getByRole('button', { name: /Post bill of 710.00/ }).click();
  await expect(page.getByRole('region', { name: 'What this did' })).toContainText('Stock is worth 10.00 more.');

  const later = async (chosen: string[], billed: string, number: string, words: string) => {
    await page.goto('/books/clearing');
    for (const charge of chosen) await page.getByRole('checkbox', { name: `Choose ${charge} of ${sheet}` }).check();
    await page.getByRole('button', { name: /Enter the bill for these/ }).click();
    await choose(page, 'From', run.toLowerCase(), name);
    await page.getByLabel('Their number').fill(number);
    await page.getByLabel(`Billed for ${chosen[0] ?? ''}, ${sheet}`).fill(billed);
    await page.getByLabel(`No more bills for ${chosen[0] ?? ''}, ${sheet}`).check();
    await expect(page.getByText(words)).toBeVisible();
    await page.getByRole('button', { name: /Post bill of/ }).click();
    await expect(page.getByRole('heading', { name: /BILL-/ })).toBeVisible();
  };
  await later(['Freight', 'Handling'], '215.00', 'T-2', '15.00 above the estimate: landed cost variance');
  await later(['Duty'], '55.00', 'T-3', '5.00 below the estimate: landed cost variance');
  await page.goto('/books/clearing');
  await expect(page.getByRole('heading', { name: 'Books' })).toBeVisible();
  await expect(page.getByRole('checkbox', { name: new RegExp(`of ${sheet}$`) })).toHaveCount(0);
});

test('some went back, and all is billed: a credit is expected and comes; undoing what a count contains asks', async ({ page }) => {
  await signIn(page);
  const { supplier, site, item, order, receive } = given(page);
  const run = Date.now().toString(36).toUpperCase();
  const [supplierId, siteId] = [await supplier(`Sallow Crates ${run}`), await site()];
  const itemId = await item(`${run}-C`, {});
  const placed = await order(supplierId, siteId, [{ itemId, quantity: '10', price: '10.00' }]);
  await receive(placed, siteId, ['10']);

  await page.goto(`/inbound/orders/${placed.id}/return`);
  await page.getByLabel('Why it goes back').fill('split');
  await page.getByLabel(new RegExp(`Goes back, ${run}-C`)).fill('2');
  await page.getByRole('button', { name: 'A credit is expected' }).click();
  await page.getByRole('button', { name: /Send back 1 line/ }).click();
  await expect(page.getByRole('heading', { name: placed.number })).toBeVisible();
  await expect(page.getByRole('main')).toContainText('2 cancelled');

  await page.getByRole('link', { name: 'Enter its bill' }).click();
  await page.getByLabel('Their number').fill('SC-1');
  await page.getByLabel(new RegExp(`Billed now, .* ${run}-C`)).fill('10');
  await expect(page.getByRole('region', { name: 'What this will change' })).toContainText('20.00 is to be credited by the supplier');
  await page.getByRole('button', { name: /Post bill of/ }).click();
  await page.getByRole('button', { name: 'Bill all, and expect a credit' }).click();
  await expect(page.getByRole('region', { name: 'What this did' })).toContainText('80.00 of goods received are now billed.');

  await page.goto(`/stock/correction?item=${itemId}`);
  await page.getByLabel('Reason').selectOption({ label: 'Counted wrong before' });
  const line = page.getByRole('row').filter({ hasText: `${run}-C` });
  await line.getByLabel(/now/i).fill('8');
  await page.getByRole('button', { name: /^Correct 1 line/ }).click();
  await expect(page.getByText('agreed: nothing is posted')).toBeVisible();
  await page.goto(`/stock/trail?item=${itemId}`);
  await page.getByRole('button', { name: /^Undo the supplier return/ }).click();
  await expect(page.getByText(/that count of .* contains this already/)).toBeVisible();
  await page.getByRole('button', { name: 'Undo it all the same' }).click();
  await expect(page.getByRole('dialog')).toContainText('on hand');
  await page.getByRole('button', { name: 'Leave it' }).click();
});

(able ? test : test.skip)(
  'the whole journal is accepted by hledger, and its inventory, what customers owe and sales are ours to the cent',
  async ({ page }, info) => {
    await signIn(page);
    const file = info.outputPath('journal.txt');
    writeFileSync(file, await (await page.request.get('/api/books/journal/file?format=journal')).body());
    execFileSync('hledger', ['-f', file, 'check', '--strict']);
    const { rows } = (await (await page.request.get('/api/books/accounts')).json()) as { rows: { code: string; balance: string }[] };
    for (const [name, account] of [
      ['assets:1200', '1200'],
      ['assets:1100', '1100'],
      ['revenues:4000', '4000'],
      ['liabilities:2200', '2200'],
    ] as const) {
      const balance = execFileSync('hledger', ['-f', file, 'balance', name, '--no-total', '--commodity-style', '1000.00 GBP'], { encoding: 'utf8' });
      const ours = Number(rows.find(({ code }) => code === account)?.balance);
      expect([account, Number(/-?[\d,.]+/.exec(balance)?.[0].replaceAll(',', ''))]).toEqual([account, ours]);
      expect(ours).not.toBe(0);
    }
  },
);

test('the journal goes to the accounting service once, one entry is taken back and sent again, and both sides agree', async ({ page }) => {
  await signIn(page);
  await page.goto('/books/handover');
  const waits = page.getByRole('region', { name: 'What waits' });
  await expect(waits).toContainText('entries wait');
  // What stands on an account without one there stays until it has one: other costs on bills get theirs here.
  await page.getByLabel('Theirs for 6200 Other costs on bills').selectOption('5100 Materials used in the business');
  await expect(waits).toContainText('All of them can be handed over.');
  await page.getByRole('button', { name: /^Hand over \d+ entries/ }).click();
  await expect(waits).toContainText('Everything was handed over.');
  await expect(page.getByRole('button', { name: /^Hand over 0 entries/ })).toBeDisabled();
  const gone = page.getByRole('region', { name: 'Handed over' });
  const first = await gone.locator('.code').first().innerText();
  await page.getByRole('button', { name: `Take ${first} back` }).click();
  await expect(waits).toContainText('1 entry waits');
  await page.getByRole('button', { name: 'Compare both sides' }).click();
  const both = page.getByRole('region', { name: 'Both sides' });
  await expect(both).toContainText(/agree on [\d\s]+ documents/);
  await page.keyboard.press('Control+Enter');
  await expect(waits).toContainText('Everything was handed over.');
  await expect(both).toContainText(/agree on [\d\s]+ documents/);
  await expect(gone).toContainText('taken back');
});
