import { decimal } from '@larder/core/decimal';
import type { DemandLine } from '@larder/core/ledger/types';
import { sql } from 'drizzle-orm';
import type { RowOf } from '../db/json';
import { documentLine } from '../db/schema/index';

/** What serving a document line that wants something goes by, whatever kind of document it is of. */
export const demandFields = {
  lineId: documentLine.id,
  kind: documentLine.kind,
  itemId: documentLine.itemId,
  siteId: documentLine.siteId,
  number: documentLine.number,
  position: documentLine.position,
  neededOn: documentLine.neededOn,
  promisedOn: documentLine.promisedOn,
  standsBack: documentLine.standsBack,
  /** Below zero when more was drawn for work than it says. */
  wanted: sql<string>`case when ${documentLine.kind} = 'component' and ${documentLine.active} and ${documentLine.stocked} then ${documentLine.baseQuantity} - ${documentLine.cancelled} - ${documentLine.drawn} else ${documentLine.wanted} end`,
  reserved: documentLine.reserved,
};

export type DemandRow = RowOf<typeof demandFields>;

export const demandLine = (row: DemandRow): DemandLine => ({
  lineId: row.lineId,
  kind: row.kind,
  number: row.number,
  position: row.position,
  neededOn: row.neededOn ?? '',
  promisedOn: row.promisedOn,
  standsBack: row.standsBack,
  wanted: decimal(row.wanted),
  reserved: decimal(row.reserved),
});
