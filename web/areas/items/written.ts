import type { Item, ItemForm } from '@larder/contract/catalog';
import { plainPrice } from '../../kit/format';
import type { SupplierRow } from './SupplierSheet';

/** An item while it is written: what will be sent, with the names of suppliers and substitutes to show. */
export type Written = Omit<ItemForm, 'suppliers' | 'substitutes'> & { suppliers: SupplierRow[]; substitutes: { itemId: number; sku: string; name: string }[] };

export const newItem = (unitId: number, taxCodeId: number | null): Written => ({
  sku: '',
  name: '',
  kind: 'stocked',
  inventoryAccountId: null,
  costAccountId: null,
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
  policies: [],
});

export function writtenItem({ id: _id, version: _version, category: _category, unit: _unit, step: _step, family: _family, ...item }: Item): Written {
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
    policies: item.policies.map(({ bin: _bin, ...row }) => row),
  };
}

/** What is sent. */
export const itemBody = ({ substitutes, ...written }: Written): ItemForm => ({
  ...written,
  barcodes: written.barcodes.filter(({ code }) => code !== ''),
  substitutes: substitutes.map(({ itemId }) => itemId),
});
