import { ItemForm } from '@larder/contract/catalog';
import { gtinCheckDigit } from '@larder/core/codes/gtin';
import { decimal } from '@larder/core/decimal';
import { binCodes } from '@larder/core/setup/bins';
import type { Act } from '../act';
import { createItem } from '../areas/catalog/service';
import { createBins, createCategory, createParty, createSite } from '../areas/setup/service';
import { post } from '../ledger/door';
import { customers, goods, sites, suppliers, type Goods } from './larkmoor';

export interface Stocked extends Goods {
  id: number;
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
  for (const name of customers) customerIds.push((await createParty(act, { ...party(name), isCustomer: true })).id);
  const categories = new Map<string, number>();
  for (const name of new Set(goods.map(({ category }) => category))) categories.set(name, (await createCategory(act, { name })).id);
  const [each, pack] = await Promise.all(
    ['each', 'pack'].map(async (code) => (await act.tx.rows<{ id: number }>('SELECT id FROM unit WHERE code = $1', [code]))[0]?.id as number),
  );
  const taxes = await act.tx.rows<{ id: number; code: string }>('SELECT id, code FROM tax_code');
  const items: Stocked[] = [];
  for (const [index, one] of goods.entries()) {
    const at = places.filter(
      (_, siteIndex) => siteIndex === 0 || (siteIndex === 1 && (index % 5 < 2 || one.weekly > 5)) || (siteIndex === 2 && index % 11 === 0),
    );
    const bins = new Map(at.map(({ id, bins: list }) => [id, (list[(index * 7) % list.length] as { id: number }).id]));
    const digits = `20${String(index + 1).padStart(10, '0')}`;
    const item = await createItem(
      act,
      ItemForm.parse({
        sku: one.sku,
        name: one.name,
        description: '',
        categoryId: categories.get(one.category) ?? null,
        unitId: (one.unit === 'pack' ? pack : each) as number,
        brand: '',
        salesPrice: String(one.price),
        purchasePrice: String(one.cost),
        taxCodeId: taxes.find(({ code }) => code === (one.zeroRated ? 'Z' : 'S'))?.id ?? null,
        barcodes: [{ code: digits + gtinCheckDigit(digits), unitId: null }],
        suppliers: [
          {
            supplierId: supplierIds.get(one.supplier) as number,
            code: `${one.supplier.slice(0, 2).toUpperCase()}${1000 + index}`,
            packSize: String(one.pack),
            minimum: '0',
            price: String(one.cost),
          },
        ],
        policies: at.map(({ id, share }) => ({
          siteId: id,
          binId: bins.get(id) ?? null,
          ...levels(one, share, suppliers.find(({ name }) => name === one.supplier)?.leadDays ?? 7),
        })),
      }),
    );
    items.push({ ...one, id: item.id, bins });
  }
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
  const [opening] = await act.tx.rows<{ id: number }>(`SELECT id FROM place WHERE kind = 'opening'`);
  const lines = items.flatMap((one) =>
    [...one.bins].map(([siteId, binId], index) => {
      const quantity = decimal(Math.max(2, Math.ceil(one.weekly * (places.find(({ id }) => id === siteId)?.share ?? 0.1) * 7)));
      return {
        itemId: one.id,
        lotId: null,
        quantity,
        fromPlaceId: opening?.id as number,
        toPlaceId: binId,
        valuation: { by: 'stated' as const, value: quantity.times(one.cost).toDecimalPlaces(2) },
        serves: null,
        field: `lines.${index}`,
      };
    }),
  );
  await post(act, { kind: 'opening', effectiveOn: act.today, lines, reasonId: null, reversesId: null, note: 'stock at the beginning' });
}
