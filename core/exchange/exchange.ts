/** What a column of a file can be. */
export interface ExchangeField {
  key: string;
  name: string;
  kind: 'text' | 'number' | 'day' | 'flag' | 'code';
  needed?: boolean;
  /** Other headings that mean it. */
  also?: readonly string[];
}

export const exchangeKeys = [
  'items',
  'families',
  'suppliers',
  'terms',
  'customers',
  'prices',
  'boms',
  'bins',
  'policies',
  'demand',
  'opening',
  'lots',
] as const;
export type ExchangeKey = (typeof exchangeKeys)[number];

export interface ExchangeKind {
  key: ExchangeKey;
  name: string;
  /** What a row is told apart by. */
  by: readonly string[];
  fields: readonly ExchangeField[];
  /** Whose own attributes may be columns too. */
  own?: 'item' | 'unit';
}

const field = (key: string, name: string, kind: ExchangeField['kind'] = 'text', also: readonly string[] = [], needed = false): ExchangeField => ({
  key,
  name,
  kind,
  also,
  needed,
});
const sku = field('sku', 'SKU', 'code', ['item', 'item code', 'article', 'article number', 'stock code', 'product code'], true);
const site = field('site', 'Site', 'text', ['location', 'warehouse', 'store', 'site code'], true);

/** What can be imported from a file, and taken out to be edited and brought in again. */
export const exchangeKinds: readonly ExchangeKind[] = [
  {
    key: 'items',
    name: 'Items',
    by: ['sku'],
    own: 'item',
    fields: [
      sku,
      field('name', 'Name', 'text', ['item name', 'title', 'article name', 'product'], true),
      field('kind', 'Kind', 'text', ['item kind', 'type', 'item type']),
      field('description', 'Description', 'text', ['long text']),
      field('category', 'Category', 'text', ['group', 'product group']),
      field('unit', 'Unit', 'text', ['unit of measure', 'uom', 'base unit']),
      field('brand', 'Brand'),
      field('maker', 'Maker', 'text', ['manufacturer']),
      field('barcode', 'Barcode', 'code', ['ean', 'gtin', 'upc', 'barcodes', 'bar code']),
      field('salesPrice', 'Sales price', 'number', ['price', 'selling price', 'retail price']),
      field('purchasePrice', 'Purchase price', 'number', ['cost', 'cost price', 'buying price']),
      field('tax', 'Tax', 'text', ['vat', 'tax code']),
      field('tracking', 'Tracking', 'text', ['tracked by']),
      field('costMethod', 'Cost kept by', 'text', ['cost method', 'valuation']),
      field('weightKg', 'Weight, kg', 'number', ['weight', 'weight kg']),
      field('lengthCm', 'Length, cm', 'number', ['length']),
      field('widthCm', 'Width, cm', 'number', ['width']),
      field('heightCm', 'Height, cm', 'number', ['height']),
      field('shelfLife', 'Shelf life, days', 'number', ['shelf life', 'shelf life days', 'keeps days']),
      field('madeToOrder', 'Put together when ordered', 'flag', ['made to order']),
      field('inspected', 'Looked over when made', 'flag', ['inspected', 'inspect']),
      field('returnable', 'May be returned', 'flag', ['returnable']),
      field('notes', 'Notes', 'text', ['remarks']),
      field('retired', 'Retired', 'flag', ['discontinued', 'inactive']),
      field('supplier', 'Supplier', 'text', ['vendor', 'supplier name']),
      field('supplierCode', 'Supplier’s code', 'code', ["supplier's code", 'supplier code', 'supplier sku', 'their code']),
      field('packSize', 'Pack of', 'number', ['pack size', 'pack', 'pack quantity']),
      field('buyUnit', 'Bought by', 'text', ['purchase unit', 'buying unit', 'order unit']),
      field('buyOf', 'Which is so many', 'number', ['units per purchase unit', 'per purchase unit', 'units per case']),
    ],
  },
  {
    key: 'families',
    name: 'Variant families',
    by: ['sku'],
    fields: [
      field('family', 'Family', 'text', ['variant family', 'family name'], true),
      sku,
      field('axis1', 'Axis 1', 'text', ['axis'], true),
      field('value1', 'Value 1', 'text', ['value'], true),
      field('axis2', 'Axis 2'),
      field('value2', 'Value 2'),
      field('axis3', 'Axis 3'),
      field('value3', 'Value 3'),
    ],
  },
  {
    key: 'suppliers',
    name: 'Suppliers',
    by: ['name'],
    fields: [
      field('name', 'Name', 'text', ['supplier', 'vendor', 'company'], true),
      field('email', 'Mail address', 'text', ['email', 'e-mail', 'mail']),
      field('address', 'Address'),
      field('leadDays', 'Days to deliver', 'number', ['lead time', 'lead days']),
    ],
  },
  {
    key: 'terms',
    name: 'Suppliers’ codes and prices',
    by: ['supplier', 'sku'],
    fields: [
      field('supplier', 'Supplier', 'text', ['vendor', 'supplier name'], true),
      sku,
      field('code', 'Supplier’s code', 'code', ["supplier's code", 'supplier code', 'their code']),
      field('packSize', 'Pack of', 'number', ['pack size', 'pack']),
      field('minimum', 'At least', 'number', ['minimum', 'minimum order', 'moq']),
      field('price', 'Price', 'number', ['purchase price', 'cost']),
      field('leadDays', 'Days to deliver', 'number', ['lead time', 'lead days']),
      field('breaks', 'Price breaks', 'text', ['quantity prices', 'breaks']),
    ],
  },
  {
    key: 'customers',
    name: 'Customers',
    by: ['name'],
    fields: [
      field('name', 'Name', 'text', ['customer', 'company'], true),
      field('email', 'Mail address', 'text', ['email', 'e-mail', 'mail']),
      field('address', 'Address'),
    ],
  },
  {
    key: 'prices',
    name: 'Price lists',
    by: ['list', 'sku', 'category', 'from', 'startsOn'],
    fields: [
      field('list', 'Price list', 'text', ['list', 'list name'], true),
      { ...sku, needed: false },
      field('category', 'Category', 'text', ['group', 'product group']),
      field('from', 'From', 'number', ['from quantity', 'quantity', 'qty']),
      field('price', 'Price', 'number', ['sales price', 'selling price']),
      field('percentOff', 'Per cent off', 'number', ['discount', '% off', 'discount %']),
      field('startsOn', 'First day', 'day', ['starts', 'valid from', 'start']),
      field('endsOn', 'Last day', 'day', ['ends', 'valid until', 'end']),
    ],
  },
  {
    key: 'boms',
    name: 'Bills of materials',
    by: ['sku', 'version', 'part'],
    fields: [
      { ...sku, name: 'Makes', also: ['sku', ...(sku.also ?? []), 'assembly', 'finished item', 'parent'] },
      field('version', 'Version', 'number', ['bom version', 'revision']),
      field('startsOn', 'In use from', 'day', ['valid from', 'start', 'starts']),
      field('makes', 'For so many', 'number', ['makes quantity', 'yield', 'batch', 'per']),
      field('part', 'Part', 'code', ['component', 'child', 'material', 'part number'], true),
      field('quantity', 'Quantity', 'number', ['qty', 'amount'], true),
      field('unit', 'Unit', 'text', ['uom']),
      field('waste', 'Waste, % on top', 'number', ['waste', 'scrap', 'scrap %', 'waste %']),
      field('note', 'Note', 'text', ['notes', 'remark']),
    ],
  },
  {
    key: 'bins',
    name: 'Bins',
    by: ['site', 'code'],
    fields: [
      site,
      field('code', 'Bin', 'code', ['code', 'bin code', 'shelf'], true),
      field('zone', 'Zone'),
      field('walk', 'Walking order', 'number', ['walk', 'sequence']),
      field('use', 'For', 'text', ['sale or quarantine']),
    ],
  },
  {
    key: 'policies',
    name: 'Reorder points',
    by: ['sku', 'site'],
    fields: [
      sku,
      site,
      field('bin', 'Default bin', 'code', ['bin']),
      field('reorderPoint', 'Reorder point', 'number', ['minimum stock', 'reorder at']),
      field('orderUpTo', 'Order up to', 'number', ['maximum stock', 'order-up-to level']),
      field('coverDays', 'Days of cover', 'number', ['minimum days of cover']),
      field('packSize', 'Pack at the site', 'number'),
      field('way', 'Comes by', 'text', ['way']),
    ],
  },
  {
    key: 'demand',
    name: 'Past demand',
    by: ['sku', 'site', 'day'],
    fields: [
      sku,
      site,
      field('day', 'Day', 'day', ['date', 'week', 'sold on'], true),
      field('quantity', 'Wanted', 'number', ['demand', 'sold', 'quantity sold', 'quantity'], true),
    ],
  },
  {
    key: 'lots',
    name: 'Lots and serial units',
    by: ['sku', 'code'],
    own: 'unit',
    fields: [
      sku,
      field('code', 'Lot or serial', 'code', ['serial', 'serial number', 'lot', 'batch'], true),
      field('useBy', 'Use by', 'day', ['expiry', 'best before', 'expires']),
      field('tag', 'Our tag', 'code', ['tag', 'asset tag', 'asset number']),
      field('condition', 'Condition'),
      field('boughtOn', 'Bought on', 'day', ['purchase date', 'bought']),
      field('warrantyUntil', 'Warranty until', 'day', ['warranty', 'guarantee until']),
    ],
  },
  {
    key: 'opening',
    name: 'Opening stock',
    by: ['sku', 'site', 'bin', 'lot', 'serial'],
    fields: [
      sku,
      site,
      field('bin', 'Bin', 'code', ['shelf']),
      field('quantity', 'Quantity', 'number', ['qty', 'on hand', 'stock'], true),
      field('unitValue', 'Unit value', 'number', ['unit cost', 'cost', 'unit value', 'value each'], true),
      field('lot', 'Lot', 'code', ['batch']),
      field('useBy', 'Use by', 'day', ['expiry', 'best before', 'expires']),
      field('serial', 'Serial', 'code', ['serial number']),
    ],
  },
];

const plain = (heading: string): string =>
  heading
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** Which field each heading means, by its name or another that is common; each field once, null for what is left over. `own` are attributes. */
export function matchColumns(kind: ExchangeKind, headings: readonly string[], own: readonly { id: number; name: string }[] = []): (string | null)[] {
  const known = [
    ...kind.fields.flatMap(({ key, name, also = [] }) => [name, key, ...also].map((word) => [plain(word), key] as const)),
    ...own.map(({ id, name }) => [plain(name), `attribute ${id}`] as const),
  ];
  const used = new Set<string>();
  return headings.map((heading) => {
    const key = known.find(([word, one]) => word === plain(heading) && !used.has(one))?.[1] ?? null;
    if (key !== null) used.add(key);
    return key;
  });
}

/** What a flag says: yes, no, or null when it is neither. */
export function readFlag(text: string): boolean | null {
  const word = text.trim().toLowerCase();
  if (['yes', 'y', 'true', '1', 'x'].includes(word)) return true;
  return ['no', 'n', 'false', '0', ''].includes(word) ? false : null;
}
