import { open, shot, browser, base } from './shot.mjs';
const page = await open();
const errors = [];
page.on('console', (m) => m.type() === 'error' && errors.push(m.text().slice(0, 300)));
page.on('pageerror', (e) => errors.push(String(e).slice(0, 300)));
for (const [path, name] of [
  ['/', 'today'],
  ['/items', 'items'],
  ['/stock', 'stock'],
  ['/inbound', 'inbound'],
  ['/items/3', 'item'],
  ['/setup', 'setup'],
  ['/inbound/desk', 'desk'],
  ['/outbound', 'outbound'],
  ['/books', 'books'],
  ['/planning', 'planning'],
  ['/import', 'import'],
]) {
  await page.goto(base + path);
  await page.waitForTimeout(700);
  await shot(page, name);
}
console.log([...new Set(errors)].join('\n'));
await browser.close();
