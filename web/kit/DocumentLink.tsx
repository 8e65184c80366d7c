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
