import type { MovedHere } from '@larder/core/floor/held';
import type { PickRow } from './pickScan';

/** A pick list while it is picked by: how many were taken of each row. */
export interface PickForm {
  rows: (PickRow & { picked: string })[];
  /** Why fewer were taken than asked. */
  shortReason: string;
}

export const isPicked = ({ picked }: PickForm['rows'][number]): boolean => Number(picked) !== 0;

/** What is sent: the rows of which something was taken. */
export const pickedLines = ({ rows }: PickForm) =>
  rows.filter(isPicked).map(({ lineId, binId, lotId, picked }) => ({ lineId, binId, lotId, quantity: picked.trim() }));

/** What is taken from which bins. */
export const takenFrom = ({ rows }: PickForm): MovedHere[] =>
  rows.filter(isPicked).map(({ itemId, lotId, binId, picked }) => ({ itemId, lotId, quantity: picked.trim(), fromBinId: binId, toBinId: null }));

/** Rows that gave less than they asked: their bins are to be counted. */
export const shortRows = ({ rows }: PickForm) =>
  rows.filter(({ picked, take }) => Number(picked) < Number(take)).map(({ lineId, binId }) => ({ lineId, binId }));

/** What tells the rows apart: the line, and the bin and lot it is taken from. */
export const rowKey = ({ lineId, binId, lotId }: PickRow): string => `${lineId}/${binId}/${lotId ?? ''}`;
export const rowKeys = { rows: { key: rowKey, typed: ['picked'] as const } };
