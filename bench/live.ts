import { openBrowser } from './browser';
import type { Figure } from './run';
import { asker, type RunningServer } from './server';

const postings = 20;

/** Two people look, one of them at the stock table of 20,000 items: from the answer to what the other posts until the new figure is on that screen, in milliseconds. */
export async function measureLive(server: RunningServer): Promise<Figure[]> {
  const ask = asker(server);
  const { rows } = await ask<{ rows: { itemId: number; sku: string; onHand: string }[] }>('GET', '/api/stock/table?sort=sku&limit=1');
  const [item] = rows;
  if (!item) throw new Error('the scale set has stock');
  const { sites } = await ask<{ sites: { bins: { binId: number }[] }[] }>('GET', `/api/stock/items/${item.itemId}`);
  const binId = sites.flatMap(({ bins }) => bins)[0]?.binId;
  const { reasons } = await ask<{ reasons: { id: number }[] }>('GET', '/api/setup/reference');
  const { browser, page } = await openBrowser(server, true);
  await page.goto(`${server.base}/stock?sort=sku`);
  const row = page.getByRole('row').filter({ hasText: item.sku }).first();
  await row.waitFor();
  const times: number[] = [];
  for (let n = 0; n < postings; n += 1) {
    const before = await row.innerText();
    await ask('POST', '/api/stock/corrections', {
      way: 'plus-or-minus',
      reasonId: reasons[0]?.id,
      countedSince: true,
      lines: [{ itemId: item.itemId, binId, quantity: n % 2 === 0 ? '1' : '-1' }],
    });
    const began = performance.now();
    while ((await row.innerText()) === before && performance.now() - began < 10_000) await page.waitForTimeout(5);
    times.push(performance.now() - began);
    // As far apart as people post: what follows within a moment is shown together.
    await page.waitForTimeout(1200);
  }
  await browser.close();
  const sorted = [...times].sort((a, b) => a - b);
  return [
    {
      what: 'what somebody else posts until it is on an open stock table, ms',
      measured: sorted.at(-1) ?? Number.NaN,
      limit: { atMost: 1000 },
      detail: `the slowest of ${postings}; half within ${(sorted[postings / 2] ?? 0).toFixed(0)}`,
    },
  ];
}
