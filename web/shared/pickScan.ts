import { readScan, scannedQuantity } from '@larder/core/codes/meaning';
import { decimal } from '@larder/core/decimal';
import type { pickList } from '@larder/contract/picking';
import type { ResponseOf } from '@larder/contract/endpoint';

/** A row of a pick list; in a round with the slot that it goes into. */
export type PickRow = ResponseOf<typeof pickList>['rows'][number] & { slot?: number; number?: string };

const intoSlot = ({ slot }: Pick<PickRow, 'slot'>): string => (slot === undefined ? '' : ` into slot ${slot}`);

/** What a scan picks: so many from a row that still asks for them all, the lot it names first; or why none. */
export function pickScan<R extends Pick<PickRow, 'codes' | 'lot' | 'take' | 'sku' | 'bin' | 'slot'>>(
  rows: readonly R[],
  picked: (row: R) => string,
  code: string,
): { row: R; quantity: string; said: string } | { row: null; said: string } {
  const scanned = readScan(code);
  const lot = scanned.gs1?.serial ?? scanned.gs1?.lot;
  const fits = rows.flatMap((row) => {
    const quantity = scannedQuantity(row.codes, scanned);
    return quantity === null || (lot !== undefined && row.lot !== null && row.lot !== lot) ? [] : [{ row, quantity }];
  });
  const found = fits.find(({ row, quantity }) =>
    decimal(picked(row) || 0)
      .plus(quantity)
      .lte(row.take),
  );
  if (found)
    return {
      row: found.row,
      quantity: found.quantity.toFixed(),
      said: `${found.quantity.toFixed()} × ${found.row.sku} from ${found.row.bin}${intoSlot(found.row)}`,
    };
  const first = fits[0];
  if (!first) return { row: null, said: `${code} is not on this pick list.` };
  return {
    row: null,
    said: first.quantity.eq(1) ? `${first.row.sku} is all picked.` : `${first.quantity.toFixed()} of ${first.row.sku} are more than is still asked for.`,
  };
}
