import type { PurchaseOrder } from '@larder/contract/inbound';
import { sentLines, type DraftLine } from '../../shared/draftLines';

/** What is typed to change an order that was placed. */
export interface AmendForm {
  expectedOn: string | null;
  orderedOn: string | null;
  currency: string;
  rate: string;
  lines: { lineId: number; callOff: string; price: string; expectedOn: string | null }[];
  added: DraftLine[];
}

/** An order as it was placed, ready to be changed. */
export const amendForm = (order: PurchaseOrder): AmendForm => ({
  expectedOn: order.expectedOn,
  orderedOn: order.orderedOn ?? order.placedAt?.slice(0, 10) ?? null,
  currency: order.currency,
  rate: order.rate,
  lines: order.lines.map(({ id, expectedOn }) => ({ lineId: id, callOff: '', price: '', expectedOn })),
  added: [],
});

/** What is sent: of the head only what is another than it was. `own` is the currency of the business. */
export function sentAmendment(order: PurchaseOrder, form: AmendForm, own: string) {
  const was = amendForm(order);
  const { expectedOn, orderedOn, currency, lines, added } = form;
  const rate = form.rate.trim();
  return {
    version: order.version,
    expectedOn,
    ...(orderedOn === null || orderedOn === was.orderedOn ? {} : { orderedOn }),
    ...(currency === order.currency && rate === order.rate ? {} : { currency, rate: currency === own ? '1' : rate }),
    lines: lines.map((line) => ({ ...line, callOff: line.callOff.trim() || null, price: line.price.trim() || null })),
    added: sentLines(added),
  };
}
