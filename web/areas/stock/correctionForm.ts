import { decimal } from '@larder/core/decimal';
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
  /** What has no bin at the site lies in this one. */
  sweep: boolean;
}

/** A correction while it is typed. */
export interface CorrectionDraft {
  way: CorrectionForm['way'];
  reasonId: number | null;
  note: string;
  /** What bears it; null: the account of the reason. */
  accountId: number | null;
  departmentId: number | null;
  /** Of own use: the id of its tax, `none`, or empty for what the reason says. */
  tax: string;
  /** The day it happened, when it is not today. */
  happenedOn: string | null;
  /** The bin that goods are counted in now; null: each line has the bin where its item lies. */
  binId: number | null;
  entries: Entry[];
}

export const isQuantity = (text: string): boolean => isNumber(text, 'difference');
export const isReady = (entry: Entry): boolean => entry.binId !== null && isQuantity(entry.quantity);
export const newEntry = (itemId: number, part: Partial<Entry> = {}): Entry => ({
  itemId,
  binId: null,
  lotId: null,
  quantity: '',
  then: null,
  sweep: false,
  ...part,
});

/** What a scan counts: so many more of an item, or of one lot of it, in the bin that is in hand. */
export interface Scanned {
  itemId: number;
  lotId: number | null;
  quantity: string;
}

/** The lines once so many more were scanned: the line of the same item, lot and bin counts them, else there is a new one. Tells what that line comes to. */
export function withScanned(entries: readonly Entry[], binId: number | null, { itemId, lotId, quantity }: Scanned): { entries: Entry[]; total: string } {
  const at = entries.findIndex((entry) => entry.itemId === itemId && (lotId === null || entry.lotId === lotId) && (binId === null || entry.binId === binId));
  const was = entries[at];
  const total = decimal(was && isQuantity(was.quantity) ? was.quantity.trim() : '0')
    .plus(quantity)
    .toFixed();
  return {
    entries: was
      ? entries.map((entry, index) => (index === at ? { ...entry, quantity: total } : entry))
      : [...entries, newEntry(itemId, { binId, lotId, quantity: total })],
    total,
  };
}

/** What is sent of a correction: the lines that are whole. `countedSince`: somebody has said that it is meant though the bins were counted later. */
export const correctionBody = (
  { way, reasonId, note, accountId, departmentId, tax, happenedOn, entries }: CorrectionDraft,
  countedSince: boolean,
): CorrectionForm => ({
  way,
  ...(happenedOn === null ? {} : { effectiveOn: happenedOn }),
  reasonId: reasonId ?? 0, // which is refused at its field
  note,
  ...(accountId === null ? {} : { accountId }),
  departmentId,
  ...(tax === '' ? {} : { taxCodeId: tax === 'none' ? null : Number(tax) }),
  countedSince,
  lines: entries.filter(isReady).map((entry) => ({
    itemId: entry.itemId,
    binId: entry.binId as number,
    lotId: entry.lotId,
    quantity: entry.quantity.trim(),
    seq: entry.then?.seq ?? null,
    sweep: entry.sweep && way === 'there-are-now',
  })),
});

/** The field that the nth line sent stands in; whatever is wrong with a line is said at its quantity. */
export function correctionField(path: string, { entries }: CorrectionDraft): string {
  const named = { effectiveOn: 'happenedOn', taxCodeId: 'tax' }[path];
  if (named !== undefined) return named;
  const row = sentRow(path, 'lines', entries, isReady);
  return row ? `entries.${row.at}.quantity` : path;
}

/** The lines with those of a scanner's file, each as if it had been scanned in its bin. */
export const withFile = (entries: readonly Entry[], lines: readonly (Scanned & { binId: number })[]): Entry[] =>
  lines.reduce<Entry[]>((now, line) => withScanned(now, line.binId, line).entries, [...entries]);

/** Where labels of the items on the lines are printed. */
export const labelsOf = (entries: readonly Pick<Entry, 'itemId'>[]): string => `/labels?items=${[...new Set(entries.map(({ itemId }) => itemId))].join(',')}`;
