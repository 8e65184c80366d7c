import { ItemForm } from '@larder/contract/catalog';
import { gtinCheckDigit } from '@larder/core/codes/gtin';
import { binCodes } from '@larder/core/setup/bins';
import { eq } from 'drizzle-orm';
import type { Act } from '../act';
import type { Tracking } from '@larder/core/stock/lots';
import { item } from '../areas/catalog/queries';
import { createAttribute } from '../areas/catalog/attributes';
import { beginFamily } from '../areas/catalog/families';
import { joinFamily } from '../areas/catalog/familyJoining';
import { createItem } from '../areas/catalog/service';
import { createBins, createCategory, createParty, createSite } from '../areas/setup/service';
import { createDepartment, editReason } from '../areas/setup/lists';
import { openStock } from '../areas/stock/service';
import { drawingOf, drawPictures } from './drawings';
import { lotsOf } from './lots';
import { addressOf, customers, departments, goods, sites, suppliers, type Goods } from './larkmoor';
import { reason, taxCode, unit } from '../db/schema/index';
import { idOf } from './idOf';

export interface Stocked extends Goods {
  id: number;
  tracking: Tracking;
  /** Default bin by site. */
  bins: Map<number, number>;
}

export interface Larkmoor {
  sites: { id: number; share: number }[];
  customers: number[];
  items: Stocked[];
}

/** Sets the business up: sites and bins, parties, items with their policies, and the stock it opens with. */
export async function setUp(act: Act): Promise<Larkmoor> {
  const places = [];
  for (const { share, ...site } of sites) {
    const { id } = await createSite(act, site);
    const { rows } = await createBins(act, { siteId: id, codes: shelves[site.code] ?? [], sellable: true, zone: '' });
    await createBins(act, { siteId: id, codes: ['QUARANTINE'], sellable: false, zone: '' });
    places.push({ id, share, bins: rows });
  }
  const supplierIds = new Map<string, number>();
  for (const supplier of suppliers)
    supplierIds.set(supplier.name, (await createParty(act, { ...party(supplier.name), isSupplier: true, leadDays: supplier.leadDays })).id);
  const customerIds = [];
  for (const [index, name] of customers.entries())
    customerIds.push((await createParty(act, { ...party(name), address: addressOf(name, index), isCustomer: true })).id);
  const categories = new Map<string, number>();
  for (const name of new Set(goods.map(({ category }) => category))) categories.set(name, (await createCategory(act, { name })).id);
  const unitOf = (code: string) => idOf(act, unit, eq(unit.code, code));
  const [each, pack, bought] = [await unitOf('each'), await unitOf('pack'), await unitOf('case')];
  const material = await ownAttributes(act);
  const pictures = await drawPictures(act);
  const taxes = await act.tx.db.select({ id: taxCode.id, code: taxCode.code }).from(taxCode);
  for (const one of departments) await createDepartment(act, one);
  await taxOwnUse(act);
  const items: Stocked[] = [];
  for (const [index, one] of goods.entries()) {
    const at = places.filter(
      (_, siteIndex) => siteIndex === 0 || (siteIndex === 1 && (index % 5 < 2 || one.weekly > 5)) || (siteIndex === 2 && index % 11 === 0),
    );
    const bins = new Map(at.map(({ id, bins: list }) => [id, (list[(index * 7) % list.length] as { id: number }).id]));
    const digits = `20${String(index + 1).padStart(10, '0')}`;
    const made = await createItem(
      act,
      ItemForm.parse({
        sku: one.sku,
        name: one.name,
        description: '',
        categoryId: categories.get(one.category) ?? null,
        unitId: (one.unit === 'pack' ? pack : each) as number,
        brand: '',
        tracking: trackingOf(one),
        costMethod: costMethodOf(one),
        pictureId: pictures.get(drawingOf(one)) ?? null,
        units: one.pack >= 48 ? [{ unitId: bought, numerator: one.pack, buys: true }] : [],
        attributes: material && materials[one.category] ? [{ attributeId: material, value: materials[one.category] }] : [],
        salesPrice: String(one.price),
        purchasePrice: String(one.cost),
        weightKg: weightOf(one),
        taxCodeId: taxes.find(({ code }) => code === (one.zeroRated ? 'Z' : 'S'))?.id ?? null,
        barcodes: [{ code: digits + gtinCheckDigit(digits), unitId: null }],
        suppliers: [
          {
            supplierId: supplierIds.get(one.supplier) as number,
            code: `${one.supplier.slice(0, 2).toUpperCase()}${1000 + index}`,
            packSize: String(one.pack),
            minimum: one.pack >= 12 ? String(one.pack * 2) : '0',
            price: String(one.cost),
            breaks:
              one.pack >= 12 ? [10, 40].map((packs, step) => ({ from: String(one.pack * packs), price: (one.cost * (0.96 - step * 0.03)).toFixed(3) })) : [],
          },
        ],
        policies: at.map(({ id, share }) => ({
          siteId: id,
          binId: bins.get(id) ?? null,
          way: 'buy' as const,
          ...levels(one, share, suppliers.find(({ name }) => name === one.supplier)?.leadDays ?? 7),
        })),
      }),
    );
    items.push({ ...one, id: made.id, tracking: made.tracking, bins });
  }
  await joinFamilies(act, items);
  await openingStock(act, items, places);
  return { sites: places.map(({ id, share }) => ({ id, share })), customers: customerIds, items };
}

const party = (name: string) => ({
  name,
  isSupplier: false,
  isCustomer: false,
  email: `orders@${name.toLowerCase().replace(/[^a-z]+/g, '-')}.example`,
  address: '',
  leadDays: 7,
});

/** What one of an item weighs, in kilograms: known for what is heavy, told by the size or the cost of the rest, and of one supplier’s goods not known to anybody. */
function weightOf({ sku, cost, supplier }: Goods): string | null {
  if (supplier === 'Fernhill Plastics') return null;
  const known: Record<string, string> = { 'SUG-25': '25', 'FD-25': '2.5', 'SY-14': '14.2', 'BKT-15': '0.85', 'TK-50': '6.4' };
  const jar = /^JAR-(\d+)/.exec(sku)?.[1];
  return known[sku] ?? (jar === undefined ? Math.min(18, Math.max(0.05, cost * 0.09)).toFixed(2) : (Number(jar) * 0.00055).toFixed(3));
}

const shelves: Record<string, string[]> = {
  VAN: ['SHELF-1', 'SHELF-2', 'CRATE'],
  HARB: ['FLOOR', 'WALL-1', 'WALL-2', 'WALL-3', 'BACK-1', 'BACK-2'],
  BARN: binCodes('{A..C}-{01..06}-{1..2}'),
};

/** Reorder point for lead time and a margin, order-up-to for five weeks more. */
function levels(one: Goods, share: number, leadDays: number): { reorderPoint: string; orderUpTo: string } {
  const weekly = one.weekly * share;
  const point = Math.max(1, Math.ceil((weekly * (leadDays + 8)) / 7));
  return { reorderPoint: String(point), orderUpTo: String(Math.max(point + 1, Math.ceil(point + weekly * 5))) };
}

async function openingStock(act: Act, items: readonly Stocked[], places: readonly { id: number; share: number }[]): Promise<void> {
  const lines = items.flatMap((one) =>
    [...one.bins].map(([siteId, binId]) => {
      const quantity = Math.max(2, Math.ceil(one.weekly * (places.find(({ id }) => id === siteId)?.share ?? 0.1) * 7));
      return { itemId: one.id, binId, quantity: String(quantity), unitValue: String(one.cost), lots: lotsOf(one.tracking, one.sku, quantity, act.today) };
    }),
  );
  await openStock(act, { lines, note: 'stock at the beginning', countedSince: false });
}

/** What has a use-by day is kept by lot, extractors each by its serial. */
const trackingOf = ({ category, sku }: Goods): Tracking =>
  category === 'Treatments' || /^(FD|SY|POL)-/.test(sku) ? 'lot' : /^EX-/.test(sku) ? 'serial' : 'none';

/** Food goes first in, first out; each machine keeps what it cost; the rest is averaged. */
const costMethodOf = (one: Goods) =>
  trackingOf(one) === 'serial' ? ('specific' as const) : /^(FD|SY|POL)-/.test(one.sku) ? ('fifo' as const) : ('average' as const);

const materials: Record<string, string> = {
  'Hive parts': 'timber',
  Clothing: 'cotton',
  Tools: 'metal',
  Extraction: 'metal',
  'Jars and labels': 'glass',
  Packaging: 'board',
};

/** Facts Larkmoor keeps of its own: what things are made of, and when an extractor is to be looked over, with a reminder. Returns the first's id. */
async function ownAttributes(act: Act): Promise<number> {
  const form = { choices: [], reminderDays: null, reminderRoles: [], reminderPeople: [] };
  const made = await createAttribute(act, { ...form, name: 'Material', subject: 'item', kind: 'choice', choices: [...new Set(Object.values(materials))] });
  await createAttribute(act, { ...form, name: 'Next inspection', subject: 'unit', kind: 'date', reminderDays: -14, reminderPeople: [act.by.id] });
  return made.id;
}

/** Jars by size and lid, suits and gloves by size: the members are there, and join their family by their values. */
async function joinFamilies(act: Act, items: readonly Stocked[]): Promise<void> {
  const facts = async (itemId: number) => item(act, itemId);
  for (const { name, code, match, axes } of families) {
    const members = items.flatMap((one) => {
      const values = match.exec(one.sku)?.slice(1);
      return values ? [{ one, values }] : [];
    });
    const first = await facts(members[0]?.one.id as number);
    const { familyId } = await beginFamily(
      act,
      {
        name,
        code,
        description: '',
        categoryId: first.categoryId,
        unitId: first.unitId,
        brand: '',
        taxCodeId: first.taxCodeId,
        returnable: true,
        kind: 'stocked',
        maker: '',
        inventoryAccountId: null,
        costAccountId: null,
        salesAccountId: null,
        skuPattern: `{name}-${axes.map((axis) => `{${axis.name}}`).join('-')}`,
      },
      axes.map((axis) => ({ name: axis.name, values: axis.values.map(([short, said]) => ({ name: said, code: short })) })),
    );
    const said = (at: number, short: string) => axes[at]?.values.find(([is]) => is === short)?.[1] ?? short;
    await joinFamily(act, familyId, {
      items: members.map((member) => ({ itemId: member.one.id, values: member.values.map((short, at) => said(at, short)) })),
    });
  }
}

const sizes: [string, string][] = [
  ['S', 'small'],
  ['M', 'medium'],
  ['L', 'large'],
  ['XL', 'extra large'],
];
const families: { name: string; code: string; match: RegExp; axes: { name: string; values: [string, string][] }[] }[] = [
  {
    name: 'Honey jar',
    code: 'JAR',
    match: /^JAR-(\d+)-(\w+)$/,
    axes: [
      { name: 'Size', values: [114, 227, 340, 454].map((grams): [string, string] => [String(grams), `${grams} g`]) },
      {
        name: 'Lid',
        values: [
          ['GLD', 'gold'],
          ['WHT', 'white'],
          ['BLK', 'black'],
        ],
      },
    ],
  },
  { name: 'Bee suit with round veil', code: 'SU', match: /^SU-(\w+)$/, axes: [{ name: 'Size', values: sizes }] },
  { name: 'Leather gloves', code: 'GL', match: /^GL-(\w+)$/, axes: [{ name: 'Size', values: sizes }] },
];

/** What the business uses itself is taxed at the standard rate. */
async function taxOwnUse(act: Act): Promise<void> {
  const [row] = await act.tx.db.select().from(reason).where(eq(reason.code, 'own-use'));
  if (!row) throw new Error('the business was founded with that reason');
  const { id, code, name, accountId } = row;
  await editReason(act, id, { code, name, place: 'own-use', accountId, taxCodeId: await idOf(act, taxCode, eq(taxCode.code, 'S')) });
}
