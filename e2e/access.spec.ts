import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { signIn } from './person';

const views = [
  '/',
  '/items',
  '/items/1',
  '/items/families',
  '/items/families/1',
  '/items/families/new',
  '/stock/opening?item=1',
  '/stock/lots/1',
  '/labels?items=1',
  '/import?kind=items',
  '/setup/bins',
  '/inbound',
  '/inbound/desk',
  '/inbound/orders/new',
  '/stock',
  '/stock/trail',
  '/stock/correction?item=1',
  '/outbound',
  '/outbound/orders/new',
  '/planning',
  '/books',
  '/books/bills/new?party=2&name=Brightwick%20Glass',
  '/books/bills/1',
  '/books/landed',
  '/books/landed/2',
  '/books/clearing',
  '/books/accounts',
  '/books/accounts/1',
  '/books/journal',
  '/setup',
];

for (const colorScheme of ['light', 'dark'] as const) {
  test(`axe finds nothing on any main view (${colorScheme})`, async ({ page }) => {
    await page.emulateMedia({ colorScheme });
    await signIn(page);
    for (const view of views) {
      await page.goto(view);
      await page.waitForLoadState('networkidle');
      await expect(page.getByRole('heading', { level: 1 }).first()).toBeVisible();
      expect(await page.title()).toMatch(/ · Tidy Larder$/);
      const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze();
      expect(
        violations.map(
          ({ id, nodes }) =>
            `${view}: ${id} at ${nodes
              .map(({ target }) => target.join(' '))
              .slice(0, 3)
              .join('; ')}`,
        ),
      ).toEqual([]);
    }
  });
}

test('on a phone nothing on the floor is wider than the screen', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page);
  for (const view of ['/', '/inbound/desk', '/stock', '/stock/correction?item=1', '/stock/opening?item=1', '/stock/lots/1', '/items', '/outbound']) {
    await page.goto(view);
    await page.waitForLoadState('networkidle');
    expect([view, await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([view, 390]);
    await expect(page.getByRole('combobox', { name: 'Scan bar' })).toBeInViewport();
  }
});
