import { given } from './given';
import { expect, test } from './journey';
import { scan, signIn } from './person';

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, serviceWorkers: 'allow' });

test('a phone loses its connection for more than ten scans: it opens, knows codes, moves, picks, counts and receives; all of it goes once, and what somebody else was first at is shown', async ({
  page,
  context,
}) => {
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const [from, to, third] = (await make.bins(barn, ['Y-01', 'Y-02', 'Y-03'], 'Aisle Y')) as [number, number, number];
  const [smoker, brush, tool, veil] = [await make.item('OFF-1', {}), await make.item('OFF-2', {}), await make.item('OFF-3', {}), await make.item('OFF-4', {})];
  await make.put(smoker, from, '20');
  await make.put(brush, from, '6');
  await make.put(tool, to, '5');
  const order = await make.confirmed('Copse Lane School', barn, brush, '2');
  const round = await make.round(barn, [order.id]);
  const count = await make.count(barn, [third]);
  const delivery = await make.order(await make.supplier('Offline Joinery'), barn, [{ itemId: veil, quantity: '3', price: '4.00' }]);

  // The phone holds what its site works with, and the application itself.
  await page.goto('/');
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => true));
  const isHeld = () =>
    page.evaluate(
      ({ site, item }) =>
        new Promise<boolean>((found) => {
          const opened = indexedDB.open('tidy-larder');
          opened.onsuccess = () => {
            const asked = opened.result.transaction('answers').objectStore('answers').get(`/api/floor/sites/${site}`);
            asked.onsuccess = () => {
              opened.result.close();
              const lying = (asked.result as { data: { lying: { itemId: number }[] } } | undefined)?.data.lying ?? [];
              found(lying.some(({ itemId }) => itemId === item));
            };
          };
        }),
      { site: barn, item: tool },
    );
  await expect.poll(isHeld).toBe(true);

  await context.setOffline(true);
  await page.goto('/stock/move');
  const connection = page.getByRole('status', { name: 'Connection' });
  await expect(connection).toContainText('No connection');
  await expect(page.getByText('Scan the bin where the goods lie')).toBeVisible();
  await scan(page, 'Y-01');
  await expect(page.getByLabel('Move of OFF-1')).toBeVisible();
  await scan(page, 'OFF-1');
  await scan(page, 'off-1');
  await expect(page.getByLabel('Move of OFF-1')).toHaveValue('2');
  // What means nothing is refused as with a connection.
  await scan(page, 'NO-SUCH-CODE');
  await expect(page.getByText('NO-SUCH-CODE does not lie in Y-01.')).toBeVisible();
  await scan(page, 'Y-02');
  await expect(page.getByText(/^Moved 2 of OFF-1 from Y-01 to Y-02\. Scan/)).toBeVisible();
  await expect(connection).toContainText('1 thing is kept and goes in order, once.');

  // The next bin is as it is after that; more than lies there is refused here already.
  await scan(page, 'Y-02');
  await expect(page.getByRole('row', { name: /OFF-1/ })).toContainText('there 2');
  await page.getByLabel('Move of OFF-3').fill('6');
  await scan(page, 'Y-03');
  await expect(page.getByText('Y-02 holds 5 of OFF-3, not 6.').first()).toBeVisible();
  await page.getByLabel('Move of OFF-3').fill('5');
  await scan(page, 'Y-03');
  await expect(page.getByText(/^Moved 5 of OFF-3 from Y-02 to Y-03\. Scan/)).toBeVisible();

  // A round is picked, and is not asked for again.
  await page.goto(`/outbound/rounds/${round}`);
  await expect(page.getByRole('table', { name: 'Pick list' })).toBeVisible();
  await scan(page, 'OFF-2');
  await scan(page, 'OFF-2');
  await page.getByRole('button', { name: /^Put 1 line on the bench/ }).click();
  await expect(page.getByText(/on the bench\. Kept on this phone/)).toBeVisible();

  // A bin is counted.
  await page.goto(`/stock/counts/${count}/${third}`);
  await expect(page.getByText('you are counting it')).toBeVisible();
  for (let n = 0; n < 4; n += 1) await scan(page, 'OFF-4');
  await expect(page.getByLabel('Counted of OFF-4')).toHaveValue('4');
  await page.getByRole('button', { name: 'Y-03 is counted' }).click();
  await expect(page.getByText('Y-03 is counted.')).toBeVisible();

  // A delivery is counted and received.
  await page.goto('/inbound/desk');
  await expect(page.getByText('Offline Joinery').first()).toBeVisible();
  await scan(page, 'OFF-4');
  await scan(page, 'OFF-4');
  await page.getByRole('button', { name: /^Receive 1 line/ }).click();
  await expect(page.getByText(/^Received 1 line\. Kept on this phone/)).toBeVisible();

  // Where a thing lies is known, as it is after all of this.
  await page.goto('/stock/look-up');
  await expect(page.getByText('Scan a thing, a lot or a unit')).toBeVisible();
  await scan(page, 'OFF-1');
  const lies = page.getByRole('table', { name: 'Where OFF-1 lies' });
  await expect(lies.getByRole('row').filter({ hasText: 'Y-01' })).toContainText('18');
  await expect(lies.getByRole('row').filter({ hasText: 'Y-02' })).toContainText('2');

  // It is closed and opened again: everything waits still, in its order.
  await page.goto('/kept');
  const waits = page.getByRole('table', { name: 'Waits' });
  await expect(waits.getByRole('link').first()).toHaveText('Move 2 of OFF-1 from Y-01 to Y-02');
  await expect(waits.getByRole('link', { name: 'Move 5 of OFF-3 from Y-02 to Y-03' })).toBeVisible();
  await expect(waits.getByRole('link', { name: /^Receive 1 line of / })).toBeVisible();

  // Meanwhile somebody else takes of the hive tools. Then the connection is back.
  expect(await make.lying(smoker)).toEqual(['Y-01 20']);
  await make.move(tool, '3', to, from);
  await context.setOffline(false);
  await expect(connection).toHaveText(/^\s*1 thing was not taken\. Sort it out$/, { timeout: 90_000 });
  expect((await make.lying(smoker)).sort()).toEqual(['Y-01 18', 'Y-02 2']);
  expect((await make.lying(tool)).sort()).toEqual(['Y-01 3', 'Y-02 2']);
  expect(await make.lying(brush)).toEqual(['Y-01 4']);
  expect((await make.orderNow(delivery.id)).lines[0]?.received).toBe('2');
  const refused = page.getByRole('table', { name: 'Not taken' });
  await expect(refused).toContainText('Move 5 of OFF-3 from Y-02 to Y-03');
  await expect(refused).toContainText('Y-02 holds 2 of OFF-3, not 5.');
  await refused.getByRole('button').click();
  await expect(page.getByText('Nothing waits: all that was done here is with the server.')).toBeVisible();
  await expect(connection).toHaveCount(0);
});
