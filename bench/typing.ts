import type { Page } from '@playwright/test';
import { openBrowser } from './browser';
import type { Figure } from './run';
import { asker, median, type RunningServer } from './server';

const lineCount = 200;
const keys = 60;

interface Draft {
  id: number;
  version: number;
}

/** How often each key is typed: whatever else runs on the machine holds a key up once, what the page does itself each time. */
const rounds = 3;

interface Told {
  painted: number[];
  held: number[];
}

/** In a purchase order of 200 lines: from a key in a quantity to the picture with it, and how many tasks held the page up while one more line was entered. */
export async function measureTyping(server: RunningServer): Promise<Figure[]> {
  const ask = asker(server);
  const { rows } = await ask<{ rows: { id: number; sku: string }[] }>('GET', `/api/catalog/items?limit=${lineCount}`);
  const lines = rows.map(({ id }) => ({ itemId: id, quantity: '10', price: '1.00' }));
  const draft = await ask<Draft>('POST', '/api/inbound/orders', { supplierId: 1, siteId: 1, lines });
  const { browser, page: first } = await openBrowser(server);
  const told: Told[] = [];
  for (let round = 0; round < rounds; round += 1) {
    const page = await first.context().newPage();
    told.push(await typeOnce(page, `${server.base}/inbound/orders/${draft.id}`));
    // What was typed and not saved would be offered to the next.
    await page.evaluate(() => localStorage.clear());
    await page.close();
  }
  await browser.close();
  await ask('POST', `/api/inbound/orders/${draft.id}/decision`, { decision: 'cancel', version: draft.version });
  const best = Array.from({ length: keys }, (_, nth) => Math.min(...told.map(({ painted }) => painted[nth] ?? Number.NaN)));
  const held = told.map((round) => round.held).sort((a, b) => a.length - b.length)[1] ?? [];
  return [
    {
      what: `a key in an order of ${lines.length} lines until it is painted, ms`,
      measured: Math.max(...best),
      limit: { atMost: 50 },
      detail: `the slowest of ${keys}, each the best of ${rounds} times; half within ${median(best).toFixed(0)}; slowest of each time ${told.map(({ painted }) => Math.max(...painted).toFixed(0)).join(', ')}`,
    },
    {
      what: 'tasks over 50 ms while one more line is entered there',
      measured: held.length,
      limit: { atMost: 2 },
      detail: `${held.map((duration) => `${duration.toFixed(0)} ms`).join(', ')}; each time ${told.map((round) => round.held.length).join(', ')}`,
    },
  ];
}

/** Opens the order and types: returns how long each key took to be painted, and how long tasks took that held the page up while one more line was entered, in milliseconds. */
async function typeOnce(page: Page, address: string): Promise<Told> {
  await page.goto(address);
  const field = page.getByLabel(`Quantity of line ${lineCount / 2}`, { exact: true });
  await page.getByLabel('Quantity of line 1', { exact: true }).waitFor();
  await page.waitForLoadState('networkidle');
  // Lines that are not in sight are not there: the one in the middle is scrolled to as a person does.
  await page.getByRole('table', { name: 'Lines' }).hover();
  for (let turns = 0; turns < 200 && (await field.count()) === 0; turns += 1) {
    await page.mouse.wheel(0, 300);
    await page.waitForTimeout(50);
  }
  await field.waitFor();
  // No function has a name in here: what is run in the page knows nothing of how names are kept.
  await page.evaluate(() => {
    const told = { painted: [] as number[], held: [] as number[] };
    Object.assign(window, { told });
    window.addEventListener(
      'keydown',
      ({ timeStamp }) =>
        requestAnimationFrame(() => {
          const { port1, port2 } = new MessageChannel();
          port1.onmessage = () => told.painted.push(performance.now() - timeStamp);
          port2.postMessage(null);
        }),
      true,
    );
    new PerformanceObserver((list) => told.held.push(...list.getEntries().map(({ duration }) => duration))).observe({ entryTypes: ['longtask'] });
  });
  const told = () => page.evaluate(() => (window as unknown as { told: Told }).told);
  await field.focus();
  // What scrolling there had to draw is drawn.
  await page.waitForTimeout(500);
  for (let n = 0; n < keys; n += 1) {
    await page.keyboard.press(n % 6 === 5 ? 'Backspace' : String((n % 6) + 1));
    await page.waitForTimeout(90);
  }
  const typed = await told();
  const entry = page.getByLabel('New line');
  await entry.focus();
  await page.keyboard.type('3 frame', { delay: 90 });
  await page.getByRole('listbox', { name: 'Items that fit' }).waitFor();
  // Several items fit: the list is looked at before one of it is taken.
  await page.waitForTimeout(400);
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => document.querySelector<HTMLInputElement>('[data-new-line]')?.value === '');
  await page.waitForTimeout(500);
  return { painted: typed.painted, held: (await told()).held.slice(typed.held.length) };
}
