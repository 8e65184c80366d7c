import type { UnorderedReceiptForm } from '@larder/contract/receiving';
import { isReady, sentEntries, type WithEntries } from '../../shared/entries';

/** Goods without an order, as they are typed. */
export interface UnorderedForm extends WithEntries {
  binId: number | null;
  supplier: { id: number; name: string } | null;
  paid: string;
  packingNote: string;
  cameOn: string | null;
}

export const noGoods: UnorderedForm = { binId: null, supplier: null, paid: 'yes', packingNote: '', cameOn: null, entries: [] };

/** What is sent of goods without an order: the lines that are whole, and what the person has agreed to. */
export const unorderedBody = (form: UnorderedForm, agreed: readonly string[]): UnorderedReceiptForm => ({
  supplierId: form.supplier?.id ?? null,
  billComes: form.paid === 'no',
  packingNote: form.packingNote,
  effectiveOn: form.cameOn ?? undefined,
  pastUseBy: agreed.includes('past-use-by'),
  countedSince: agreed.includes('counted-since'),
  lines: sentEntries(form.entries.filter(isReady)),
});
