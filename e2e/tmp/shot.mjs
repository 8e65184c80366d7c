import { chromium } from '@playwright/test';
const base = 'http://127.0.0.1:4715';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
export async function as(who, size = { width: 1280, height: 800 }, scheme = 'light') {
  const context = await browser.newContext({ viewport: size, colorScheme: scheme });
  const page = await context.newPage();
  page.on('pageerror', (e) => console.log('ERR', e.message));
  page.on('response', (r) => r.status() >= 500 && console.log('500', r.url()));
  await page.goto(base);
  await page.getByLabel('Mail address').fill(`${who}@larkmoor.example`);
  await page.getByLabel('Password').fill('larder-demo');
  await page.keyboard.press('Enter');
  await page.getByRole('navigation', { name: 'Areas' }).first().waitFor();
  return page;
}
export const close = () => browser.close();
export { base };
