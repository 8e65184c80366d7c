import { given } from './given';
import { expect, test, type Page } from './journey';
import { scan, signIn } from './person';

/** Another person with a browser of their own, on a phone. */
async function onPhone(page: Page, baseURL: string | undefined, email: string): Promise<Page> {
  const context = await page
    .context()
    .browser()
    ?.newContext({ baseURL: baseURL as string, viewport: { width: 390, height: 844 }, hasTouch: true });
  const other = await context?.newPage();
  if (!other) throw new Error('there is no browser');
  await signIn(other, email);
  return other;
}

test('an aisle is counted by two people while a third picks from it, and every bin ends right', async ({ page, baseURL }) => {
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const [frame, veil] = [await make.item('CNT-1', {}), await make.item('CNT-2', {})];
  const [left, right] = await make.bins(barn, ['Z9-1', 'Z9-2'], 'Aisle nine');
  await make.put(frame, left as number, '20');
  await make.put(veil, right as number, '10');

  await page.goto('/stock/counts/new');
  await page.getByLabel('Site to count').selectOption({ label: 'Barn store' });
  await page.getByLabel('Zone').selectOption('Aisle nine');
  await page.getByLabel('Count again above a difference of, %').fill('50');
  await expect(page.getByText('2 bins, 2 lines of 2 items')).toBeVisible();
  await page.getByRole('button', { name: 'Plan this count' }).click();
  await expect(page.getByRole('heading', { level: 1, name: /^CT-/ })).toBeVisible();
  const address = page.url();

  const [tom, wim] = [await onPhone(page, baseURL, 'tom@larkmoor.example'), await onPhone(page, baseURL, 'wim@larkmoor.example')];
  await tom.goto(address);
  await tom.getByRole('link', { name: 'Count Z9-1' }).click();
  await expect(tom.getByText('you are counting it')).toBeVisible();
  await tom.getByLabel('Counted of CNT-1').fill('18');
  await tom.keyboard.press('Enter');

  // The bin is Tom's: Wim is told, and takes the other, which he reaches by scanning it.
  await wim.goto(address);
  await expect(wim.getByRole('row', { name: /^Z9-1/ })).toContainText('Tom Aldous is counting it');
  await wim.getByRole('link', { name: 'Count Z9-1' }).click();
  await expect(wim.getByText('Tom Aldous is counting Z9-1.')).toBeVisible();
  await scan(wim, 'Z9-2');
  await expect(wim.getByText('you are counting it')).toBeVisible();
  for (let n = 0; n < 3; n += 1) await scan(wim, 'CNT-2');
  await expect(wim.getByLabel('Counted of CNT-2')).toHaveValue('3');

  // A third picks from both bins meanwhile.
  const sale = await make.picked('Copse Lane School', barn, frame, '4');
  await make.picked('Copse Lane School', barn, veil, '2');
  expect(sale.number).toMatch(/^SO-/);

  await tom.getByRole('button', { name: 'Z9-1 is counted' }).click();
  await expect(tom.getByText('Z9-1 is counted.')).toBeVisible();
  for (let n = 0; n < 5; n += 1) await scan(wim, 'CNT-2');
  await expect(wim.getByLabel('Counted of CNT-2')).toHaveValue('8');
  await wim.getByRole('button', { name: 'Z9-2 is counted' }).click();
  await expect(wim.getByText('Count it again: some of it moved while it was scanned.')).toBeVisible();
  await wim.getByLabel('Counted of CNT-2').fill('8');
  await wim.keyboard.press('Enter');
  // Something that nobody expected lies there too.
  await scan(wim, 'CNT-1');
  await expect(wim.getByLabel('Counted of CNT-1')).toHaveValue('1');
  await wim.getByRole('button', { name: 'Z9-2 is counted' }).click();
  // It is far from what there should be, which is none: it is looked at once more.
  await expect(wim.getByText('Count it again: it differs much.')).toBeVisible();
  await expect(wim.getByLabel('Counted of CNT-1')).toHaveValue('');
  await wim.getByLabel('Counted of CNT-1').fill('1');
  await wim.keyboard.press('Enter');
  await wim.getByRole('button', { name: 'Z9-2 is counted' }).click();
  await expect(wim.getByText('Z9-2 is counted.')).toBeVisible();

  const differences = page.getByRole('table', { name: 'Differences' });
  const [missing, found] = [
    differences.getByRole('row').filter({ hasText: 'Z9-1' }).filter({ hasText: 'CNT-1' }),
    differences.getByRole('row').filter({ hasText: 'Z9-2' }).filter({ hasText: 'CNT-1' }),
  ];
  await expect(missing).toContainText('-2');
  await expect(found).toContainText('+1');
  await found.getByLabel('Why CNT-1 in Z9-2 differs').selectOption({ label: 'Found' });
  await expect(page.getByRole('button', { name: 'Post 1 chosen line' })).toBeVisible();
  await page.getByRole('button', { name: 'Post 1 chosen line' }).click();
  await expect(page.getByText('1 difference posted.')).toBeVisible();
  await page.getByRole('button', { name: 'Post all that is counted' }).click();
  await expect(page.getByText('1 difference posted, 1 line agreed.')).toBeVisible();
  await expect(page.getByRole('list', { name: 'Stages' })).toContainText('Settled 3 of 3');
  expect([(await make.lying(frame)).sort(), await make.lying(veil)]).toEqual([['Z9-1 14', 'Z9-2 1'], ['Z9-2 8']]);
});

test('a bin that is empty is said to be; a blind count shows nobody how many there should be', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const itemId = await make.item('CNT-3', {});
  const [bin] = await make.bins(barn, ['Z8-1'], 'Aisle eight');
  await make.put(itemId, bin as number, '7');
  await page.goto(`/stock/counts/new?site=${barn}&bin=${bin ?? ''}`);
  await page.getByLabel('Blind: whoever counts is not told how many there should be').check();
  await page.getByRole('button', { name: 'Plan this count' }).click();
  await page.getByRole('link', { name: 'Count Z8-1' }).click();
  await expect(page.getByText('you are counting it')).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'Should be' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Z8-1 is empty' }).click();
  await expect(page.getByRole('heading', { level: 1, name: /^CT-/ })).toBeVisible();
  await expect(page.getByRole('table', { name: 'Differences' })).toContainText('-7');
  await page.getByRole('button', { name: 'Post all that is counted' }).click();
  await expect(page.getByText('1 difference posted.')).toBeVisible();
  expect(await make.lying(itemId)).toEqual([]);
});
