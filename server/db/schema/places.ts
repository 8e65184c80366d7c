import type { PlaceKind } from '@larder/core/ledger/types';
import { sql } from 'drizzle-orm';
import { type AnyPgColumn, boolean, check, integer, pgTable, text, uniqueIndex } from 'drizzle-orm/pg-core';
import { key, moment } from './columns';
import { party } from './parties';
import { site } from './setup';

/** Where stock can be: bins, and everything else that goods come from or go to. */
export const place = pgTable(
  'place',
  {
    id: key(),
    kind: text().$type<PlaceKind>().notNull(),
    siteId: integer('site_id').references(() => site.id),
    partyId: integer('party_id').references((): AnyPgColumn => party.id),
    code: text().notNull(),
    name: text().notNull().default(''),
    owned: boolean().notNull(),
    sellable: boolean().notNull().default(false),
    /** The one sellable bin per site for goods that have no bin yet. */
    unplaced: boolean().notNull().default(false),
    walk: integer().notNull().default(0),
    /** Part of the building, when the business tells them apart. */
    zone: text().notNull().default(''),
    retiredAt: moment('retired_at'),
  },
  (t) => [
    uniqueIndex('place_bin_code')
      .on(t.siteId, sql`lower(${t.code})`)
      .where(sql`kind = 'bin'`),
    uniqueIndex('place_bench')
      .on(t.siteId)
      .where(sql`kind = 'bench'`),
    uniqueIndex('place_transit')
      .on(t.siteId)
      .where(sql`kind = 'transit'`),
    uniqueIndex('place_in_work')
      .on(t.siteId)
      .where(sql`kind = 'in-work'`),
    uniqueIndex('place_unplaced')
      .on(t.siteId)
      .where(sql`unplaced`),
    uniqueIndex('place_party')
      .on(t.kind, t.partyId, sql`coalesce(${t.siteId}, 0)`)
      .where(sql`party_id is not null`),
    uniqueIndex('place_of_nobody')
      .on(t.kind)
      .where(sql`site_id is null and party_id is null`),
    check('place_owned', sql`${t.owned} = (${t.kind} in ('bin', 'bench', 'transit', 'holder', 'in-work'))`),
  ],
);
