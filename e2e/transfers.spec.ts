import { expect, test } from './journey';
import { given } from './given';
import { open, scan, signIn } from './person';

test('five items go from one site to another by two people: chosen from the stock table, sent with one piece fewer by scan, received short, and what is missing is explained', async ({
  page,
  browser,
  baseURL,
}) => {
  await signIn(page);
  const made = given(page);
  const run = `${Date.now() % 100_000}`;
  const [barn, skus] = [await made.site(), ['A', 'B', 'C', 'D', 'E'].map((letter) => `MOVE-${run}-${letter}`)];
  for (const sku of skus) await made.opening(await made.item(sku, { salesPrice: '4.00' }), barn, '6');
  const there = await browser.newContext({ ...(baseURL === undefined ? {} : { baseURL }), viewport: { width: 390, height: 844 }, hasTouch: true });
  const phone = await there.newPage();
  await signIn(phone, 'wim@larkmoor.example');

  await test.step('five items are chosen, and one rule fills them all', async () => {
    await page.goto(`/stock?q=MOVE-${run}`);
    for (const sku of skus) await page.getByRole('checkbox', { name: `Choose ${sku}` }).check();
    await page.getByRole('link', { name: 'Transfer 5 items' }).click();
    await page.getByRole('combobox', { name: 'From', exact: true }).selectOption({ label: 'Barn store' });
    await page.getByRole('combobox', { name: 'To', exact: true }).selectOption({ label: 'Harbour shop' });
    await page.getByRole('button', { name: 'Fill the quantity of all lines' }).click();
    await page.getByRole('menuitem', { name: 'All that is free there' }).click();
    for (const sku of skus) await expect(page.getByRole('textbox', { name: `Goes of ${sku}` })).toHaveValue('6');
    await page.getByRole('textbox', { name: `Goes of ${skus[4] as string}` }).fill('2');
    await page.getByRole('textbox', { name: 'Tracking' }).fill('van 7');
    await expect(page.getByRole('region', { name: 'What this will change' })).toContainText('reserved');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Picked 0 of 26');
  });
  const number = (await page.getByRole('heading', { level: 1 }).innerText()).trim();
  const address = new URL(page.url()).pathname;

  await test.step('one is picked to the bench, the rest is sent with it by scanning', async () => {
    await page.getByRole('button', { name: 'Pick to the bench' }).click();
    await expect(page.getByRole('table', { name: 'Pick list' })).toContainText(skus[0] as string);
    for (const sku of skus.slice(1)) await page.getByRole('textbox', { name: new RegExp(`^Picked of ${sku}`) }).fill('0');
    await page.getByRole('textbox', { name: 'Why fewer than asked' }).fill('the others go straight from the shelf');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Picked 6 of 26');
    await page.getByRole('button', { name: /^Send to Harbour shop/ }).click();
    await expect(page.getByRole('textbox', { name: `Goes of ${skus[0] as string} from bench` })).toHaveValue('6');
    await scan(page, 'NO-SUCH-CODE');
    await expect(page.getByRole('status').filter({ hasText: 'NO-SUCH-CODE is not on this pick list.' })).toBeVisible();
    for (const sku of skus.slice(1, 4)) await page.getByRole('textbox', { name: new RegExp(`^Goes of ${sku} from`) }).fill('6');
    await scan(page, skus[4] as string);
    await expect(page.getByRole('textbox', { name: new RegExp(`^Goes of ${skus[4] as string} from`) })).toHaveValue('1');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Sent 25 of 26');
    await expect(page.getByRole('region', { name: 'In transit' })).toContainText('In transit to Harbour shop');
  });

  await test.step('it is free at neither end, and stands in transit in the stock table', async () => {
    await page.goto(`/stock?q=${skus[1] as string}`);
    await expect(page.getByRole('row', { name: new RegExp(skus[1] as string) })).toContainText('6');
    await page
      .getByRole('row', { name: new RegExp(skus[1] as string) })
      .getByRole('link', { name: '6', exact: true })
      .last()
      .click();
    await expect(page.getByRole('table', { name: 'What in transit is made of' }).getByRole('link', { name: number })).toBeVisible();
    await page.goto('/stock/transfers?show=in-transit');
    await expect(page.getByRole('heading', { name: 'Transfers' })).toBeVisible();
    await expect(page.getByRole('row', { name: new RegExp(number) })).toContainText('part sent');
  });

  await test.step('at the other site it is received on the phone, one of it damaged and one missing', async () => {
    await open(phone, 'receiving desk');
    const card = phone.getByRole('region', { name: `${number} Barn store` });
    await expect(card).toContainText('from Barn store');
    for (const sku of skus.slice(0, 4)) await card.getByRole('textbox', { name: new RegExp(`^Quantity of ${sku}`) }).fill(sku.endsWith('A') ? '5' : '6');
    await scan(phone, skus[4] as string);
    await expect(card.getByRole('textbox', { name: new RegExp(`^Quantity of ${skus[4] as string}`) })).toHaveValue('1');
    await card.getByRole('textbox', { name: new RegExp(`^Damaged of ${skus[1] as string}`) }).fill('1');
    await phone.getByRole('button', { name: /^Receive 5 lines/ }).click();
    await expect(phone.getByText('Received 5 lines.')).toBeVisible();
    await phone.goto(address);
    await expect(phone.getByRole('list', { name: 'Stages' })).toContainText('Arrived 24 of 26');
    await expect(phone.getByRole('region', { name: 'In transit' })).toContainText('1');
  });

  await test.step('what is missing is lost on the way; what was never sent is cancelled', async () => {
    await page.goto(address);
    await page.getByRole('button', { name: 'Some of it will not arrive' }).click();
    await page.getByRole('combobox', { name: 'What became of it' }).selectOption({ label: 'Lost on the way' });
    await page.getByRole('textbox', { name: `Will not arrive of ${skus[0] as string}` }).fill('2');
    await expect(
      page
        .getByRole('alert')
        .filter({ hasText: `Only 1 of this ${skus[0] as string} are in transit` })
        .first(),
    ).toBeVisible();
    await page.getByRole('textbox', { name: `Will not arrive of ${skus[0] as string}` }).fill('1');
    await expect(page.getByRole('region', { name: 'What this will change' })).toContainText('12.00');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText('1 lost')).toBeVisible();
    await page.getByRole('button', { name: 'Cancel what is not picked' }).click();
    await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Arrived 25 of 25');
  });
  await there.close();
});
