import { existsSync } from 'node:fs';
import { chromium, type Browser, type Page } from '@playwright/test';
import { chromiumArguments } from '../scripts/chromium.mjs';
import { scalePassword } from './scaleSet';
import type { RunningServer } from './server';

/** Debian's Chromium with the person who measures signed in. */
export async function openBrowser(server: RunningServer): Promise<{ browser: Browser; page: Page }> {
  const executablePath = ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find(existsSync);
  if (!executablePath) throw new Error('Chromium is missing; npm test installs it.');
  const browser = await chromium.launch({ executablePath, args: chromiumArguments });
  const page = await (await browser.newContext()).newPage();
  await page.goto(server.base);
  await page.getByLabel('Mail address').fill('measure@scale.example');
  await page.getByLabel('Password').fill(scalePassword);
  await page.keyboard.press('Enter');
  await page.getByRole('navigation', { name: 'Areas' }).waitFor();
  return { browser, page };
}
