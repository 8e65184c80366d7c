import { existsSync } from 'node:fs';
import { chromium } from '@playwright/test';
import type { Figure } from './run';
import { scalePassword } from './scaleSet';
import type { RunningServer } from './server';

const typed = ['copper jar', 'it-00123', 'wax panel size', 'brass ring 4', 'glass', 'stele frame'];

/** Searching items while typing, in a browser on the scale set: from asking to the last byte, over every answer. */
export async function measureSearch(server: RunningServer): Promise<Figure[]> {
  const executablePath = ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find(existsSync);
  if (!executablePath) throw new Error('Chromium is missing; npm test installs it.');
  const browser = await chromium.launch({
    executablePath,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
  const page = await browser.newPage();
  await page.goto(server.base);
  await page.getByLabel('Mail address').fill('measure@scale.example');
  await page.getByLabel('Password').fill(scalePassword);
  await page.keyboard.press('Enter');
  await page.getByRole('navigation', { name: 'Areas' }).waitFor();
  await page.goto(`${server.base}/items`);
  const field = page.getByLabel('Find items');
  await field.waitFor();
  await page.waitForTimeout(1000);
  await page.evaluate(() => performance.setResourceTimingBufferSize(2000));
  for (const words of typed) {
    await field.fill('');
    await field.pressSequentially(words, { delay: 160 });
    await page.waitForTimeout(400);
  }
  const times = await page.evaluate(() =>
    performance
      .getEntriesByType('resource')
      .filter(({ name }) => name.includes('/api/catalog/items?') && name.includes('q='))
      .map((entry) => (entry as PerformanceResourceTiming).responseEnd - (entry as PerformanceResourceTiming).requestStart),
  );
  await browser.close();
  const sorted = times.sort((a, b) => a - b);
  const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? Number.NaN;
  return [
    {
      what: 'item search while typing, each answer in the browser, ms',
      measured: at(0.95),
      limit: { atMost: 50 },
      detail: `19 of 20 answers; half within ${at(0.5).toFixed(0)}, the slowest ${at(1).toFixed(0)}, of ${sorted.length}`,
    },
  ];
}
