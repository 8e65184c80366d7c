import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as printing from '@larder/contract/printing';
import * as stock from '@larder/contract/stock';
import { ownBarcode } from '@larder/core/codes/gtin';
import { openBusiness, type Business } from '../../testing/business';
import { modulesOf } from '../../documents/barcodes';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(() => business.close());

const print = (part: Partial<printing.LabelForm>) => business.owner.ask(printing.printLabels, { body: { sheet: 'a4-3x7', ...part } });
const preview = (part: Partial<printing.LabelForm>) => business.owner.get(printing.previewLabels, { body: { sheet: 'a4-3x7', ...part } });
const pdfOf = async (id: number) => {
  const answer = await fetch(`${business.base}/api/printing/jobs/${id}/pdf`, { headers: { Cookie: business.owner.cookie } });
  return { type: answer.headers.get('content-type'), text: Buffer.from(await answer.arrayBuffer()).toString('latin1') };
};

describe('codes', () => {
  test('an EAN-13 is 95 modules with its quiet zones; bars do not overlap', () => {
    const { width, height, dark } = modulesOf('ean13', ownBarcode(1));
    expect([width, height, dark.length]).toEqual([95 + 22, 1, 30]);
    dark.forEach((bar, index) => expect(bar.x).toBeGreaterThan((dark[index - 1]?.x ?? 0) + (dark[index - 1]?.width ?? 0) - 1));
  });
  test('QR and DataMatrix are square; Code 128 takes any SKU', () => {
    for (const [symbology, payload] of [
      ['qr', 'SM-STD'],
      ['gs1datamatrix', `(01)0${ownBarcode(2)}(10)L7`],
    ] as const) {
      const { width, height } = modulesOf(symbology, payload);
      expect(width).toBe(height);
    }
    expect(modulesOf('code128', 'A-01-1').dark.length).toBeGreaterThan(20);
    expect(() => modulesOf('ean13', '123')).toThrow();
  });
});

test('labels of items come out as a PDF at true size, kept by the printer, with names that are not cut', async () => {
  const name = 'Extraordinarily long-named varroa treatment strips for hives of every build, pack of ten';
  const ids = [await business.item('LAB-1', { name, barcodes: [ownBarcode(77)] }), await business.item('LAB-2')];
  const { data } = await print({ items: ids, copies: 11, startAt: 3 });
  expect(data).toMatchObject({ labels: 22, pages: 2 });
  const pdf = await pdfOf(data.id);
  expect(pdf.type).toContain('application/pdf');
  expect(pdf.text.match(/\/MediaBox \[0 0 595\.\d+ 841\.\d+\]/g)).toHaveLength(2);
  const { rows } = await business.owner.get(printing.listPrints);
  expect(rows[0]).toMatchObject({ id: data.id, person: 'Owner', pages: 2 });
  const { svg } = await preview({ items: ids.slice(0, 1) });
  const words = [...svg.matchAll(/<text[^>]*>([^<]*)<\/text>/g)].map(([, text]) => text).join(' ');
  for (const word of name.split(' ')) expect(words.replace(/ /g, '')).toContain(word);
  expect(words).toContain(ownBarcode(77));
});

test('a code sheet holds all bins of a site; a roll label has its own page', async () => {
  const sheet = await preview({ binsOfSite: business.siteId });
  expect(sheet).toMatchObject({ labels: 3, pages: 1 });
  const roll = await print({ sheet: 'roll-57x32', bins: business.bins });
  expect(roll.data).toMatchObject({ labels: 3, pages: 3 });
  expect((await pdfOf(roll.data.id)).text).toContain('/MediaBox [0 0 161.57');
});

test('a lot’s label says item, lot and use-by in one code', async () => {
  const itemId = await business.item('LAB-L', { tracking: 'lot', barcodes: [ownBarcode(88)] });
  await business.owner.get(stock.openStock, {
    body: {
      lines: [{ itemId, binId: business.bins[0] as number, quantity: '5', unitValue: '1', lots: [{ code: 'L-9', quantity: '5', useBy: '2027-03-31' }] }],
    },
  });
  const { sites } = await business.owner.get(stock.itemStock, { params: { id: itemId } });
  const { svg } = await preview({ lots: [sites[0]?.bins[0]?.lots[0]?.lotId as number] });
  expect(svg).toContain('L-9');
  expect(svg).toContain('use by 2027-03-31');
});

test('what cannot be printed is told by its field', async () => {
  const items = [await business.item('LAB-X')];
  const field = async (part: Partial<printing.LabelForm>) => (await print({ items, ...part })).problem.errors[0]?.field ?? 'none';
  expect(await field({ sheet: 'none' })).toBe('sheet');
  expect(await field({ startAt: 22 })).toBe('startAt');
  const own = { page: { width: 100, height: 50 }, label: { width: 60, height: 30 }, columns: 2, rows: 1, left: 0, top: 0, gapX: 0, gapY: 0 };
  expect(await field({ sheet: 'own', own })).toBe('own');
  expect((await print({ sheet: 'own', own: { ...own, columns: 1 }, items })).data.pages).toBe(1);
  expect((await print({ items: [] })).problem.type).toBe('nothing-to-print');
});
