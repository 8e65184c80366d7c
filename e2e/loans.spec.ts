import { expect, test } from './journey';
import { given } from './given';
import { scan, signIn } from './person';

test('a serial unit is lent with a reminder, which comes by letter when its day is here; it is taken back by scanning on a phone, damaged', async ({
  page,
  browser,
  baseURL,
}) => {
  await signIn(page);
  const made = given(page);
  const [barn, run] = [await made.site(), String(Date.now() % 100_000)];
  const itemId = await made.item(`LEND-${run}`, { tracking: 'serial' });
  await made.opening(itemId, barn, '2', [`UNIT-${run}-1`, `UNIT-${run}-2`]);
  const table = () => page.getByRole('table', { name: 'What is lent' });

  await test.step('it is scanned, and lent to somebody nobody knew yet', async () => {
    await page.goto('/stock/loans/new');
    await expect(page.getByRole('combobox', { name: 'Lent to' })).toBeFocused();
    await scan(page, `UNIT-${run}-2`);
    await expect(table()).toContainText(`LEND-${run}`);
    await expect(page.getByLabel(`From where LEND-${run} is taken, row 1`)).toContainText(`UNIT-${run}-2 in`);
    await page.getByRole('combobox', { name: 'Lent to' }).fill(`Robin Dale ${run}`);
    await page.getByRole('option', { name: `Add “Robin Dale ${run}” as a person` }).click();
    await page.getByLabel('To be back', { exact: true }).fill('+1');
    await page.getByLabel('To be back', { exact: true }).press('Tab');
    await expect(page.getByRole('region', { name: 'What this will change' })).toContainText('on hand');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText(`lent to Robin Dale ${run} by Barn store`)).toBeVisible();
  });
  const number = (await page.getByRole('heading', { level: 1 }).innerText()).trim();

  await test.step('a day before, which is today, Tom is reminded: the letter says what it is and leads there', async () => {
    await page.getByRole('button', { name: 'Remind somebody' }).click();
    const form = page.getByRole('group', { name: 'A new reminder' });
    await form.getByLabel('How many').fill('1');
    await form.getByRole('button', { name: 'Remind them' }).click();
    await expect(form.getByText('Choose who is reminded.')).toBeVisible();
    await form.getByRole('combobox', { name: 'Who is reminded' }).fill('Tom');
    await page.getByRole('option', { name: 'Tom Aldous' }).click();
    await form.getByRole('button', { name: 'Remind them' }).click();
    await expect(page.getByRole('region', { name: 'Reminders' })).toContainText('Tom Aldous');
    await page.goto(`/post?q=${number}`);
    const letter = page.getByRole('row', { name: new RegExp(`${number}, Robin Dale ${run}: UNIT-${run}-2 is due on`) });
    await expect(letter).toContainText('taken in by our own mail server');
    await expect(letter).toContainText('tom@larkmoor.example');
    await page.getByRole('link', { name: 'Open what it is about' }).click();
    await expect(page.getByRole('heading', { level: 1, name: number })).toBeVisible();
    await expect(page.getByRole('region', { name: 'Reminders' })).toContainText('1 letter sent');
  });

  await test.step('what they have stands on their page; the unit says who has it', async () => {
    await page.getByRole('link', { name: `Robin Dale ${run}` }).click();
    await expect(page.getByRole('table', { name: 'What they have' })).toContainText(`UNIT-${run}-2`);
    await page.getByRole('link', { name: `UNIT-${run}-2` }).click();
    await expect(page.getByRole('region', { name: 'Here', exact: true })).toContainText(`with Robin Dale ${run}`);
  });

  await test.step('Tom takes it back on a phone, damaged, and a second time nothing is out', async () => {
    const there = await browser.newContext({ ...(baseURL === undefined ? {} : { baseURL }), viewport: { width: 390, height: 844 }, hasTouch: true });
    const phone = await there.newPage();
    await signIn(phone, 'tom@larkmoor.example');
    await phone.goto('/stock/loans');
    await phone.getByRole('searchbox', { name: 'Find loans' }).or(phone.getByLabel('Find loans')).first().fill(run);
    // The list is narrowed before anything in it is chosen.
    await expect(phone.getByRole('row').filter({ hasText: /LN-\d/ })).toHaveCount(1);
    await phone.getByRole('row', { name: new RegExp(number) }).click();
    await phone.getByRole('link', { name: `Open ${number}` }).click();
    await phone.getByRole('button', { name: /^Take things back/ }).click();
    await scan(phone, 'NOT-OUT-HERE');
    await expect(phone.getByText('NOT-OUT-HERE is not out here.')).toBeVisible();
    await scan(phone, `UNIT-${run}-2`);
    await expect(phone.getByLabel(`Back of UNIT-${run}-2`)).toHaveValue('1');
    await phone.getByLabel(`Condition of UNIT-${run}-2`).selectOption({ label: 'damaged' });
    await phone.getByLabel(`What is said of UNIT-${run}-2`).fill('the crank is bent');
    await phone.getByRole('button', { name: /^Take 1 line back/ }).click();
    await expect(phone.getByText('damaged: the crank is bent')).toBeVisible();
    await expect(phone.getByRole('button', { name: /^Take things back/ })).toHaveCount(0);
    await there.close();
  });
  await expect(page.getByRole('region', { name: 'Its life' })).toContainText(number);
});

test('several things at once, by one rule; some is lost there, and the day is moved', async ({ page }) => {
  await signIn(page);
  const made = given(page);
  const [barn, run] = [await made.site(), String(Date.now() % 100_000)];
  const skus = ['A', 'B'].map((letter) => `PAIR-${run}-${letter}`);
  for (const sku of skus) await made.opening(await made.item(sku, {}), barn, '4');
  await page.goto(`/stock?q=PAIR-${run}`);
  for (const sku of skus) await page.getByRole('checkbox', { name: `Choose ${sku}` }).check();
  await page.getByRole('link', { name: 'Lend 2 items' }).click();
  await page.getByRole('button', { name: 'All there is' }).click();
  for (const [index, sku] of skus.entries()) await expect(page.getByLabel(`Lend of ${sku}, row ${index + 1}`)).toHaveValue('4');
  await page.getByRole('combobox', { name: 'Lent to' }).fill('copse lane');
  await page.getByRole('option', { name: 'Copse Lane School' }).click();
  // While its list is open, Enter is the list's.
  await expect(page.getByRole('listbox')).toHaveCount(0);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('lent to Copse Lane School by Barn store')).toBeVisible();

  await page.getByRole('button', { name: 'Some of it is lost' }).click();
  await page.getByLabel('What became of it').selectOption({ label: 'Lost on loan' });
  await page.getByLabel(`Will not come back of ${skus[0] as string}`).fill('1');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('table', { name: 'Lines' })).toContainText('1 lost');

  await page.getByRole('button', { name: 'Another day' }).click();
  await page.getByLabel('To be back', { exact: true }).fill('+10');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('region', { name: 'Changes' }).or(page.getByText('is changed.')).first()).toBeVisible();

  await page.getByRole('button', { name: /^Take things back/ }).click();
  await page.getByRole('button', { name: 'All of it' }).click();
  await page.keyboard.press('Control+Enter');
  await expect(
    page
      .getByRole('table', { name: 'How it came back' })
      .or(page.getByRole('region', { name: 'How it came back' }))
      .first(),
  ).toContainText('as it was');
  expect(await made.lying(await itemIdOf(page, skus[0] as string))).toEqual([expect.stringMatching(/ 3$/)]);
});

async function itemIdOf(page: Parameters<typeof given>[0], sku: string): Promise<number> {
  const { rows } = (await (await page.request.get(`/api/catalog/items?q=${sku}`)).json()) as { rows: { id: number }[] };
  return rows[0]?.id as number;
}
