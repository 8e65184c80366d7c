import { chromium } from '@playwright/test';
const base = process.env.BASE ?? 'http://127.0.0.1:4321';
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking'],
});
export const open = async (width = 1280, height = 800, email = 'ines@larkmoor.example') => {
  const context = await browser.newContext({ viewport: { width, height } });
  const page = await context.newPage();
  await page.request.post(`${base}/api/people/sign-in`, { data: { email, password: 'larder-demo' } }).catch(() => {});
  await page.goto(base);
  if (
    await page
      .locator('input[type=email]')
      .waitFor({ timeout: 8000 })
      .then(
        () => true,
        () => false,
      )
  ) {
    await page.locator('input[type=email]').fill(email);
    await page.getByLabel(/password/i).fill('larder-demo');
    await page.keyboard.press('Enter');
  }
  await page.waitForTimeout(1200);
  return page;
};
export const shot = async (page, name) => {
  await page.waitForTimeout(900);
  await page.screenshot({ path: `/tmp/shots/${name}.png` });
};
export { base, browser };
