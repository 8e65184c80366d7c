import type { binContents } from '@larder/contract/stock';
import type { MoveForm, moveGoods } from '@larder/contract/moves';
import type { z } from 'zod';
import type { MovedHere } from '@larder/core/floor/held';
import type { ResponseOf } from '@larder/contract/endpoint';

type Held = ResponseOf<typeof binContents>['rows'][number];

/** What lies in the bin that goods are moved from, and how many of it are moved. */
export type MoveRow = Pick<Held, 'itemId' | 'sku' | 'name' | 'unit' | 'lotId' | 'lot' | 'useBy' | 'codes'> & { inBin: string; moved: string };
/** A move while it is scanned or typed. */
export interface MoveDraft {
  toBinId: number | null;
  note: string;
  rows: MoveRow[];
}

export const isMoved = ({ moved }: MoveRow): boolean => moved.trim() !== '' && Number(moved) !== 0;

/** The rows of a bin's contents, of which nothing is moved yet. */
export const moveRows = (held: readonly Held[]): MoveRow[] =>
  held.map(({ itemId, sku, name, unit, lotId, lot, useBy, codes, quantity }) => ({
    itemId,
    sku,
    name,
    unit,
    lotId,
    lot,
    useBy,
    codes,
    inBin: quantity,
    moved: '',
  }));

/** What is sent: the rows of which something is moved. */
export const moveBody =
  (fromBinId: number) =>
  ({ toBinId, note, rows }: MoveDraft): MoveForm => ({
    note,
    // Where none is chosen it is refused at its field.
    lines: rows.filter(isMoved).map(({ itemId, lotId, moved }) => ({ itemId, lotId, quantity: moved.trim(), fromBinId, toBinId: toBinId ?? 0 })),
  });

/** What lines of a move take from where to where. */
export const movesOf = ({ lines }: z.input<typeof moveGoods.body>): MovedHere[] =>
  lines.map(({ itemId, lotId = null, quantity, fromBinId, toBinId }) => ({ itemId, lotId, quantity: String(quantity), fromBinId, toBinId }));
