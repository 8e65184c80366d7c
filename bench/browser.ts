import { existsSync } from 'node:fs';
import { chromium, type Browser, type Page } from '@playwright/test';
import { chromiumArguments } from '../scripts/chromium.mjs';
import { scalePassword } from './scaleSet';
import type { RunningServer } from './server';

/** Debian's Chromium with the person who measures signed in; it `hears` what others change only where that is measured. */
export async function openBrowser(server: RunningServer, hears = false): Promise<{ browser: Browser; page: Page }> {
  const executablePath = ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find(existsSync);
  if (!executablePath) throw new Error('Chromium is missing; npm test installs it.');
  const browser = await chromium.launch({ executablePath, args: chromiumArguments });
  const context = await browser.newContext();
  // Or a page that hears what others change would never be at rest.
  if (!hears) await context.route(/\/api\/live/, (route) => route.fulfill({ status: 204 }));
  const page = await context.newPage();
  await page.goto(server.base);
  await page.getByLabel('Mail address').fill('measure@scale.example');
  await page.getByLabel('Password').fill(scalePassword);
  await page.keyboard.press('Enter');
  await page.getByRole('navigation', { name: 'Areas' }).waitFor();
  return { browser, page };
}
