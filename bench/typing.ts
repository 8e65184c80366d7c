import { openBrowser } from './browser';
import type { Figure } from './run';
import { asker, type RunningServer } from './server';

const lineCount = 200;
const keys = 60;

interface Draft {
  id: number;
  version: number;
}

/** In a purchase order of 200 lines: from a key in a quantity to the picture with it, and how many tasks held the page up while one more line was entered. */
export async function measureTyping(server: RunningServer): Promise<Figure[]> {
  const ask = asker(server);
  const { rows } = await ask<{ rows: { id: number; sku: string }[] }>('GET', `/api/catalog/items?limit=${lineCount}`);
  const lines = rows.map(({ id }) => ({ itemId: id, quantity: '10', price: '1.00' }));
  const draft = await ask<Draft>('POST', '/api/inbound/orders', { supplierId: 1, siteId: 1, lines });
  const { browser, page } = await openBrowser(server);
  await page.goto(`${server.base}/inbound/orders/${draft.id}`);
  const field = page.getByLabel(`Quantity of line ${Math.floor(lines.length / 2)}`, { exact: true });
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
  const told = () => page.evaluate(() => (window as unknown as { told: { painted: number[]; held: number[] } }).told);
  await field.focus();
  // What scrolling there had to draw is drawn.
  await page.waitForTimeout(500);
  for (let n = 0; n < keys; n += 1) {
    await page.keyboard.press(n % 6 === 5 ? 'Backspace' : String((n % 6) + 1));
    await page.waitForTimeout(90);
  }
  const painted = (await told()).painted.sort((a, b) => a - b);
  const heldBefore = (await told()).held.length;
  const entry = page.getByLabel('New line');
  await entry.focus();
  await page.keyboard.type('3 frame', { delay: 90 });
  await page.getByRole('listbox', { name: 'Items that fit' }).waitFor();
  // Several items fit: the list is looked at before one of it is taken.
  await page.waitForTimeout(400);
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => document.querySelector<HTMLInputElement>('[data-new-line]')?.value === '');
  await page.waitForTimeout(500);
  const held = (await told()).held.slice(heldBefore);
  await browser.close();
  await ask('POST', `/api/inbound/orders/${draft.id}/decision`, { decision: 'cancel', version: draft.version });
  return [
    {
      what: `a key in an order of ${lines.length} lines until it is painted, ms`,
      measured: painted.at(-1) ?? Number.NaN,
      limit: { atMost: 50 },
      detail: `the slowest of ${painted.length}; half within ${(painted[Math.floor(painted.length / 2)] ?? 0).toFixed(0)}`,
    },
    {
      what: 'tasks over 50 ms while one more line is entered there',
      measured: held.length,
      limit: { atMost: 2 },
      detail: held.map((duration) => `${duration.toFixed(0)} ms`).join(', '),
    },
  ];
}
