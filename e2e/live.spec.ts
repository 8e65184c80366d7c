import { given } from './given';
import { expect, test } from './journey';
import { signIn } from './person';

test('what somebody else posts is on the screen a moment later, and what is being typed stays', async ({ page, browser, baseURL }) => {
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const itemId = await make.item('LIVE-1', {});
  await make.opening(itemId, barn, '5');
  const second = await (await browser.newContext({ baseURL: baseURL as string })).newPage();
  await signIn(second, 'wim@larkmoor.example');

  // One looks at the stock table, the other has a correction half typed.
  await second.goto('/stock?q=LIVE-1');
  const row = second.getByRole('row').filter({ hasText: 'LIVE-1' });
  await expect(row).toContainText('5');
  // A browser of its own: a tab that nobody looks at reads again only once somebody does.
  const third = await browser.newContext({ baseURL: baseURL as string });
  const typing = await third.newPage();
  await signIn(typing, 'wim@larkmoor.example');
  await typing.goto(`/stock/correction?item=${itemId}`);
  await typing.getByLabel('Note').fill('looked at it twice');
  await typing.getByLabel('There are now of LIVE-1').fill('4');
  await expect(typing.getByRole('row').filter({ hasText: 'LIVE-1' })).toContainText('-1');

  await page.goto(`/stock/correction?item=${itemId}`);
  await page.getByLabel('Reason').selectOption({ label: 'Found' });
  await page.getByLabel('There are now of LIVE-1').fill('12');
  await page.getByRole('button', { name: /^Correct 1 line/ }).click();
  await expect(page.getByText('Corrected 1 line.')).toBeVisible();

  await expect(row).toContainText('12');
  await expect(typing.getByLabel('Note')).toHaveValue('looked at it twice');
  await expect(typing.getByLabel('There are now of LIVE-1')).toHaveValue('4');
  // Of two tabs one keeps the stream; it is closed, and the other takes it over.
  const other = await third.newPage();
  await other.goto('/stock?q=LIVE-1');
  await expect(other.getByRole('row').filter({ hasText: 'LIVE-1' })).toContainText('12');
  await typing.close();
  await other.bringToFront();
  await make.opening(itemId, barn, '3');
  await expect(other.getByRole('row').filter({ hasText: 'LIVE-1' })).toContainText('15');
  await second.close();
});
