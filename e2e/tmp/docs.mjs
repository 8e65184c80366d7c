import { open, base, browser } from './shot.mjs';
const page = await open();
const snap = async (name, p = page) => {
  await p.waitForTimeout(1100);
  await p.screenshot({ path: `/tmp/shots/doc/${name}.png` });
};
const step = async (name, work) => {
  try {
    await work();
  } catch (error) {
    console.log(name, error.message.split('\n')[0]);
  }
};
const choose = async (label, letters, name) => {
  const f = page.getByRole('combobox', { name: label });
  await f.click();
  await f.pressSequentially(letters, { delay: 45 });
  await page.getByRole('option', { name }).first().waitFor();
  await f.press('Enter');
};
const line = async (text, item) => {
  const f = page.getByRole('combobox', { name: 'New line' });
  await f.click();
  await f.pressSequentially(text, { delay: 45 });
  await page.getByRole('option', { name: item }).first().waitFor();
  await f.press('Enter');
  await page.waitForTimeout(500);
};
await page.goto(base + '/');
await snap('today');
await page.goto(base + '/stock');
await snap('stock');
await page.goto(base + '/stock/trail');
await snap('trail');
await page.goto(base + '/items');
await snap('items');
await step('item', async () => {
  await page
    .getByText('JAR-340-GLD')
    .first()
    .dblclick()
    .catch(() => {});
  await page.goto(base + '/items?q=jar-340');
  await page.waitForTimeout(900);
  await page.keyboard.press('Enter').catch(() => {});
  const link = page.getByRole('link', { name: /^Open / }).first();
  await link.click();
  await snap('item');
});
await page.goto(base + '/inbound/desk');
await snap('desk');
await step('purchase', async () => {
  await page.goto(base + '/inbound/orders/new');
  await page.waitForTimeout(800);
  await choose('Supplier', 'terwel', 'Terwel Packaging');
  await page.waitForTimeout(600);
  await page.getByLabel('Currency').fill('EUR');
  await page.getByLabel('GBP for one EUR').fill('0.856');
  await page.waitForTimeout(300);
  await line('1000 packing tape', 'TAPE-48');
  await line('400 BX-MAIL', 'BX-MAIL');
  await page.getByLabel('Line 1 is priced for').selectOption({ index: 2 });
  await page.getByLabel('Price of line 1').fill('790');
  await page.getByLabel('Price of line 2').fill('0.62');
  await snap('purchase');
});
await step('sale', async () => {
  await page.goto(base + '/outbound');
  await page.waitForTimeout(900);
  await page.getByText('Copse Lane School').first().click();
  await page.getByRole('button', { name: /^Open SO-/ }).click();
  await snap('sale');
});
await step('supplier', async () => {
  await page.goto(base + '/inbound?show=all');
  await page.waitForTimeout(900);
  await page.getByText('Hexley Joinery').first().click();
  await page.waitForTimeout(500);
  await page.goto(base + '/inbound/suppliers/1');
  await snap('supplier');
});
await step('landed', async () => {
  await page.goto(base + '/books/landed');
  await page.waitForTimeout(900);
  await page.getByRole('link', { name: 'LC-1002' }).first().click();
  await snap('landed');
});
await step('bill', async () => {
  await page.goto(base + '/books/bills/new');
  await page.waitForTimeout(600);
  await choose('From', 'isker', /Isker/);
  await page.waitForTimeout(900);
  await page.getByLabel('Their number').fill('IHW-2210');
  await page
    .getByLabel(/^Price, PO-\d+ VEIL-RND$/)
    .fill('7.65')
    .catch(() => {});
  await snap('bill');
});
await step('handover', async () => {
  await page.goto(base + '/books/handover');
  await snap('handover');
});
await step('top-up', async () => {
  await page.goto(base + '/planning');
  await snap('top-up');
});
await step('units', async () => {
  await page.goto(base + '/items/units');
  await snap('units');
});
await step('labels', async () => {
  await page.goto(base + '/labels?items=1,2,3,4,5,6');
  await page.waitForTimeout(1500);
  await snap('labels');
});
await step('correction', async () => {
  await page.goto(base + '/stock/correction');
  await page.waitForTimeout(700);
  await page.getByLabel('Reason').selectOption({ index: 1 });
  await line('SM-STD', 'SM-STD');
  await page.waitForTimeout(800);
  await page
    .getByLabel(/There are now of/)
    .first()
    .fill('9');
  await line('HB-NAT-10', 'HB-NAT-10');
  await page.waitForTimeout(800);
  await page.getByLabel(/There are now of HB-NAT-10/).fill('30');
  await page.waitForTimeout(900);
  await snap('correction');
});
await step('family', async () => {
  await page.goto(base + '/items/families/new');
  await page.waitForTimeout(700);
  await page.getByLabel('Name').fill('Candle glass');
  await page.getByLabel('Axis 1', { exact: true }).fill('Size');
  await page.getByLabel('Values of axis 1').fill('Small, Medium, Large');
  await page.getByRole('button', { name: 'Add an axis' }).click();
  await page.getByLabel('Axis 2', { exact: true }).fill('Colour');
  await page.getByLabel('Values of axis 2').fill('Amber, Clear');
  await page.waitForTimeout(900);
  await snap('family');
});
const phone = await open(390, 844);
await phone.goto(base + '/inbound/desk');
await snap('desk-phone', phone);
await browser.close();
