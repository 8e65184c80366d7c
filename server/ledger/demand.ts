import { decimal } from '@larder/core/decimal';
import type { DemandLine } from '@larder/core/ledger/types';

/** A document line that wants something, as `demandObject` reads it. */
export interface DemandRow {
  lineId: number;
  itemId: number;
  siteId: number;
  number: string;
  position: number;
  neededOn: string | null;
  promisedOn: string | null;
  wanted: string;
  reserved: string;
}

/** JSON of a document line `l` with what serving it goes by, whatever kind of document it is of. */
export const demandObject = `json_build_object('lineId', l.id, 'itemId', l.item_id, 'siteId', l.site_id, 'number', l.number, 'position', l.position, 'neededOn', l.needed_on, 'promisedOn', l.promised_on, 'wanted', l.wanted::text, 'reserved', l.reserved::text)`;

export const demandLine = (row: DemandRow): DemandLine => ({
  lineId: row.lineId,
  number: row.number,
  position: row.position,
  neededOn: row.neededOn ?? '',
  promisedOn: row.promisedOn,
  wanted: decimal(row.wanted),
  reserved: decimal(row.reserved),
});
