import type { InvoiceForm, proposeInvoice } from '@larder/contract/invoices';
import type { ResponseOf } from '@larder/contract/endpoint';
import { isNumber } from '@larder/core/number';

export type Proposal = ResponseOf<typeof proposeInvoice>;
type Dispatch = Proposal['dispatches'][number];

/** An invoice while it is typed. What is null or undefined is as it is proposed. */
export interface InvoiceDraft {
  dispatches: { orderId: number; movementId: number; on: boolean }[];
  invoicedOn: string;
  dueOn: string | null | undefined;
  rate: string | null;
  reference: string;
  opening: string;
  closing: string;
  /** Words of lines, by the order line they are for: `line7`. */
  texts: Record<string, string | undefined>;
  freight: { shipmentId: number; movementId: number; amount: string; taxCodeId: number | null }[];
  others: { text: string; accountId: number | null; amount: string; taxCodeId: number | null }[];
}

export const textKey = (salesLineId: number): string => `line${salesLineId}`;
const keyedLine = (key: string): number => Number(key.slice(4));

/** What stands in the form at first. */
export const draftOf = (proposal: Proposal, today: string): InvoiceDraft => ({
  dispatches: proposal.dispatches.map(({ orderId, movementId }: Dispatch) => ({ orderId, movementId, on: true })),
  invoicedOn: today,
  dueOn: undefined,
  rate: null,
  reference: proposal.reference,
  opening: proposal.opening,
  closing: proposal.closing,
  texts: {},
  freight: proposal.freight.map(({ shipmentId, movementId, amount }) => ({ shipmentId, movementId, amount, taxCodeId: proposal.taxCodeId })),
  others: [],
});

const charged = ({ dispatches, freight }: InvoiceDraft) =>
  freight.filter(
    (row) => dispatches.some((one) => one.on && one.movementId === row.movementId) && !(isNumber(row.amount, 'amount') && Number(row.amount) === 0),
  );
/** Charges that somebody has begun to type, and those that are whole. */
const begun = ({ text, amount }: InvoiceDraft['others'][number]): boolean => text.trim() !== '' || amount.trim() !== '';
const isWhole = ({ text, amount }: InvoiceDraft['others'][number]): boolean => text.trim() !== '' && isNumber(amount, 'amount');
const written = ({ texts }: InvoiceDraft) => Object.entries(texts).flatMap(([key, text]) => (text === undefined ? [] : [{ key, text }]));

/** An invoice as it is sent: of the dispatches that are ticked, without charges of nothing. `others` are those of the other charges that go with it. */
const invoiceOf = (typed: InvoiceDraft, others: InvoiceDraft['others']): InvoiceForm => ({
  dispatches: typed.dispatches.filter(({ on }) => on).map(({ orderId, movementId }) => ({ orderId, movementId })),
  invoicedOn: typed.invoicedOn,
  dueOn: typed.dueOn ?? null,
  rate: typed.rate === null ? null : typed.rate.trim(),
  reference: typed.reference,
  opening: typed.opening,
  closing: typed.closing,
  texts: written(typed).map(({ key, text }) => ({ salesLineId: keyedLine(key), text })),
  freight: charged(typed).map(({ shipmentId, amount, taxCodeId }) => ({ shipmentId, amount: amount.trim(), taxCodeId })),
  others: others.map((row) => ({ ...row, amount: row.amount.trim() })),
});

export const sentInvoice = (typed: InvoiceDraft): InvoiceForm => invoiceOf(typed, typed.others.filter(begun));
/** The same as it is foreseen while it is typed: a charge counts once it is whole. */
export const foreseenInvoice = (typed: InvoiceDraft): InvoiceForm => invoiceOf(typed, typed.others.filter(isWhole));

/** The field of the form that something sent stands in. */
export function invoiceField(path: string, typed: InvoiceDraft): string {
  const [list, nth = '', ...rest] = path.split('.');
  const at = Number(nth);
  if (list === 'texts' && nth !== '') return `texts.${written(typed)[at]?.key ?? ''}`;
  if (list === 'freight' && nth !== '') return ['freight', typed.freight.indexOf(charged(typed)[at] as InvoiceDraft['freight'][number]), ...rest].join('.');
  if (list === 'others' && nth !== '')
    return ['others', typed.others.indexOf(typed.others.filter(begun)[at] as InvoiceDraft['others'][number]), ...rest].join('.');
  if (list === 'dispatches' && nth !== '') return `dispatches.${typed.dispatches.findIndex((row) => row === typed.dispatches.filter(({ on }) => on)[at])}.on`;
  return path;
}
