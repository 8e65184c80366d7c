import type { SalesOrder } from '@larder/contract/outbound';
import { plainPrice } from '../../kit/format';
import type { DraftLine } from '../../shared/draftLines';
import { sentSaleLines } from './quoteForm';

/** What is typed to change a confirmed order. */
export interface SaleAmendForm {
  /** Whose addresses there are; it stays who it is. */
  customer: { id: number; name: string } | null;
  shipBy: string;
  reference: string;
  shipTo: string;
  whole: boolean;
  note: string;
  lines: { lineId: number; quantity: string; price: string; discount: string; shipBy: string | null; siteId: number; promisedOn: string | null }[];
  added: DraftLine[];
}

/** A confirmed order, ready to be changed. */
export const saleAmendForm = (order: SalesOrder): SaleAmendForm => ({
  customer: { id: order.customerId, name: order.customer },
  shipBy: order.shipBy,
  reference: order.reference,
  shipTo: order.shipTo,
  whole: order.whole,
  note: order.note,
  lines: order.lines.map(({ id, quantity, price, discount, shipBy, siteId, promisedOn }) => ({
    lineId: id,
    quantity,
    price: plainPrice(price),
    discount: Number(discount) === 0 ? '' : discount,
    shipBy: shipBy === order.shipBy ? null : shipBy,
    siteId,
    promisedOn,
  })),
  added: [],
});

/** What is sent. */
export const sentSaleAmendment = (version: number, { customer: _customer, lines, added, ...head }: SaleAmendForm) => ({
  version,
  ...head,
  lines: lines.map(({ quantity, price, discount, ...line }) => ({
    ...line,
    quantity: quantity.trim() || '0',
    price: price.trim(),
    discount: discount.trim() || '0',
  })),
  added: sentSaleLines(added),
});
