import { given } from './given';
import { expect, test } from './journey';
import { signIn } from './person';

test('what a hive is made of is written down over two levels, costs what its parts cost, and is made as far as they are free; what is missing is ordered', async ({
  page,
}) => {
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const supplierId = await make.supplier('Journey Joinery');
  const part = (sku: string, price: string) => make.item(sku, { purchasePrice: price, suppliers: [{ supplierId, price }] });
  const hive = await make.item('MK-HIVE', { purchasePrice: '70.00' });
  const box = await make.item('MK-BOX', {});
  const board = await part('MK-BOARD', '2.00');
  const roof = await part('MK-ROOF', '9.00');
  for (const [itemId, many] of [
    [board, '50'],
    [roof, '3'],
  ] as const)
    await make.opening(itemId, barn, many);

  // The box first, from the item's own page.
  await page.goto(`/items/${box}?show=making`);
  await page.getByRole('link', { name: 'Say what it is made of' }).click();
  await expect(page.getByText('Makes MK-BOX')).toBeVisible();
  const newPart = page.getByRole('combobox', { name: 'New part' });
  await newPart.pressSequentially('8 mk-board', { delay: 45 });
  await expect(page.getByRole('option', { name: 'MK-BOARD' })).toBeVisible();
  await newPart.press('Enter');
  await expect(page.getByLabel('How many MK-BOARD')).toHaveValue('8');
  await page.getByLabel('Waste of MK-BOARD, per cent on top').fill('25');
  const costs = page.getByRole('region', { name: 'What one costs' });
  // Ten boards at 2.00.
  await expect(costs.getByRole('row', { name: /^Made 20\.00/ })).toBeVisible();
  await page.getByRole('button', { name: 'Add a cost' }).click();
  await page.getByLabel('Cost 1', { exact: true }).fill('Joiner');
  await page.getByLabel('How many of cost 1').fill('0.5');
  await page.getByLabel('Rate of cost 1').fill('18');
  await page.getByLabel('Account of cost 1').selectOption({ label: '5400 Labour put into goods' });
  await expect(costs.getByRole('row', { name: /^Made 29\.00/ })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('What MK-BOX is made of is written down.')).toBeVisible();

  // Then the hive, which takes two of them.
  await page.goto('/making/boms/new');
  const made = page.getByRole('combobox', { name: 'What is made' });
  await made.pressSequentially('mk-hive', { delay: 45 });
  await expect(page.getByRole('option', { name: 'MK-HIVE' })).toBeVisible();
  await made.press('Enter');
  await expect(page.getByText('Makes MK-HIVE')).toBeVisible();
  for (const [words, sku] of [
    ['2 mk-box', 'MK-BOX'],
    ['1 mk-roof', 'MK-ROOF'],
  ] as const) {
    await newPart.click();
    await newPart.pressSequentially(words, { delay: 45 });
    await expect(page.getByRole('option', { name: sku })).toBeVisible();
    await newPart.press('Enter');
    await expect(page.getByLabel(`How many ${sku}`)).toBeFocused();
  }
  await expect(costs.getByRole('row', { name: /^Made 60\.00/ })).toBeVisible();
  await expect(costs.getByRole('row', { name: /^Made costs less by 10\.00/ })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('What MK-HIVE is made of is written down.')).toBeVisible();

  // A board cannot be made of hives.
  await page.goto(`/making/boms/new?item=${board}`);
  await newPart.pressSequentially('mk-hive', { delay: 45 });
  await expect(page.getByRole('option', { name: 'MK-HIVE' })).toBeVisible();
  await newPart.press('Enter');
  await expect(page.getByLabel('How many MK-HIVE')).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(
    page.getByText('MK-BOARD would contain itself: MK-BOARD contains MK-HIVE, which contains MK-BOX, which contains MK-BOARD.').first(),
  ).toBeVisible();

  // Fifty boards make five boxes, so two hives; four want thirty more boards and a roof.
  await page.goto(`/making/can-make?at=${barn}&q=mk-`);
  const rows = page.getByRole('table', { name: 'Can be made' });
  await expect(rows.getByRole('row').filter({ hasText: 'MK-HIVE' })).toContainText(/MK-HIVE.*2MK-BOARD/);
  await page.goto(`/making/items/${hive}?at=${barn}&many=4`);
  const needed = page.getByRole('table', { name: 'Needed' });
  await expect(needed.getByRole('row', { name: /^MK-BOARD/ })).toContainText('30');
  await expect(needed.getByRole('row', { name: /^MK-ROOF/ })).toContainText('from Journey Joinery');
  await page.getByRole('button', { name: /^Order 2 parts/ }).click();
  await page.getByRole('link', { name: /^PO-.*Journey Joinery/ }).click();
  const lines = page.getByRole('table', { name: 'Lines' });
  await expect(lines.getByRole('row', { name: /MK-BOARD/ })).toBeVisible();
  await expect(lines.getByRole('row', { name: /MK-ROOF/ })).toBeVisible();
  // Where it goes stands with the part.
  await page.goto(`/items/${board}?show=making`);
  await expect(page.getByRole('table', { name: 'Goes into' }).getByRole('row', { name: /^MK-HIVE/ })).toContainText('20 in one');
});

test('hives of eleven parts over two levels are made: taken by phone with one short, recorded otherwise than planned, finished in two parts, the rest as an order of its own', async ({
  page,
  browser,
  baseURL,
}) => {
  test.setTimeout(180_000);
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const hive = await make.item('MW-HIVE', { name: 'Journey hive' });
  const box = await make.item('MW-BOX', { name: 'Journey box' });
  const names = ['BOARD', 'SCREW', 'FLOOR', 'ROOF', 'CROWN', 'EXCL', 'FRAME', 'STRAP', 'REDUC', 'FEED', 'PLATE'];
  const parts: Record<string, number> = {};
  for (const name of names) {
    parts[name] = await make.item(`MW-${name}`, {});
    await make.opening(parts[name], barn, name === 'ROOF' ? '2' : '60');
  }
  const of = (name: string, quantity: string) => ({ itemId: parts[name] as number, quantity });
  await make.bom(box, [of('BOARD', '4'), of('SCREW', '8')]);
  await make.bom(hive, [{ itemId: box, quantity: '1' }, ...names.slice(2).map((name) => of(name, name === 'FRAME' ? '10' : '1'))]);

  // The boxes first: planned, released, taken and recorded just as the bill says.
  await page.goto(`/making/orders/new?item=${box}&site=${barn}&many=3`);
  await expect(page.getByRole('table', { name: 'What goes in, by the bill' }).getByRole('row', { name: /^MW-BOARD/ })).toContainText('12');
  await page.getByRole('button', { name: /^Plan and release 3 MW-BOX/ }).click();
  await expect(page.getByRole('heading', { name: /^WO-/ })).toBeVisible();
  await page.getByRole('button', { name: /^Take the parts/ }).click();
  await page.getByRole('button', { name: /^Take 2 lines to the work/ }).click();
  await expect(page.getByRole('table', { name: 'What goes in' }).getByRole('row', { name: /^MW-SCREW/ })).toContainText('all taken');
  await expect(page.getByRole('region', { name: 'What it holds' })).toBeVisible();
  await page.getByRole('button', { name: /^Record what was made/ }).click();
  await expect(page.getByLabel('Really used of MW-SCREW')).toHaveValue('24');
  const cost = page.getByRole('region', { name: 'What it costs' });
  // Four boards and eight screws at 2.00.
  await expect(cost.getByRole('row', { name: /^One MW-BOX/ })).toContainText('24.00');
  await page.getByRole('button', { name: /^Complete 3/ }).click();
  await expect(page.getByText(/3 MW-BOX made on WO-/).first()).toBeVisible();

  // Three hives: one roof is short. Somebody takes the parts by phone, and finds one strap fewer.
  await page.goto(`/making/orders/new?item=${hive}&site=${barn}&many=3`);
  await page.getByRole('button', { name: /^Plan and release 3 MW-HIVE/ }).click();
  const goesIn = page.getByRole('table', { name: 'What goes in' });
  await expect(goesIn.getByRole('row', { name: /^MW-ROOF/ })).toContainText('1 short, nothing comes');
  const address = page.url();
  const phone = await browser.newContext({ ...(baseURL === undefined ? {} : { baseURL }), viewport: { width: 390, height: 844 }, hasTouch: true });
  const floor = await phone.newPage();
  await signIn(floor, 'tom@larkmoor.example');
  await floor.goto(`${new URL(address).pathname}?do=take`);
  await floor
    .getByLabel(/of MW-STRAP/)
    .first()
    .fill('2');
  await floor.getByLabel('Why fewer than asked').fill('one was broken');
  await floor.getByRole('button', { name: /^Take \d+ lines to the work/ }).click();
  await expect(floor.getByRole('button', { name: /^Record what was made|^Take the parts/ }).first()).toBeVisible();
  await phone.close();

  // One is done, with a frame more than planned.
  await expect(goesIn.getByRole('row', { name: /^MW-STRAP/ })).toContainText('2');
  await page.goto(`${address}?do=record`);
  await page.getByLabel('Good of MW-HIVE').fill('1');
  await expect(page.getByLabel('Really used of MW-FRAME')).toHaveValue('10');
  await page.getByLabel('Really used of MW-FRAME').fill('11');
  await page.getByRole('button', { name: /^Record 1/ }).click();
  await expect(page.getByText(/1 MW-HIVE made on WO-/).first()).toBeVisible();

  // The next took two straps, of which one was never taken from a shelf; the rest goes on as another order.
  await page.goto(`${address}?do=record`);
  await page.getByLabel('Good of MW-HIVE').fill('1');
  await page.getByLabel('What is left, 1,').selectOption('becomes an order of its own');
  await page.getByLabel('Really used of MW-STRAP').fill('2');
  const block = page.getByRole('alert', { name: 'This cannot be completed yet' });
  await expect(block).toBeVisible();
  await expect(page.getByRole('row', { name: /^MW-STRAP/ })).toContainText('1 used, never taken from a shelf');
  await block.getByRole('button', { name: /^Take it now/ }).click();
  await expect(block).toBeHidden();
  await expect(page.getByLabel('Really used of MW-STRAP')).toHaveValue('2');
  await page.getByRole('button', { name: /^Complete 1/ }).click();
  const held = page.getByRole('region', { name: 'What it holds' });
  await expect(held.getByRole('row', { name: /^Rest of WO-/ })).toBeVisible();
  await expect(goesIn.getByRole('row', { name: /^MW-ROOF/ })).toContainText('1 short');
  await expect(goesIn.getByRole('row', { name: /^MW-FLOOR/ })).toContainText('all taken');
  await held.getByRole('link', { name: /^WO-/ }).click();
  await expect(page.getByText('The rest goes on as')).toBeVisible();
  await expect(held.getByRole('row', { name: /^In progress/ })).toContainText('0.00');
  await expect(page.getByRole('region', { name: 'Recorded' })).toContainText('1 made');
});

test('a hive that came back is taken apart: a board of it is no good, the others are worth what it had cost; and it is put together again', async ({
  page,
}) => {
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const hive = await make.item('MT-HIVE', {});
  const [board, roof] = [await make.item('MT-BOARD', { purchasePrice: '1.00' }), await make.item('MT-ROOF', { purchasePrice: '4.00' })];
  await make.bom(hive, [
    { itemId: board, quantity: '4' },
    { itemId: roof, quantity: '1' },
  ]);
  await make.opening(hive, barn, '3');

  await page.goto(`/items/${hive}?show=making`);
  await page.getByRole('link', { name: 'Take apart' }).click();
  await page.getByLabel('How many').fill('2');
  // What the bill says follows; one of eight boards is no good.
  await expect(page.getByLabel('Good of MT-BOARD')).toHaveValue('8');
  await page.getByLabel('Good of MT-BOARD').fill('7');
  const cost = page.getByRole('region', { name: 'What it cost' });
  // 4.00 of two hives: half to the boards at 0.25, half to the roofs.
  await expect(cost.getByRole('row', { name: /^MT-BOARD/ })).toContainText('1.75');
  await expect(cost.getByRole('row', { name: /^Lost with what is missing/ })).toContainText('0.25');
  await page.getByRole('button', { name: /^Take 2 MT-HIVE apart/ }).click();
  await expect(page.getByText('2 MT-HIVE Journey goods MT-HIVE taken apart')).toBeVisible();
  await expect(page.getByRole('table', { name: 'What came of it' }).getByRole('row', { name: /^MT-BOARD/ })).toContainText('7');
  expect(await make.lying(board)).toEqual(['UNPLACED 7']);

  await page.goto('/making/apart?q=mt-hive');
  await page.getByRole('link', { name: /^Open WO-/ }).click();
  await page.getByRole('button', { name: /^Undo taking 2 MT-HIVE apart/ }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Undo it/ })
    .click();
  await expect(page.getByText('This was undone: it is whole again.')).toBeVisible();
  expect(await make.lying(board)).toEqual([]);
});

test('what was taken to the work comes back: some by hand, all else as the work order is cancelled', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const box = await make.item('MC-BOX', {});
  const [board, screw] = [await make.item('MC-BOARD', {}), await make.item('MC-SCREW', {})];
  await make.opening(board, barn, '60');
  await make.opening(screw, barn, '60');
  await make.bom(box, [
    { itemId: board, quantity: '4' },
    { itemId: screw, quantity: '8' },
  ]);
  await page.goto(`/making/orders/new?item=${box}&site=${barn}&many=2`);
  await page.getByRole('button', { name: /^Plan and release 2 MC-BOX/ }).click();
  await page.getByRole('button', { name: /^Take the parts/ }).click();
  await page.getByRole('button', { name: /^Take 2 lines to the work/ }).click();
  await page.getByRole('button', { name: 'Bring parts back' }).click();
  await page.getByLabel('Back of MC-SCREW').fill('17');
  await page.getByRole('button', { name: /^Bring 1 part back/ }).click();
  await expect(page.getByText(/^Only 16 of MC-SCREW are at the work of WO-/).first()).toBeVisible();
  await page.getByLabel('Back of MC-SCREW').fill('6');
  await page.getByRole('button', { name: /^Bring 1 part back/ }).click();
  await expect(page.getByText(/^1 part of WO-\d+ brought back\.$/)).toBeVisible();
  await page.getByRole('button', { name: /^Cancel/ }).click();
  await expect(page.getByText(/^WO-\d+ is cancelled\.$/)).toBeVisible();
  expect([await make.lying(board), await make.lying(screw)].map((bins) => bins.map((one) => one.split(' ')[1]))).toEqual([['60'], ['60']]);
});

test('a supplier’s lot is recalled from whoever bought what was made of it, over two makings', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  const [barn, maker] = [await make.site('Barn store'), await make.supplier('Journey Wax Works')];
  const raw = await make.item('MR-WAX', { tracking: 'lot' });
  const sheet = await make.item('MR-SHEET', { tracking: 'lot' });
  const frame = await make.item('MR-FRAME', { tracking: 'lot', salesPrice: '9.00' });
  await make.bom(sheet, [{ itemId: raw, quantity: '1' }]);
  await make.bom(frame, [{ itemId: sheet, quantity: '1' }]);
  await make.receive(await make.order(maker, barn, [{ itemId: raw, quantity: '6', price: '3.00' }]), barn, ['6'], 'MR-LOT-1');
  for (const [itemId, sku, many, lot] of [
    [sheet, 'MR-SHEET', '4', 'MR-LOT-2'],
    [frame, 'MR-FRAME', '3', 'MR-LOT-3'],
  ] as const) {
    await page.goto(`/making/orders/new?item=${itemId}&site=${barn}&many=${many}`);
    await page.getByRole('button', { name: new RegExp(`^Plan and release ${many} ${sku}`) }).click();
    await page.getByRole('button', { name: /^Take the parts/ }).click();
    await page.getByRole('button', { name: /^Take 1 line to the work/ }).click();
    await expect(page.getByRole('table', { name: 'What goes in' }).getByText('all taken')).toBeVisible();
    await page.getByRole('button', { name: /^Record what was made/ }).click();
    await page.getByLabel(`Lot of ${sku}`).fill(lot);
    await page.getByRole('button', { name: new RegExp(`^Complete ${many}`) }).click();
    await expect(page.getByText(new RegExp(`${many} ${sku} made on WO-`)).first()).toBeVisible();
  }
  await make.sell('Vale Beekeepers', barn, frame, '2');
  // From the supplier's lot to what was made of it, and of that.
  await page.goto(`/stock/lots/${await make.lotId('MR-LOT-1')}`);
  const into = page.getByRole('region', { name: 'Went into' });
  await expect(into.getByRole('row', { name: /MR-LOT-2/ })).toBeVisible();
  await expect(into.getByRole('row', { name: /MR-LOT-3/ })).toBeVisible();
  await page.getByRole('link', { name: 'Recall', exact: true }).click();
  const table = page.getByRole('table', { name: 'Whom to write to' });
  await expect(table.getByRole('row', { name: /Vale Beekeepers/ })).toContainText('2');
  await page.getByLabel('Mail address of Vale Beekeepers').fill('keeper@vale.example');
  await page.getByRole('button', { name: /^Send 1 letter/ }).click();
  await expect(page.getByText('1 letter about MR-LOT-1 is on the way.')).toBeVisible();
});

test('a kit is put together when it is ordered: its order has it made, and whoever picks sees both', async ({ page, browser, baseURL }) => {
  test.setTimeout(180_000);
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const kit = await make.item('MO-KIT', { madeToOrder: true, salesPrice: '30.00' });
  const [tool, smoker] = [await make.item('MO-TOOL', {}), await make.item('MO-SMOKER', {})];
  await make.opening(tool, barn, '10');
  await make.opening(smoker, barn, '10');
  await make.bom(kit, [
    { itemId: tool, quantity: '1' },
    { itemId: smoker, quantity: '2' },
  ]);
  const { id: orderId, number } = await make.quote('Vale Beekeepers', barn, kit, '2');
  await page.goto(`/outbound/orders/${orderId}`);
  await page.getByRole('button', { name: /^Confirm 1 line/ }).click();
  const together = page.getByRole('region', { name: 'Put together for this order' });
  await expect(together).toContainText('2 MO-KIT');

  // On the floor: the work stands in the queue, for whom it is; from the order its parts are a touch away.
  const phone = await browser.newContext({ ...(baseURL === undefined ? {} : { baseURL }), viewport: { width: 390, height: 844 }, hasTouch: true });
  const floor = await phone.newPage();
  await signIn(floor, 'tom@larkmoor.example');
  await floor.goto('/outbound/picking?kind=work');
  await floor
    .getByRole('row', { name: /MO-KIT/ })
    .getByRole('link', { name: number })
    .click();
  await floor.getByRole('link', { name: /^Take the parts of WO-/ }).click();
  await floor.getByRole('button', { name: /^Take 2 lines to the work/ }).click();
  await expect(floor.getByRole('button', { name: /^Record what was made/ })).toBeVisible();
  await floor.goto(`/outbound/orders/${orderId}`);
  await floor.getByRole('link', { name: /^Record WO-/ }).click();
  await floor.getByRole('button', { name: /^Complete 2/ }).click();
  await expect(floor.getByText(/2 MO-KIT made on WO-/).first()).toBeVisible();
  // What was made is the order's, and goes to its bench.
  await floor.goto(`/outbound/orders/${orderId}`);
  await floor.getByRole('button', { name: /^Pick 1 line/ }).click();
  await floor.getByRole('button', { name: /^Put 1 line on the bench/ }).click();
  await expect(floor.getByRole('list', { name: 'Stages' })).toContainText('Picked 2 of 2');
  await phone.close();
});

test('what is made by lot has its number and its day, and lies in quarantine until it is looked over', async ({ page }) => {
  await signIn(page);
  const make = given(page);
  const barn = await make.site('Barn store');
  const patty = await make.item('ML-PATTY', { tracking: 'lot', shelfLifeDays: 90, inspected: true });
  const dough = await make.item('ML-DOUGH', {});
  await make.opening(dough, barn, '10');
  await make.bom(patty, [{ itemId: dough, quantity: '2' }]);
  await page.goto('/setup?section=making');
  await page.getByLabel('Number lots that are made as').fill('P{yy}{mm}{dd}-{order}');
  await page.getByRole('button', { name: /^Save making/ }).click();
  await expect(page.getByText('How making goes is kept.')).toBeVisible();

  await page.goto(`/making/orders/new?item=${patty}&site=${barn}&many=4`);
  await page.getByRole('button', { name: /^Plan and release 4 ML-PATTY/ }).click();
  await page.getByRole('button', { name: /^Take the parts/ }).click();
  await page.getByRole('button', { name: /^Take 1 line to the work/ }).click();
  await expect(page.getByRole('table', { name: 'What goes in' }).getByText('all taken')).toBeVisible();
  await page.getByRole('button', { name: /^Record what was made/ }).click();
  const lot = page.getByLabel('Lot of ML-PATTY');
  await expect(lot).toHaveValue(/^P\d{6}-WO-\d+$/);
  const code = await lot.inputValue();
  await expect(page.getByText('It is looked over before it is sold.')).toBeVisible();
  await page.getByRole('button', { name: /^Complete 4/ }).click();
  await expect(page.getByText(/4 ML-PATTY made on WO-/).first()).toBeVisible();
  expect(await make.lying(patty)).toEqual(['QUARANTINE 4']);
  await page.goto(`/items/${patty}`);
  await expect(page.getByText(code)).toBeVisible();
  await page.goto('/setup?section=making');
  await page.getByLabel('Number lots that are made as').fill('{order}-{n}');
  await page.getByRole('button', { name: /^Save making/ }).click();
  await expect(page.getByText('How making goes is kept.')).toBeVisible();
});
