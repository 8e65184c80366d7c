import type { SalesOrder } from '@larder/contract/outbound';
import { sentLines, writtenLines, type DraftLine } from '../../shared/draftLines';

/** A quote while it is written. */
export interface QuoteForm {
  customer: { id: number; name: string } | null;
  siteId: number;
  /** Undefined until somebody types a day: then it is the day that the business proposes. */
  shipBy: string | undefined;
  note: string;
  lines: DraftLine[];
}

/** What a quote begins with. */
export const quoteForm = (order: SalesOrder | null, siteId: number): QuoteForm => ({
  customer: order ? { id: order.customerId, name: order.customer } : null,
  siteId: order?.siteId ?? siteId,
  shipBy: order?.shipBy,
  note: order?.note ?? '',
  lines: writtenLines(order?.lines ?? []),
});

/** What is sent of a quote; it ships by `proposed` as long as nobody typed a day. */
export const sentQuote = ({ customer, siteId, shipBy, note, lines }: QuoteForm, proposed: string) => ({
  customerId: customer?.id ?? 0,
  siteId,
  shipBy: shipBy ?? proposed,
  note,
  lines: sentLines(lines),
});
