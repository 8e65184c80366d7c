import { isNumber } from '@larder/core/number';
import type { CorrectionForm } from '@larder/contract/stock';
import { sentRow } from '../../kit/row';

/** A line of a correction while it is typed. */
export interface Entry {
  itemId: number;
  binId: number | null;
  lotId: number | null;
  quantity: string;
  /** What the bin held when the quantity was entered, and the item's last movement then. */
  then: { held: string; seq: number } | null;
}

/** A correction while it is typed. */
export interface CorrectionDraft {
  way: CorrectionForm['way'];
  reasonId: number | null;
  note: string;
  entries: Entry[];
}

export const isQuantity = (text: string): boolean => isNumber(text, 'difference');
export const isReady = (entry: Entry): boolean => entry.binId !== null && isQuantity(entry.quantity);
export const newEntry = (itemId: number): Entry => ({ itemId, binId: null, lotId: null, quantity: '', then: null });

/** What is sent of a correction: the lines that are whole. `countedSince`: somebody has said that it is meant though the bins were counted later. */
export const correctionBody = ({ way, reasonId, note, entries }: CorrectionDraft, countedSince: boolean): CorrectionForm => ({
  way,
  reasonId: reasonId ?? 0, // which is refused at its field
  note,
  countedSince,
  lines: entries.filter(isReady).map((entry) => ({
    itemId: entry.itemId,
    binId: entry.binId as number,
    lotId: entry.lotId,
    quantity: entry.quantity.trim(),
    seq: entry.then?.seq ?? null,
  })),
});

/** The field that the nth line sent stands in; whatever is wrong with a line is said at its quantity. */
export function correctionField(path: string, { entries }: CorrectionDraft): string {
  const row = sentRow(path, 'lines', entries, isReady);
  return row ? `entries.${row.at}.quantity` : path;
}
