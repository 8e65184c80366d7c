import { bills } from './sources/bills';
import { boms } from './sources/boms';
import { demand, families, items, policies, terms } from './sources/catalog';
import { purchases, sales } from './sources/orders';
import { customers, suppliers } from './sources/parties';
import { prices } from './sources/prices';
import type { List, Source } from './sources/source';
import { low } from './sources/low';
import { bins, lots, past, stock, trail } from './sources/stock';

/** What each list writes into a file: the same fields as are brought in, so that what comes back unchanged is the same. */
export const sources: Record<List, Source> = {
  items,
  families,
  suppliers,
  customers,
  prices,
  boms,
  terms,
  bins,
  policies,
  demand,
  stock,
  low,
  past,
  lots,
  bills,
  trail,
  purchases,
  sales,
};
