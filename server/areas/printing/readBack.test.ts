import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Label } from '@larder/core/printing/layout';
import { sheets, type Sheet } from '@larder/core/printing/sheets';
import { ownBarcode } from '@larder/core/codes/gtin';
import { labelsPdf } from './paper';

const able = ['/usr/bin/pdftoppm', '/usr/bin/zbarimg'].every(existsSync);
let folder: string;
beforeAll(() => void (folder = mkdtempSync(join(tmpdir(), 'labels-'))));
afterAll(() => rmSync(folder, { recursive: true }));

const label = (symbology: Label['symbology'], payload: string): Label => ({
  title: 'Honey jar 340 g, gold lid',
  detail: 'JAR-340-GLD',
  code: payload,
  symbology,
  payload,
});

/** What a reader finds on a page printed at 300 dots to the inch. */
async function read(sheet: Sheet, labels: Label[]): Promise<string[]> {
  const { pdf } = await labelsPdf(sheet, labels, 1, 'labels');
  writeFileSync(join(folder, 'labels.pdf'), pdf);
  execFileSync('pdftoppm', ['-r', '300', '-png', '-f', '1', '-l', '1', '-singlefile', join(folder, 'labels.pdf'), join(folder, 'page')]);
  return execFileSync('zbarimg', ['-q', '--nodbus', join(folder, 'page.png')], { encoding: 'utf8' })
    .trim()
    .split('\n')
    .sort();
}

(able ? test : test.skip)('printed labels are read back from the paper: Code 128, EAN-13 and QR, on sheets and rolls', async () => {
  const a4 = sheets.find(({ key }) => key === 'a4-3x7') as Sheet;
  const labels = [label('code128', 'JAR-340-GLD'), label('ean13', ownBarcode(7)), label('qr', 'A-01-1')];
  expect(await read(a4, labels)).toEqual(['CODE-128:JAR-340-GLD', `EAN-13:${ownBarcode(7)}`, 'QR-Code:A-01-1']);
  for (const key of ['a4-5x13', 'roll-57x32', 'roll-62x29'])
    expect([key, await read(sheets.find((sheet) => sheet.key === key) as Sheet, [label('ean13', ownBarcode(8))])]).toEqual([key, [`EAN-13:${ownBarcode(8)}`]]);
});
