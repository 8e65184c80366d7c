import { NavWays } from '../kit/NavWays';

const ways = [
  ['/books', 'Bills'],
  ['/books/landed', 'Landed cost'],
  ['/books/clearing', 'Clearing'],
  ['/books/accounts', 'Accounts'],
  ['/books/journal', 'Journal'],
  ['/books/handover', 'Hand-over'],
] as const;

/** The ways into the books. */
export const BookTabs = () => <NavWays label="Books" ways={ways} />;
