import { expect, test } from './journey';
import { given } from './given';
import { signIn } from './person';

test('a lot is recalled: from its delivery to whoever bought it or has it on loan, as a picture, and a letter to each', async ({ page }) => {
  await signIn(page);
  const made = given(page);
  const [barn, run] = [await made.site(), String(Date.now() % 100_000)];
  const itemId = await made.item(`RECALL-${run}`, { tracking: 'serial', salesPrice: '4.00' });
  const code = `RC-${run}`;
  await made.opening(itemId, barn, '1', [code]);

  await test.step('it is lent, and stands in the picture and among those who had it', async () => {
    await page.goto(`/stock/loans/new?items=${itemId}`);
    await page.getByRole('combobox', { name: 'Lent to' }).fill('vale beek');
    await page.getByRole('option', { name: 'Vale Beekeepers' }).click();
    await expect(page.getByRole('region', { name: 'What this will change' })).toContainText('on hand');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText('lent to Vale Beekeepers by Barn store')).toBeVisible();
    await page.getByRole('link', { name: code }).click();
    await expect(page.getByRole('img', { name: /1 from opening stock; 1 to Vale Beekeepers, LN-\d+/ })).toBeVisible();
    await expect(page.getByRole('region', { name: 'Who had it on loan' })).toContainText('1 out now');
  });

  await test.step('whoever has some of it is written to, in words that can be changed; a slip is told before anything goes', async () => {
    await page.getByRole('link', { name: 'Recall', exact: true }).click();
    const table = page.getByRole('table', { name: 'Whom to write to' });
    await expect(table).toContainText('on loan: LN-');
    await page.getByLabel('Mail address of Vale Beekeepers').fill('nobody at all');
    await page.getByRole('button', { name: /^Send 1 letter/ }).click();
    await expect(page.getByText(/Write a mail address such as/)).toBeVisible();
    await page.getByLabel('Mail address of Vale Beekeepers').fill('keeper@vale.example');
    await page.getByLabel('Subject').fill('Please bring {lot} back');
    await page.getByRole('button', { name: /^Send 1 letter/ }).click();
    await expect(page.getByText(`1 letter about ${code} is on the way.`)).toBeVisible();
    await expect(table.getByRole('link')).toHaveCount(1);
  });

  await page.goto(`/post?q=${code}`);
  const letter = page.getByRole('row', { name: new RegExp(`Please bring ${code} back`) });
  await expect(letter).toContainText('keeper@vale.example');
  await expect(letter).toContainText('taken in by our own mail server');
  await expect(page.getByText(`you had 1 of RECALL-${run}`)).toBeVisible();
});
