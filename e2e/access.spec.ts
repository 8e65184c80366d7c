import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from './journey';
import { signIn } from './person';

const views = {
  items: [
    '/',
    '/items',
    '/items/1',
    '/items/1?show=facts',
    '/items/1?show=codes',
    '/items/1?show=suppliers',
    '/items/families',
    '/items/families/1',
    '/items/families/new',
    '/items/units?columns=2',
    '/stock/lots/1',
    '/stock/lots/1/recall',
    '/labels?items=1',
  ],
  stock: [
    '/stock',
    '/stock?asOf=2026-06-15',
    '/stock/move?from=9',
    '/stock/look-up?item=1',
    '/kept',
    '/stock/put-away',
    '/stock/corrections',
    '/stock/loans?show=all',
    '/stock/loans/new?items=1,2',
    '/stock/loans/1',
    '/stock/holders?show=all',
    '/stock/holders/:holder',
    '/stock/counts?show=all',
    '/stock/counts/new',
    '/stock/counts/calendar',
    '/stock/counts/1',
    '/stock/counts/2',
    '/stock/trail',
    '/stock/transfers',
    '/stock/transfers/proposals',
    '/stock/transfers/new?items=1,2',
    '/stock/transfers/1',
    '/stock/transfers/2',
    '/stock/correction?item=1',
    '/stock/opening?item=1',
    '/planning',
    '/setup/bins',
    '/import?kind=items',
  ],
  orders: ['/inbound', '/inbound/desk', '/inbound/orders/new', '/inbound/suppliers/1', '/post', '/outbound', '/outbound/orders/new'],
  selling: [
    '/outbound/orders/:short',
    '/outbound/orders/:short/change',
    '/outbound/prices',
    '/outbound/prices/1',
    '/outbound/margin?by=item',
    '/outbound/picking',
    '/outbound/lines?show=to-order',
    '/outbound/direct?orders=:short',
  ],
  setup: [
    '/setup',
    '/me',
    '/setup?section=categories',
    '/setup?section=units',
    '/setup?section=taxes',
    '/setup?section=carriers',
    '/setup?section=making',
    '/setup?section=planning',
    '/setup?section=attributes',
    '/inbound/suppliers',
    '/outbound/customers',
    '/outbound/customers/new',
  ],
  placed: ['/inbound/orders/1', '/inbound/orders/1/change', '/inbound/orders/1/send', '/inbound/orders/:direct/delivered'],
  bills: ['/books', '/books/bills/new?party=2&name=Brightwick%20Glass', '/books/bills/1', '/books/landed', '/books/landed/2', '/books/clearing'],
  invoices: [
    '/outbound/to-invoice',
    '/books/invoices',
    '/books/invoices/new?orders=:gone',
    '/books/invoices/new?orders=:gone&each=1',
    '/books/invoices/:owed',
    '/books/invoices/:owed/credit',
    '/books/invoices/:owed/send',
    '/books/debtors',
    '/books/debtors/:debtor',
    '/setup?section=papers',
  ],
  returns: [
    '/outbound/returns',
    '/outbound/returns/new?customer=:buyer',
    '/outbound/returns/:expected',
    '/outbound/returns/:credited',
    '/outbound/returns/report?by=item',
  ],
  making: [
    '/making/orders',
    '/making/orders/:work',
    '/making/orders/:work?do=record',
    '/making/orders/new',
    '/making/board',
    '/making/untaken',
    '/making/can-make?at=1',
    '/making/items/:made',
    '/making/boms',
    '/making/boms/1',
    '/making/boms/new',
    '/items/1?show=making',
  ],
  planning: ['/planning/levels?state=all', '/planning/levels/1/1', '/planning/low', '/planning/events', '/alerts', '/alerts/settings', '/alerts/all'],
  accounts: ['/books/accounts', '/books/accounts/12', '/books/journal?q=BILL-1001', '/books/departments', '/books/own-use', '/books/handover'],
};

/** What stands for a name in an address: the first row of a list of the demo. */
const named = {
  ':gone': ['/api/invoices/to-invoice', 'orderId'],
  ':owed': ['/api/invoices?show=open', 'id'],
  ':buyer': ['/api/returns?show=received', 'customerId'],
  ':expected': ['/api/returns?show=expected', 'id'],
  ':credited': ['/api/returns?show=received', 'id'],
  ':debtor': ['/api/invoices/debtors', 'partyId'],
  ':holder': ['/api/holders', 'id'],
  ':made': ['/api/making/boms', 'itemId'],
  ':work': ['/api/making/orders', 'id'],
} as const;

/** The order of the demo that goes straight to a customer stands for `:direct`, the one of a customer that is short for `:short`. */
async function addressOf(page: Page, path: string): Promise<string> {
  for (const [name, [list, key]] of Object.entries(named))
    if (path.includes(name)) {
      const { rows } = (await (await page.request.get(list)).json()) as { rows: Record<string, number>[] };
      return path.replace(name, String(rows[0]?.[key]));
    }
  if (path.includes(':short')) {
    const open = (await (await page.request.get('/api/outbound/orders?show=open')).json()) as { rows: { id: number; short: string }[] };
    return path.replace(':short', String(open.rows.find(({ short }) => Number(short) > 0)?.id));
  }
  if (!path.includes(':direct')) return path;
  const answer = (await (await page.request.get('/api/inbound/orders?show=all&to=customer')).json()) as { rows: { id: number }[] };
  return path.replace(':direct', String(answer.rows.at(-1)?.id));
}

/** Axe, which tells what is wrong and not at length what is right. */
const axeOn = (page: Page): AxeBuilder => new AxeBuilder({ page }).options({ resultTypes: ['violations'] });

/** What axe finds, as "view: rule at places". */
async function found(page: Page, view: string, axe: AxeBuilder): Promise<string[]> {
  // Rows of a table are alike: the first five stand for all. No page has frames, so axe need not open a page of its own to gather them.
  const { violations } = await axe.setLegacyMode(true).exclude('tbody tr:nth-child(n+6)').analyze();
  return violations.map(
    ({ id, nodes }) =>
      `${view}: ${id} at ${nodes
        .map(({ target }) => target.join(' '))
        .slice(0, 3)
        .join('; ')}`,
  );
}

// Or a page that hears what others change would never be at rest.
test.beforeEach(({ page }) => page.route(/\/api\/live/, (route) => route.fulfill({ status: 204 })));

// In the dark only colours differ, so only they are looked at again.
for (const [area, paths] of Object.entries(views)) {
  test(`axe finds nothing on any main view of ${area}, light and dark`, async ({ page }) => {
    await signIn(page);
    for (const written of paths) {
      const path = await addressOf(page, written);
      await page.emulateMedia({ colorScheme: 'light' });
      await page.goto(path);
      await page.waitForLoadState('networkidle');
      await expect(page.getByRole('heading', { level: 1 }).first()).toBeVisible();
      expect(await page.title()).toMatch(/ · Tidy Larder$/);
      expect(await found(page, path, axeOn(page).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']))).toEqual([]);
      const light = await page.evaluate(() => getComputedStyle(document.body).backgroundColor);
      await page.emulateMedia({ colorScheme: 'dark' });
      await expect.poll(() => page.evaluate(() => getComputedStyle(document.body).backgroundColor)).not.toBe(light);
      expect(await found(page, `${path} in the dark`, axeOn(page).withRules(['color-contrast', 'link-in-text-block']))).toEqual([]);
    }
  });
}

test('on a phone nothing on the floor is wider than the screen', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page);
  for (const view of [
    '/',
    '/inbound/desk',
    '/inbound/orders/1/change',
    '/inbound/suppliers/1',
    '/stock',
    '/stock/correction?item=1',
    '/stock/opening?item=1',
    '/stock/lots/1',
    '/stock/transfers',
    '/stock/transfers/new?items=1,2',
    '/stock/transfers/2',
    '/stock/counts/1',
    '/stock/counts/calendar',
    '/stock/look-up',
    '/stock/move',
    '/stock/put-away',
    '/kept',
    '/items',
    '/outbound',
    '/outbound/returns/new?customer=1',
  ]) {
    await page.goto(view);
    await page.waitForLoadState('networkidle');
    expect([view, await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([view, 390]);
    await expect(page.getByRole('combobox', { name: 'Scan bar' })).toBeInViewport();
    await expect(page.getByRole('navigation', { name: 'Areas' })).toBeInViewport({ ratio: 1 });
  }
});

test('on a phone the areas are under the thumb, and what is touched on the floor is large enough', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page);
  const bar = page.getByRole('navigation', { name: 'Areas' });
  for (const [area, heading] of [
    ['Stock', 'Stock'],
    ['Outbound', 'Outbound'],
    ['Inbound', 'Inbound'],
  ] as const) {
    await bar.getByRole('link', { name: area }).click();
    await expect(page.getByRole('heading', { level: 1, name: heading })).toBeVisible();
    await expect(bar.getByRole('link', { name: area })).toHaveAttribute('aria-current', 'page');
  }
  await bar.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Setup' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Setup' })).toBeVisible();
  await page.getByRole('button', { name: /^Signed in as .*, All sites/ }).click();
  await page.getByRole('menuitemradio', { name: 'Barn store' }).click();
  await expect(page.getByRole('button', { name: /^Signed in as .*, Barn store/ })).toBeVisible();
  for (const view of [
    '/inbound/desk',
    '/stock',
    '/stock/transfers/1',
    '/stock/correction?item=1',
    '/stock/look-up',
    '/stock/move',
    '/stock/put-away',
    '/kept',
    '/outbound',
  ]) {
    await page.goto(view);
    await page.waitForLoadState('networkidle');
    const small = await page.evaluate(() =>
      [...document.querySelectorAll('main button, main select, footer button, footer a, footer input')]
        .map((target) => ({
          what: target.getAttribute('aria-label') ?? target.textContent,
          height: target.closest('.MuiInputBase-root')?.clientHeight ?? target.clientHeight,
        }))
        .filter(({ height }) => height > 1 && height < 40),
    );
    expect([view, small]).toEqual([view, []]);
  }
});
