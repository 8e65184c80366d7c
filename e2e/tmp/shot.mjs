// node shot.mjs name path [width] [height] [scheme] [who] [js…]
import { chromium } from 'playwright-core';
const [, , name, path, width = '1280', height = '800', scheme = 'light', who = 'ines', ...acts] = process.argv;
const base = process.env.BASE ?? 'http://127.0.0.1:4715';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const page = await browser.newPage({ viewport: { width: Number(width), height: Number(height) }, colorScheme: scheme });
page.on('pageerror', (e) => console.log('ERR', e.message));
page.on('console', (m) => m.type() === 'error' && console.log('CON', m.text()));
await page.goto(base + '/');
await page.getByLabel('Mail address').fill(`${who}@larkmoor.example`).catch(() => {});
await page.getByLabel('Password').fill('larder-demo');
await page.keyboard.press('Enter');
await page.waitForURL((u) => !u.pathname.includes('sign'), { timeout: 15000 }).catch(() => {});
await page.waitForTimeout(800);
await page.goto(base + path);
await page.waitForLoadState('networkidle');
await page.waitForTimeout(500);
for (const act of acts) { await eval(`(async () => { ${act} })()`); await page.waitForTimeout(350); }
await page.screenshot({ path: `/tmp/shots/${name}.png` });
await browser.close();
