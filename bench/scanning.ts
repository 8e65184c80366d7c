import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import { openBrowser } from './browser';
import type { Figure } from './run';
import { asker, type RunningServer } from './server';

const scans = 200;
const paceMs = 120;

interface Order {
  id: number;
  number: string;
  version: number;
}

/** Two hundred scans at the receiving desk, at a scanner's pace: from the last key of each to its count on screen, and what the server has in the end. */
export async function measureScanning(server: RunningServer): Promise<Figure[]> {
  const ask = asker(server);
  const { rows } = await ask<{ rows: { id: number; sku: string; tracking: string }[] }>('GET', '/api/catalog/items?q=frame&limit=20');
  const items = rows.filter(({ tracking }) => tracking === 'none').slice(0, 4);
  const lines = items.map(({ id }) => ({ itemId: id, quantity: String(scans / items.length), price: '1.00' }));
  const draft = await ask<Order>('POST', '/api/inbound/orders', { supplierId: 1, siteId: 1, lines });
  const order = await ask<Order>('POST', `/api/inbound/orders/${draft.id}/decision`, { decision: 'place', version: draft.version });
  const { browser, page } = await openBrowser(server);
  await page.goto(`${server.base}/inbound/desk?order=${order.id}`);
  await page.getByLabel(`Quantity of ${items[0]?.sku ?? ''} on ${order.number}`).waitFor();
  const times: number[] = [];
  for (let n = 0; n < scans; n += 1) {
    times.push(await scanAndSee(page, items[n % items.length]?.sku ?? '', n + 1));
    await page.waitForTimeout(paceMs);
  }
  await page.getByText('Each scan counts one').waitFor();
  await browser.close();
  const { tally } = await ask<{ tally: { lines: Record<string, { quantity: string }> } }>('GET', '/api/inbound/desk');
  const kept = Object.values(tally.lines).reduce((total, { quantity }) => total + Number(quantity), 0);
  await ask('POST', '/api/inbound/desk/changes', { changes: [{ key: randomUUID(), what: 'start-over' }] });
  await ask('POST', `/api/inbound/orders/${order.id}/decision`, { decision: 'cancel', version: order.version });
  const sorted = [...times].sort((a, b) => a - b);
  return [
    {
      what: 'a scan at the receiving desk until it is on screen, ms',
      measured: sorted.at(-1) ?? Number.NaN,
      limit: { atMost: 100 },
      detail: `the slowest of ${scans}; half within ${(sorted[scans / 2] ?? 0).toFixed(0)}, 19 of 20 within ${(sorted[Math.floor(scans * 0.95)] ?? 0).toFixed(0)}`,
    },
    { what: `scans of ${scans} that the server has in the end`, measured: kept, limit: { atLeast: scans }, detail: '' },
  ];
}

/** Sends a code as a scanner does and gives how long it took until so many are counted on screen. */
const scanAndSee = (page: Page, code: string, expected: number): Promise<number> =>
  page.evaluate(
    async ({ keys, wanted }) => {
      const began = performance.now();
      for (const key of keys) (document.activeElement ?? document.body).dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
      // No function has a name in here: what is run in the page knows nothing of how names are kept.
      let counted = 0;
      while (counted < wanted && performance.now() - began < 5000) {
        await new Promise((drawn) => requestAnimationFrame(drawn));
        counted = 0;
        for (const { value } of document.querySelectorAll<HTMLInputElement>('input[aria-label^="Quantity of"]')) counted += Number(value);
      }
      if (counted !== wanted) throw new Error(`${counted} are counted, not ${wanted}`);
      return performance.now() - began;
    },
    { keys: [...code, 'Enter'], wanted: expected },
  );
