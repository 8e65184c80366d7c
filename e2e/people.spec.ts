import { expect, test } from './journey';
import { signIn } from './person';

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
