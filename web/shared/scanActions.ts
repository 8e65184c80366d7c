import type { Found } from '@larder/contract/catalog';
import type { Right } from '@larder/contract/rights';
import { isFloorDevice } from '../kit/floor';

/** Where what was found is shown; on a device of the floor an item is looked up: where it lies comes first. */
export const placeOf = ({ kind, id }: Pick<Found, 'kind' | 'id'>): string =>
  kind === 'item' && isFloorDevice() ? `/stock/look-up?item=${id}` : addresses[kind](id);

const addresses: Record<Found['kind'], (id: number) => string> = {
  item: (id) => `/items/${id}`,
  lot: (id) => `/stock/lots/${id}`,
  serial: (id) => `/stock/lots/${id}`,
  bin: (id) => `/stock/bins/${id}`,
  'purchase order': (id) => `/inbound/orders/${id}`,
  'sales order': (id) => `/outbound/orders/${id}`,
  supplier: (id) => `/inbound/suppliers/${id}`,
  customer: (id) => `/outbound/customers/${id}`,
};

interface Action {
  words: string;
  to: string;
  /** What it is for; it is not offered to those who may not do that. */
  needs?: Right;
}
export const actions: readonly Action[] = [
  { words: 'Receive goods: receiving desk', to: '/inbound/desk', needs: 'inbound.receive' },
  { words: 'Receive without an order', to: '/inbound/unordered', needs: 'inbound.receive' },
  { words: 'Enter a bill', to: '/books/bills/new', needs: 'books.bill' },
  { words: 'Landed cost worksheet', to: '/books/landed', needs: 'costs.see' },
  { words: 'What departments bear', to: '/books/departments', needs: 'costs.see' },
  { words: 'Own use and the tax on it', to: '/books/own-use', needs: 'costs.see' },
  { words: 'Journal and accounts', to: '/books/journal', needs: 'costs.see' },
  { words: 'New purchase order', to: '/inbound/orders/new', needs: 'inbound.order' },
  { words: 'New quote', to: '/outbound/orders/new', needs: 'outbound.sell' },
  { words: 'Goods come back: return of a customer', to: '/outbound/returns/new', needs: 'outbound.return' },
  { words: 'New item', to: '/items/new', needs: 'items.edit' },
  { words: 'Import a file', to: '/import', needs: 'items.edit' },
  { words: 'New variant family', to: '/items/families/new', needs: 'items.edit' },
  { words: 'Opening stock', to: '/stock/opening', needs: 'stock.correct' },
  { words: 'Print labels or a code sheet', to: '/labels' },
  { words: 'Bins', to: '/setup/bins' },
  { words: 'Suppliers', to: '/inbound/suppliers' },
  { words: 'Customers', to: '/outbound/customers' },
  { words: 'Transfers between sites', to: '/stock/transfers' },
  { words: 'New transfer', to: '/stock/transfers/new', needs: 'stock.transfer' },
  { words: 'Loans, and who holds what', to: '/stock/loans' },
  { words: 'Lend things', to: '/stock/loans/new', needs: 'stock.lend' },
  { words: 'Shelf move: from bin to bin', to: '/stock/move', needs: 'stock.move' },
  { words: 'Counts', to: '/stock/counts' },
  { words: 'Plan a count', to: '/stock/counts/new', needs: 'stock.correct' },
  { words: 'What is due to be counted', to: '/stock/counts/calendar' },
  { words: 'Put away what has no bin', to: '/stock/put-away', needs: 'stock.move' },
  { words: 'Corrections report', to: '/stock/corrections' },
  { words: 'Correct stock', to: '/stock/correction', needs: 'stock.correct' },
  { words: 'Top up: what to reorder', to: '/planning' },
  { words: 'Trail of all movements', to: '/stock/trail' },
];
