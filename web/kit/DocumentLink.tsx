import { Link } from 'react-router';

const address = {
  bill: '/books/bills/',
  invoice: '/books/invoices/',
  'landed cost': '/books/landed/',
  'purchase order': '/inbound/orders/',
  'sales order': '/outbound/orders/',
  transfer: '/stock/transfers/',
  loan: '/stock/loans/',
  'work order': '/making/orders/',
};

/** Where a document is opened. */
export const documentAddress = (kind: keyof typeof address, id: number): string => `${address[kind]}${id}`;

const documentOf = { purchase: 'purchase order', sales: 'sales order', transfer: 'transfer', work: 'work order' } as const;

/** The same of what brings goods or wants them, by the sort of its lines. */
export const lineAddress = (kind: keyof typeof documentOf, id: number): string => documentAddress(documentOf[kind], id);

/** For whom goods are wanted: a customer, the site that a transfer goes to, or what is made of them. */
export function forWhom({ kind, customer }: { kind: keyof typeof documentOf | keyof typeof address; customer: string }): string {
  if (kind === 'transfer') return `to ${customer}`;
  return kind === 'work' || kind === 'work order' ? `to make ${customer}` : customer;
}

/** The number of the document behind a movement or an entry, which opens it. A movement without a document opens the trail. */
export function DocumentLink({ document }: { document: { kind: keyof typeof address | 'movement'; id: number; number: string } | null }) {
  if (document === null) return null;
  const to = document.kind === 'movement' ? '/stock/trail' : documentAddress(document.kind, document.id);
  return (
    <Link className="code strong" to={to}>
      {document.number}
    </Link>
  );
}
