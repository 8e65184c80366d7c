import { openBrowser } from './browser';
import type { Figure } from './run';
import type { RunningServer } from './server';

const rows = 500;
/** Pixels that one turn of the wheel scrolls, and after how many turns something must be wrong. */
const [turn, mostTurns] = [120, 1000];

/** The stock list scrolled by the wheel through 500 rows, which are read and drawn as they come near: how long the slowest frame took, where 50 ms and less is not told apart. */
export async function measureScrolling(server: RunningServer): Promise<Figure[]> {
  const { browser, page } = await openBrowser(server);
  await page.goto(`${server.base}/stock`);
  const table = page.getByRole('table', { name: 'Stock' });
  await table.getByRole('row').nth(5).waitFor();
  await page.waitForTimeout(1000);
  await page.evaluate(() => {
    const told = { frames: [] as number[] };
    Object.assign(window, { told });
    new PerformanceObserver((list) => told.frames.push(...list.getEntries().map(({ duration }) => duration))).observe({ type: 'long-animation-frame' });
  });
  await table.hover();
  const lastDrawn = async () => Number(await table.locator('tr[aria-rowindex]').last().getAttribute('aria-rowindex'));
  for (let turns = 0; turns < mostTurns && (await lastDrawn()) <= rows; turns += 5) for (let n = 0; n < 5; n += 1) await page.mouse.wheel(0, turn);
  const frames = await page.evaluate(() => (window as unknown as { told: { frames: number[] } }).told.frames);
  const last = await lastDrawn();
  await browser.close();
  if (last <= rows) throw new Error(`Only ${last} rows were drawn: does the stock list go on?`);
  return [
    {
      what: `stock list, ${rows} rows scrolled by the wheel, slowest frame, ms`,
      measured: Math.max(50, ...frames),
      limit: { atMost: 100 },
      detail: `${frames.length} frames over 50 ms, through ${last} rows`,
    },
  ];
}
