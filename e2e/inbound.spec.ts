import { expect, test } from './journey';
import { given, type Order } from './given';
import { enterLine, scan, signIn } from './person';

test('on a phone: goods without an order are received by scanning the bin and the goods', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, 'tom@larkmoor.example');
  await page.goto('/inbound/unordered');
  await expect(page.getByLabel('Into bin')).toBeVisible();
  await expect(page.getByLabel('Into bin').locator('option').filter({ hasText: 'A-01-1' }).first()).toBeAttached();
  await scan(page, 'A-01-1');
  await expect(page.getByLabel('Into bin').locator('option:checked')).toHaveText(/A-01-1/);
  await scan(page, 'SM-STD');
  await expect(page.getByLabel('Quantity of SM-STD')).toHaveValue('1');
  await page.getByLabel('Quantity of SM-STD').fill('3');
  await expect(page.getByLabel('Bin of SM-STD').locator('option:checked')).toHaveText(/A-01-1/);
  await expect(page.getByRole('region', { name: 'What this will change' }).getByText('on hand')).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.getByRole('button', { name: /Receive 1 line/ }).click();
  await expect(page.getByText('Received 1 line.')).toBeVisible();
});

test('equipment comes in without an order, its bill to follow; one goes back, and the credit for it is entered', async ({ page }) => {
  await signIn(page);
  await page.goto('/inbound/unordered');
  const from = page.getByRole('combobox', { name: 'From (or nobody)' });
  await from.click();
  await from.pressSequentially('ashg', { delay: 45 });
  await expect(page.getByRole('option', { name: 'Ashgrove Metalworks' })).toBeVisible();
  await from.press('Enter');
  await page.getByLabel('Paid already').selectOption('no');
  await enterLine(page, '2 EX-4', 'EX-4');
  await page.getByLabel('One costs: EX-4').fill('310.00');
  await page
    .getByLabel(/Serials/)
    .first()
    .fill('EQ-901\nEQ-902');
  await expect(page.getByText('All 2 serials given.')).toBeVisible();
  await page.getByRole('button', { name: 'Give our tags' }).click();
  await page.getByLabel('Tag of EQ-901').fill('TL-0901');
  await page.getByLabel('Tag of EQ-902').fill('TL-0031');
  await expect(page.getByText('TL-0031 is the tag of', { exact: false }).first()).toBeVisible();
  await page.getByLabel('Tag of EQ-902').fill('TL-0902');
  await page.getByRole('button', { name: /Receive 1 line/ }).click();
  await expect(page.getByText('Received 1 line.')).toBeVisible();

  await page.goto('/inbound?show=all');
  await page.getByLabel('Find purchase orders').fill('ashgrove');
  const first = page.getByRole('row').filter({ hasText: 'Ashgrove Metalworks' }).first();
  // Not before the others are gone: a row that moves is not pressed twice.
  await expect(async () => {
    const rows = await page.locator('tbody tr[aria-rowindex]').allTextContents();
    expect(rows.length > 0 && rows.every((text) => text.includes('Ashgrove Metalworks'))).toBe(true);
  }).toPass();
  await first.dblclick();
  await expect(page.getByText('Came in without an order')).toBeVisible();
  await page.getByRole('link', { name: 'Enter its bill' }).click();
  await page.getByLabel('Their number').fill('AM-31');
  await page.getByRole('button', { name: /Post bill of/ }).click();
  await expect(page.getByRole('heading', { name: /BILL-/ })).toBeVisible();
  await page.goBack();
  await page.goBack();

  await page.getByRole('link', { name: 'Return goods' }).click();
  await page.getByLabel('Why it goes back').fill('motor hums');
  await page.getByLabel(/Goes back, EX-4 from .* EQ-902/).fill('1');
  await page.getByRole('button', { name: 'A credit is expected' }).click();
  await page.getByRole('button', { name: /Send back 1 line/ }).click();
  await expect(page.getByRole('heading', { name: /^PO-/ })).toBeVisible();
  await page.getByRole('link', { name: 'Enter its bill' }).click();
  await page.getByLabel('Kind').selectOption('credit');
  await page.getByLabel('Their number').fill('AM-C1');
  await expect(page.getByText('for 1 sent back')).toBeVisible();
  await page.getByRole('button', { name: /Post credit of/ }).click();
  await expect(page.getByRole('heading', { name: /BILL-/ })).toBeVisible();
});

test('cracked goods go into quarantine at the desk, and back to the supplier from there', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  const siteId = await make.site();
  const itemId = await make.item('QUA-1', { purchasePrice: '4.00' });
  const supplierId = await make.supplier('Quarrel Pots');
  const order = await make.order(supplierId, siteId, [{ itemId, quantity: '10', price: '4.00' }]);
  await page.goto(`/inbound/desk?order=${order.id}`);
  await page.getByLabel(`Quantity of QUA-1 on ${order.number}`).fill('10');
  await page.getByLabel(`Damaged of QUA-1 on ${order.number}`).fill('3');
  await page.getByRole('button', { name: /Receive 1 line/ }).click();
  await expect(page.getByText('Received 1 line.')).toBeVisible();
  const { rows } = (await (await page.request.get(`/api/setup/bins?siteId=${siteId}`)).json()) as { rows: { id: number; sellable: boolean }[] };
  await page.goto(`/stock/bins/${rows.find(({ sellable }) => !sellable)?.id}`);
  await expect(page.getByText('quarantine: nothing here is sold')).toBeVisible();
  await page.getByRole('row').filter({ hasText: 'QUA-1' }).getByRole('link', { name: 'Send back' }).click();
  await expect(page.getByRole('heading', { name: 'Return to Quarrel Pots' })).toBeVisible();
  await expect(page.getByLabel('Goes back, QUA-1 from QUARANTINE')).toHaveValue('3');
  await page.getByLabel('Why it goes back').fill('cracked');
  await page.getByRole('button', { name: 'They will be replaced' }).click();
  await page.getByRole('button', { name: /Send back 1 line/ }).click();
  await expect(page.getByRole('heading', { name: order.number })).toBeVisible();
  expect((await make.orderNow(order.id)).lines[0]?.received).toBe('7');
});

test('of three units one is damaged, six of other goods go straight to the bench, and the effects say what will be', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  const run = Date.now().toString(36).toUpperCase();
  const [supplierId, siteId] = [await make.supplier(`Rough Road ${run}`), await make.site()];
  const unit = await make.item(`${run}-U`, { tracking: 'serial' });
  const placed = await make.order(supplierId, siteId, [{ itemId: unit, quantity: '3', price: '90.00' }]);
  await page.goto(`/inbound/desk?order=${placed.id}`);
  await page.getByRole('button', { name: `Take all 3 of ${run}-U on ${placed.number}` }).click();
  await page.getByLabel(`Serials of ${run}-U`).fill(`${run}-1..${run}-3`);
  await page.getByLabel(`Damaged of ${run}-U on ${placed.number}`).fill('1');
  await expect(page.getByText(`to quarantine ${run}-3`)).toBeVisible();
  const will = page.getByRole('region', { name: 'What receiving will change' });
  await expect(will.getByRole('row', { name: /on hand/ })).toContainText('2');
  await page.getByRole('button', { name: 'Receive 1 line' }).click();
  await expect(page.getByText('Received 1 line.')).toBeVisible();
  await page.goto(`/items/units?q=${run}-3`);
  await expect(page.getByRole('row').filter({ hasText: `${run}-3` })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: `${run}-3`, exact: true })).toBeVisible();
  await expect(page.getByRole('main')).toContainText('QUARANTINE');
  await page.getByRole('link', { name: 'Send back' }).click();
  await expect(page.getByLabel(`Goes back, ${run}-U from QUARANTINE ${run}-3`)).toHaveValue('1');
});

test('a mixed pallet is scanned, held to three of seven deliveries, with a short line, a scan too many and a lost connection', async ({
  page,
  context,
  browser,
  baseURL,
}) => {
  await signIn(page);
  const { supplier, site, item, order, orderNow } = given(page);
  const run = Date.now().toString(36).toUpperCase();
  const [supplierId, siteId] = [await supplier(`Pallet Goods ${run}`), await site()];
  const [first, second] = [await item(`${run}-X`, {}), await item(`${run}-Y`, {})];
  const orders: Order[] = [];
  for (let n = 0; n < 7; n += 1)
    orders.push(
      await order(supplierId, siteId, [
        { itemId: first, quantity: '3', price: '2.00' },
        { itemId: second, quantity: '2', price: '5.00' },
      ]),
    );
  const held = [1, 3, 5].map((at) => orders[at] as Order);
  await page.goto('/inbound/desk');
  for (const { number } of held) await page.getByRole('checkbox', { name: `Hold to ${number}` }).click();
  await expect(page.getByText('held to 3 orders')).toBeVisible();
  const scanned = page.getByRole('region', { name: 'Scanned' }).getByRole('listitem');
  const counted = (sku: string, at: Order) => page.getByLabel(`Quantity of ${sku} on ${at.number}`, { exact: true });
  for (let n = 0; n < 5; n += 1) await scan(page, `${run}-X`);
  await expect(scanned).toHaveCount(5);
  // The connection is lost in the middle; nothing is.
  await context.setOffline(true);
  for (let n = 0; n < 4; n += 1) await scan(page, `${run}-X`);
  await expect(page.getByText(/changes not sent yet; kept on this machine/)).toBeVisible();
  await expect(counted(`${run}-X`, held[2] as Order)).toHaveValue('3');
  await context.setOffline(false);
  await expect(page.getByText('Each scan counts one; 12 and a code counts twelve')).toBeVisible();
  await scan(page, `${run}-X`);
  await expect(page.getByText(`No open line wants more ${run}-X.`)).toBeVisible();
  await page.getByRole('button', { name: 'Put it aside' }).click();
  await expect(page.getByRole('region', { name: 'Put aside' })).toContainText(`1 × ${run}-X`);
  for (let n = 0; n < 6; n += 1) await scan(page, `${run}-Y`);
  await expect(counted(`${run}-Y`, held[2] as Order)).toHaveValue('2');
  await page.getByRole('button', { name: 'Take the scan back' }).click();
  await expect(counted(`${run}-Y`, held[2] as Order)).toHaveValue('1');
  await page.getByLabel('The other 1 will not come').check();
  await page.getByLabel('Packing note').fill('DN 7');
  await expect(page.getByText('Each scan counts one; 12 and a code counts twelve')).toBeVisible();

  // The same count waits on another machine, and is received there.
  const other = await browser.newPage({ baseURL: baseURL ?? '' });
  await signIn(other);
  await other.goto(page.url());
  await expect(other.getByLabel('Packing note')).toHaveValue('DN 7');
  await expect(other.getByLabel(`Quantity of ${run}-X on ${held[0]?.number ?? ''}`)).toHaveValue('3');
  await other.getByRole('button', { name: /Receive 6 lines/ }).click();
  await expect(other.getByText('Received 6 lines.')).toBeVisible();
  await other.close();
  const now = await Promise.all(orders.map(({ id }) => orderNow(id)));
  expect(now.map(({ state }) => state)).toEqual(['placed', 'received', 'placed', 'received', 'placed', 'received', 'placed']);
  expect(now[5]?.lines.map(({ received, cancelled }) => [received, cancelled])).toEqual([
    ['3', '0'],
    ['1', '1'],
  ]);
});

test('lots and serials come in at the desk, one lot is sold in part and goes back in part, and its trace tells all of it', async ({ page }) => {
  await signIn(page);
  const { supplier, site, item, order, orderNow, sell } = given(page);
  const run = Date.now().toString(36).toUpperCase();
  const [supplierId, siteId] = [await supplier(`Traced Goods ${run}`), await site()];
  const [strips, motor] = [await item(`${run}-L`, { tracking: 'lot' }), await item(`${run}-S`, { tracking: 'serial' })];
  const placed = await order(supplierId, siteId, [
    { itemId: strips, quantity: '20', price: '3.00' },
    { itemId: motor, quantity: '2', price: '80.00' },
  ]);
  await page.goto(`/inbound/desk?order=${placed.id}`);
  // Something counted on another order is not received with what the desk is held to.
  const aside = await order(supplierId, siteId, [{ itemId: await item(`${run}-O`, {}), quantity: '9', price: '1.00' }]);
  await page.goto(`/inbound/desk?order=${aside.id}`);
  await page.getByLabel(`Quantity of ${run}-O on ${aside.number}`).fill('4');
  await page.goto(`/inbound/desk?order=${placed.id}`);
  await expect(page.getByText('counted in part; that waits')).toBeVisible();
  await page.getByRole('button', { name: `Take all of ${placed.number}` }).click();
  await page.getByLabel(`Lot of ${run}-L`).fill('A7');
  await page.getByLabel('How many').fill('15');
  await expect(page.getByText(`5 of 20 of ${run}-L still missing`)).toBeVisible();
  await page.getByRole('button', { name: 'Another lot' }).click();
  await page.getByLabel(`Lot of ${run}-L`).nth(1).fill('A8');
  await page.getByLabel('How many').nth(1).fill('5');
  await page.getByLabel('Use by').first().fill('+400');
  await page.getByLabel('Use by').nth(1).fill('+500');
  await page.getByLabel(`Serials of ${run}-S`).fill(`${run}-1`);
  await expect(page.getByText('1 of 2 serials still missing')).toBeVisible();
  await page.getByLabel(`Serials of ${run}-S`).fill(`${run}-1..${run}-2`);
  await page.getByRole('button', { name: /Receive 2 lines/ }).click();
  await expect(page.getByText('Received 2 lines.')).toBeVisible();
  expect((await orderNow(aside.id)).lines[0]?.received).toBe('0');
  await page.goto(`/inbound/desk?order=${aside.id}`);
  await page.getByRole('button', { name: 'Start over' }).click();
  // A serial that is here already is refused where it is entered.
  const again = await order(supplierId, siteId, [{ itemId: motor, quantity: '1', price: '80.00' }]);
  await page.goto(`/inbound/desk?order=${again.id}`);
  await page.getByRole('button', { name: `Take all of ${again.number}` }).click();
  await page.getByLabel(`Serials of ${run}-S`).fill(`${run}-2`);
  await expect(page.getByText(new RegExp(`${run}-2 is here already: Barn store`)).first()).toBeVisible();
  await page.getByLabel(`Serials of ${run}-S`).fill(`${run}-3`);
  await page.getByRole('button', { name: /Receive 1 line/ }).click();
  await expect(page.getByText('Received 1 line.')).toBeVisible();

  const sold = await sell('Copse Lane School', siteId, strips, '6');
  await page.goto(`/inbound/orders/${placed.id}/return`);
  await page.getByLabel('Why it goes back').fill('smells wrong');
  await page.getByLabel(new RegExp(`Goes back, ${run}-L from .* A7`)).fill('4');
  await page.getByRole('button', { name: 'A credit is expected' }).click();
  await page.getByRole('button', { name: /Send back 1 line/ }).click();
  await expect(page.getByRole('heading', { name: placed.number })).toBeVisible();

  await page.goto(`/stock/trail?item=${strips}`);
  await page.getByRole('link', { name: 'A7' }).first().click();
  await expect(page.getByRole('region', { name: 'Here', exact: true })).toContainText('5');
  const came = page.getByRole('region', { name: 'Where it came from' });
  await expect(came).toContainText(placed.number);
  await expect(came).toContainText('4 sent back');
  const went = page.getByRole('region', { name: 'Where it went' });
  await expect(went).toContainText('6 to 1 customer, 5 here');
  await expect(went).toContainText('Copse Lane School');
  await expect(went.getByRole('link', { name: sold.number })).toBeVisible();
});
