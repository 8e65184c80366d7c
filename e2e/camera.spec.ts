import bwip from 'bwip-js/node';
import { given } from './given';
import { expect, test } from './journey';
import { signIn } from './person';

test('the camera reads codes; where there is none, from a picture: on a page that counts it counts, elsewhere it opens what it means', async ({
  browser,
  baseURL,
}) => {
  const context = await browser.newContext({ ...(baseURL === undefined ? {} : { baseURL }), viewport: { width: 390, height: 844 }, hasTouch: true });
  const page = await context.newPage();
  await signIn(page);
  const made = given(page);
  const sku = `CAM-${Date.now() % 100_000}`;
  await made.opening(await made.item(sku, {}), await made.site(), '3');
  const picture = async (code: string) => ({
    name: 'code.png',
    mimeType: 'image/png',
    buffer: await bwip.toBuffer({ bcid: 'code128', text: code, scale: 3, height: 14, paddingwidth: 12, paddingheight: 8, backgroundcolor: 'FFFFFF' }),
  });
  const camera = page.getByRole('dialog', { name: 'Scan with the camera' });
  await page.goto('/stock/correction');
  await expect(page.getByLabel('New line')).toBeVisible();
  await page.getByRole('button', { name: 'Scan with the camera' }).click();
  await expect(camera).toContainText('There is no camera here');
  for (const many of ['1', '2']) {
    await camera.getByLabel('Picture of a code').setInputFiles(await picture(sku));
    await expect(page.getByLabel(`There are now of ${sku}`)).toHaveValue(many);
  }
  await expect(camera.getByRole('status')).toContainText(`${sku} is taken.`);
  await camera.getByLabel('Picture of a code').setInputFiles({ name: 'none.png', mimeType: 'image/png', buffer: await page.screenshot() });
  await camera.getByRole('button', { name: 'Done' }).click();
  await page.goto('/');
  await page.getByRole('button', { name: 'Scan with the camera' }).click();
  await camera.getByLabel('Picture of a code').setInputFiles(await picture(sku));
  await expect(page).toHaveURL(/\/stock\/look-up\?item=\d+/);
  await expect(page.getByText(sku).first()).toBeVisible();
  await context.close();
});
