import { openBrowser } from './browser';
import type { Figure } from './run';
import type { RunningServer } from './server';

/**
 * What a browser that has never been here fetches before Today stands: the page, its scripts and styles, and its fonts, as they are sent. Answers about
 * stock are not counted. In kB of 1,000 bytes.
 */
export async function measureFirstLoad(server: RunningServer): Promise<Figure[]> {
  const { browser, page } = await openBrowser(server);
  const state = await page.context().storageState();
  const context = await browser.newContext({ storageState: state });
  await context.route(/\/api\/live/, (route) => route.fulfill({ status: 204 }));
  const fresh = await context.newPage();
  await fresh.goto(`${server.base}/`);
  await fresh.getByRole('heading', { level: 1 }).waitFor();
  await fresh.waitForLoadState('networkidle');
  const files = await fresh.evaluate(() =>
    [...performance.getEntriesByType('navigation'), ...performance.getEntriesByType('resource')]
      .filter(({ name }) => !new URL(name).pathname.startsWith('/api/'))
      .map((entry) => ({ name: new URL(entry.name).pathname, bytes: (entry as PerformanceResourceTiming).encodedBodySize })),
  );
  await browser.close();
  const largest = [...files].sort((a, b) => b.bytes - a.bytes).slice(0, 5);
  if (!files.some(({ name, bytes }) => name.endsWith('.js') && bytes > 0)) throw new Error('No script was seen: was everything taken from a cache?');
  return [
    {
      what: 'first load as sent, with fonts, kB',
      measured: files.reduce((sum, { bytes }) => sum + bytes, 0) / 1000,
      limit: { atMost: 285 },
      detail: `${files.length} files; the largest: ${largest.map(({ name, bytes }) => `${name.replace('/assets/', '')} ${(bytes / 1000).toFixed(0)}`).join(', ')}`,
    },
  ];
}
