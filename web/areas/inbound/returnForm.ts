import { readNumber } from '@larder/core/number';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { returnable, SupplierReturnForm } from '@larder/contract/receiving';

type Returnable = ResponseOf<typeof returnable>['rows'][number];

/** Goods of an order line where they lie, and how many of them go back. */
export interface ReturnLine {
  row: Omit<Returnable, 'places'>;
  place: Returnable['places'][number];
  quantity: string;
}

/** Each place of each line that goods can go back from. */
export const placesOf = (rows: readonly Returnable[], quantityOf: (line: Omit<ReturnLine, 'quantity'>) => string): ReturnLine[] =>
  rows.flatMap(({ places, ...row }) => places.map((place) => ({ row, place, quantity: quantityOf({ row, place }) })));

/** What tells them apart: the line, and the bin and lot they lie in. */
export const lineKey = ({ row, place }: ReturnLine): string => `${row.purchaseLineId} ${place.binId} ${place.lotId ?? ''}`;
export const rowKeys = { lines: { key: lineKey, typed: ['quantity'] as const } };

/** Goods that go back while it is typed: how many of each line from each bin and lot, and why. */
export interface ReturnDraft {
  note: string;
  lines: ReturnLine[];
}

/** Whether some of it goes back. */
export const goesBack = ({ quantity }: ReturnLine): boolean => readNumber(quantity, 'quantity')?.gt(0) ?? false;

/** What is sent of a return; `then` is what becomes of the order, where that was asked. */
export const returnBody = (orderId: number, { note, lines }: ReturnDraft, then: SupplierReturnForm['then']): SupplierReturnForm => ({
  orderId,
  note: note.trim(),
  then,
  lines: lines.filter(goesBack).map(({ row, place, quantity }) => ({
    purchaseLineId: row.purchaseLineId,
    binId: place.binId,
    lotId: place.lotId,
    quantity: quantity.trim(),
  })),
});
