import { type GridColumn } from '../../kit/GridSheet';

export const columns = (sites: readonly { id: number; name: string }[]): GridColumn[] => [
  { key: 'sku', name: 'SKU', width: 150 },
  { key: 'barcode', name: 'Barcode', width: 130 },
  { key: 'salesPrice', name: 'Sales price', width: 82, number: true },
  { key: 'purchasePrice', name: 'Purchase price', width: 82, number: true },
  { key: 'weightKg', name: 'Weight, kg', width: 74, number: true },
  { key: 'supplierCode', name: 'Supplier’s code', width: 110 },
  ...sites.map(({ id, name }) => ({ key: `stock ${id}`, name: `Opening, ${name}`, width: 86, number: true })),
  { key: 'unitValue', name: 'Unit value', width: 82, number: true },
];
