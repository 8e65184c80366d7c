import { isNumber } from '@larder/core/number';
import type { LotEntry } from '@larder/contract/values';
import { sentRow } from '../kit/row';

/** Goods that come in without an order, as they are typed. A bin or worth that is null is proposed as soon as the item is known. */
export interface Entry {
  itemId: number;
  binId: number | null;
  quantity: string;
  unitValue: string | null;
  lots: LotEntry[];
}

export const newEntry = (itemId: number, quantity = '', binId: number | null = null): Entry => ({ itemId, binId, quantity, unitValue: null, lots: [] });

/** A worth that is null is the item's purchase price, which need not be shown to whoever enters it. */
export const isReady = ({ binId, quantity, unitValue }: Entry): boolean =>
  binId !== null && isNumber(quantity, 'quantity') && (unitValue === null || isNumber(unitValue, 'price'));

/** A form that holds goods that come in without an order. */
export interface WithEntries {
  entries: Entry[];
}

/** The field of an entry that the nth line sent stands in. */
export function entryField(path: string, { entries }: WithEntries): string {
  const row = sentRow(path, 'lines', entries, isReady);
  return row ? ['entries', row.at, row.part].filter((one) => one !== '').join('.') : path;
}

/** The entries as they are sent. */
export const sentEntries = (entries: readonly Entry[]) =>
  entries.map(({ itemId, binId, quantity, unitValue, lots }) => ({
    itemId,
    binId: binId as number,
    quantity: quantity.trim(),
    unitValue: unitValue === null ? null : unitValue.trim(),
    lots: lots.filter(({ code }) => code.trim() !== ''),
  }));
