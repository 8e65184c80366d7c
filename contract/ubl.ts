import { z } from 'zod';
import { endpoint, FileAnswer } from './endpoint';
import { PathId } from './values';

const file = { method: 'GET', params: z.object({ id: PathId }), response: FileAnswer, file: 'application/xml' } as const;

export const invoiceUbl = endpoint({
  ...file,
  path: '/api/ubl/invoices/:id',
  summary: 'An invoice or credit note as UBL 2.1',
  right: 'books.invoice',
});
export const orderUbl = endpoint({
  ...file,
  path: '/api/ubl/orders/:id',
  summary: 'A confirmed order as UBL 2.1',
  right: 'look',
  seenBy: 'sites',
});
export const despatchUbl = endpoint({
  ...file,
  path: '/api/ubl/dispatches/:id',
  summary: 'A dispatch, by its movement, as a UBL 2.1 despatch advice',
  right: 'look',
  seenBy: 'sites',
});
