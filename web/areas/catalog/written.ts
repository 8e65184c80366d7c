import type { Item, ItemForm } from '@larder/contract/catalog';
import { plainPrice } from '../../kit/format';
import type { SupplierRow } from './SupplierSheet';

/** An item while it is written: what will be sent, with the names of suppliers and substitutes to show. */
export type Written = Omit<ItemForm, 'suppliers' | 'substitutes'> & { suppliers: SupplierRow[]; substitutes: { itemId: number; sku: string; name: string }[] };

interface Site {
  id: number;
}

/** A row for each site, empty where nothing was said yet. */
const atEach = (sites: readonly Site[], rows: Written['policies']): Written['policies'] =>
  sites.map(
    ({ id }) =>
      rows.find(({ siteId }) => siteId === id) ?? {
        siteId: id,
        binId: null,
        reorderPoint: null,
        orderUpTo: null,
        coverDays: null,
        packSize: null,
        way: 'best',
      },
  );

/** What is said of an item beside what is typed, when it is saved. */
export type Decision = Partial<Pick<ItemForm, 'retired' | 'retiredInUse' | 'oddBarcodes' | 'sharedBarcodes'>>;

export const newItem = (unitId: number, taxCodeId: number | null, sites: readonly Site[]): Written => ({
  sku: '',
  name: '',
  kind: 'stocked',
  inventoryAccountId: null,
  costAccountId: null,
  salesAccountId: null,
  description: '',
  categoryId: null,
  unitId,
  brand: '',
  salesPrice: null,
  purchasePrice: null,
  taxCodeId,
  tracking: 'none',
  costMethod: 'average',
  maker: '',
  returnable: true,
  weightKg: null,
  lengthCm: null,
  widthCm: null,
  heightCm: null,
  shelfLifeDays: null,
  madeToOrder: false,
  inspected: false,
  notes: '',
  pictureId: null,
  retired: false,
  retiredInUse: false,
  barcodes: [{ code: '', unitId: null }],
  oddBarcodes: false,
  sharedBarcodes: false,
  units: [],
  substitutes: [],
  attributes: [],
  suppliers: [],
  policies: atEach(sites, []),
});

export function writtenItem(
  { id: _id, version: _version, category: _category, unit: _unit, step: _step, family: _family, ...item }: Item,
  sites: readonly Site[],
): Written {
  const padded = (value: string | null) => (value === null ? null : plainPrice(value));
  return {
    ...item,
    retiredInUse: false,
    oddBarcodes: false,
    sharedBarcodes: false,
    salesPrice: padded(item.salesPrice),
    purchasePrice: padded(item.purchasePrice),
    barcodes: item.barcodes.map(({ code, unitId }) => ({ code, unitId })),
    units: item.units.map(({ unit: _name, ...row }) => row),
    policies: atEach(
      sites,
      item.policies.map(({ bin: _bin, ...row }) => row),
    ),
  };
}

/** What is sent. */
export const itemBody = ({ substitutes, ...written }: Written): ItemForm => ({
  ...written,
  barcodes: written.barcodes.filter(({ code }) => code !== ''),
  substitutes: substitutes.map(({ itemId }) => itemId),
});

/** What tells the rows of an item's lists apart. */
export const writtenRows = {
  barcodes: ({ code }: Written['barcodes'][number]) => code,
  units: ({ unitId }: Written['units'][number]) => String(unitId),
  substitutes: ({ itemId }: Written['substitutes'][number]) => String(itemId),
  attributes: ({ attributeId }: Written['attributes'][number]) => String(attributeId),
  suppliers: ({ supplierId }: Written['suppliers'][number]) => String(supplierId),
  policies: ({ siteId }: Written['policies'][number]) => String(siteId),
};

/** What each fact of an item is called in a sentence. */
export const writtenNames: Partial<Record<keyof Written, string>> = {
  sku: 'the SKU',
  name: 'the name',
  kind: 'the kind',
  inventoryAccountId: 'the stock account',
  costAccountId: 'the cost account',
  salesAccountId: 'the sales account',
  description: 'the description',
  categoryId: 'the category',
  unitId: 'the unit',
  brand: 'the brand',
  salesPrice: 'the sales price',
  purchasePrice: 'the purchase price',
  taxCodeId: 'the tax',
  tracking: 'the tracking',
  costMethod: 'the way of keeping cost',
  maker: 'the maker',
  returnable: 'whether it can be returned',
  weightKg: 'the weight',
  lengthCm: 'the length',
  widthCm: 'the width',
  heightCm: 'the height',
  shelfLifeDays: 'the shelf life',
  madeToOrder: 'whether it is put together when it is ordered',
  inspected: 'whether it is looked over when made',
  notes: 'the notes',
  pictureId: 'the picture',
  retired: 'whether it is retired',
  barcodes: 'the same barcodes',
  units: 'the same units',
  substitutes: 'the same substitutes',
  attributes: 'the same attributes',
  suppliers: "the same supplier's terms",
  policies: 'the same levels',
};
