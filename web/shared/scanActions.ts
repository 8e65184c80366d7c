import type { Found } from '@larder/contract/catalog';

export const addresses: Record<Found['kind'], (id: number) => string> = {
  item: (id) => `/items/${id}`,
  lot: (id) => `/stock/lots/${id}`,
  serial: (id) => `/stock/lots/${id}`,
  bin: (id) => `/stock/bins/${id}`,
  'purchase order': (id) => `/inbound/orders/${id}`,
  'sales order': (id) => `/outbound/orders/${id}`,
  supplier: (id) => `/inbound/suppliers/${id}`,
  customer: (id) => `/outbound/customers/${id}`,
};

export const actions: { words: string; to: string }[] = [
  { words: 'Receive goods: receiving desk', to: '/inbound/desk' },
  { words: 'Receive without an order', to: '/inbound/unordered' },
  { words: 'Enter a bill', to: '/books/bills/new' },
  { words: 'Landed cost worksheet', to: '/books/landed' },
  { words: 'Journal and accounts', to: '/books/journal' },
  { words: 'New purchase order', to: '/inbound/orders/new' },
  { words: 'New quote', to: '/outbound/orders/new' },
  { words: 'New item', to: '/items/new' },
  { words: 'Import a file', to: '/import' },
  { words: 'New variant family', to: '/items/families/new' },
  { words: 'Opening stock', to: '/stock/opening' },
  { words: 'Print labels or a code sheet', to: '/labels' },
  { words: 'Bins', to: '/setup/bins' },
  { words: 'Suppliers', to: '/inbound/suppliers' },
  { words: 'Customers', to: '/outbound/customers' },
  { words: 'Correct stock', to: '/stock/correction' },
  { words: 'Top up: what to reorder', to: '/planning' },
  { words: 'Trail of all movements', to: '/stock/trail' },
];
