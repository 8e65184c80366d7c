import { NavWays } from '../kit/NavWays';
import { useMay } from './may';

/** The ways into the books. */
export function BookTabs() {
  const mayInvoice = useMay('books.invoice', null);
  const seesCost = useMay('costs.see', null);
  const ways: [string, string][] = [
    ...(seesCost ? ([['/books', 'Bills']] as [string, string][]) : []),
    ...(mayInvoice
      ? ([
          ['/books/invoices', 'Invoices'],
          ['/books/debtors', 'Who owes'],
        ] as [string, string][])
      : []),
    ...(seesCost
      ? ([
          ['/books/landed', 'Landed cost'],
          ['/books/clearing', 'Clearing'],
          ['/books/accounts', 'Accounts'],
          ['/books/journal', 'Journal'],
          ['/books/departments', 'Departments'],
          ['/books/own-use', 'Own use'],
          ['/books/handover', 'Hand-over'],
        ] as [string, string][])
      : []),
  ];
  return <NavWays label="Books" ways={ways} />;
}
