import { NavWays } from '../kit/NavWays';

const ways = [
  ['/items', 'Items'],
  ['/items/families', 'Families'],
  ['/items/units', 'Lots and units'],
] as const;

/** The ways into the catalog. */
export const ItemTabs = () => <NavWays label="Catalog" ways={ways} />;
