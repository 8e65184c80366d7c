import type * as contract from '@larder/contract/exchange';
import type { BodyOf, ParamsOf, QueryOf } from '@larder/contract/endpoint';
import type { pastStock } from '@larder/contract/stock';
import type { Low } from '../../planning/queries';
import { eq, sql, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import type { Sites } from '@larder/contract/rights';
import type { Db, Query } from '../../../db/database';
import { attributeValue, type itemSite, place, type costPool } from '../../../db/schema/index';
import { plain } from '../../../db/text';
import type { PastDay } from '../../../documents/pastDays';

export type List = ParamsOf<typeof contract.exportFile>['list'];

export type Show = NonNullable<BodyOf<typeof contract.exportFile>['show']>;

export interface PastAsked {
  on: PastDay;
  low: Low;
  held: Omit<QueryOf<typeof pastStock>, 'sort' | 'direction' | 'limit' | 'cursor' | 'q' | 'siteId'>;
}

export type Cells = Record<string, unknown> & { own?: Record<string, string> | null };

export interface Source {
  /** Rows with a column for each field, in the order of the file; what is looked at as of a day is told which, and what else it is held to. */
  read: (db: Db, where: SQL | undefined, sites: Sites, past: PastAsked) => Query<Cells>;
  /** What the words of the list's own search field look through. */
  words: SQL | PgColumn;
  /** Holds rows to sites, where they are of one. */
  at?: (sites: Sites) => SQL | undefined;
  /** Fields that tell what things cost: left out for whom may not see that. */
  costs?: readonly string[];
  /** Taken out only by whom may see what things cost in the whole company. */
  company?: true;
  /** The column of the item, where rows have one. */
  item?: PgColumn;
  /** The column of the price list, where rows are of one. */
  priceList?: PgColumn;
  /** Conditions of what the list may be held to. */
  shows?: Partial<Record<Show, SQL | undefined>>;
  /** Of those, the ones that are late as of a day. */
  lateOn?: (today: string) => SQL | undefined;
  /** Fields beyond those that can be brought in. */
  more?: { key: string; name: string }[];
}

/** The order of a file: by its first two columns. */
export const inOrder = sql`1, 2`;

export const day = (column: PgColumn) => sql<string | null>`${column}::text`;

/** Own attributes of an item or a lot, by the field each is. */
export const ownOf = (owner: PgColumn, id: PgColumn) =>
  sql<Record<string, string> | null>`(${new QueryBuilder()
    .select({ all: sql`json_object_agg('attribute ' || ${attributeValue.attributeId}, ${attributeValue.value})` })
    .from(attributeValue)
    .where(eq(owner, id))})`;

export const figuresAt = (at: typeof costPool | typeof itemSite) => ({
  onHand: plain(at.onHand),
  reserved: plain(at.reserved),
  free: plain(at.free),
  onOrder: plain(at.onOrder),
  inTransit: plain(at.inTransit),
  onLoan: plain(at.onLoan),
  quarantine: plain(at.quarantine),
});

export const figures = [
  { key: 'onHand', name: 'On hand' },
  { key: 'reserved', name: 'Reserved' },
  { key: 'free', name: 'Free' },
  { key: 'onOrder', name: 'On order' },
  { key: 'inTransit', name: 'In transit' },
  { key: 'onLoan', name: 'On loan' },
  { key: 'quarantine', name: 'Quarantine' },
];

export const named = (pairs: readonly (readonly [string, string])[]) => pairs.map(([key, name]) => ({ key, name }));

export const from = alias(place, 'from_place');

export const to = alias(place, 'to_place');
