import { firstStepKeys, type firstSteps as contract } from '@larder/contract/planning';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { Right } from '@larder/contract/rights';
import { grantedSomewhere } from '@larder/contract/rights';
import { and, eq, exists, inArray, not, sql, type SQL } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import type { MovementKind } from '@larder/core/ledger/types';
import { oneRow } from '../../db/given';
import { change, importJob, item, movement, person, place } from '../../db/schema/index';

type Key = (typeof firstStepKeys)[number];
const needs: Record<Key, Right> = {
  places: 'setup.edit',
  items: 'items.edit',
  opening: 'stock.correct',
  'order-in': 'inbound.receive',
  'order-out': 'outbound.ship',
};

/** What has been done: by anybody, or by one person. */
async function done({ db }: Act['tx'], personId: number | null): Promise<Record<Key, boolean>> {
  const by = (column: PgColumn) => (personId === null ? undefined : eq(column, personId));
  const is = (table: PgTable, where?: SQL) =>
    sql<boolean>`${exists(
      db
        .select({ one: sql`1` })
        .from(table)
        .where(where),
    )}`;
  const moved = (...kinds: MovementKind[]) => is(movement, and(inArray(movement.kind, kinds), by(movement.personId)));
  const edited = is(change, and(inArray(change.kind, ['item', 'family']), by(change.personId)));
  const imported = is(importJob, and(inArray(importJob.kind, ['items', 'families']), eq(importJob.state, 'done'), by(importJob.personId)));
  const [row] = await db
    .select({
      places: is(place, and(eq(place.kind, 'bin'), not(place.unplaced))),
      items: personId === null ? is(item) : sql<boolean>`(${edited} or ${imported})`,
      opening: moved('opening', 'correction'),
      'order-in': moved('receipt'),
      'order-out': moved('dispatch'),
    })
    .from(oneRow);
  if (!row) throw new Error('one row was asked for');
  return row;
}

/** First steps: those of the business until all are done, then those of a person who has not done them; only what the person may do. */
export async function firstSteps({ tx, by }: Act): Promise<ResponseOf<typeof contract>> {
  const business = await done(tx, null);
  const begun = Object.values(business).every(Boolean);
  const own = begun ? await done(tx, by.id) : business;
  const [me] = await tx.db.select({ away: person.firstStepsAway }).from(person).where(eq(person.id, by.id));
  return {
    away: me?.away ?? false,
    of: begun ? 'person' : 'business',
    steps: firstStepKeys.filter((key) => grantedSomewhere(by.grants, needs[key])).map((key) => ({ key, done: own[key] })),
  };
}

export async function putFirstStepsAway(act: Act, away: boolean): Promise<ResponseOf<typeof contract>> {
  await act.tx.db.update(person).set({ firstStepsAway: away }).where(eq(person.id, act.by.id));
  return firstSteps(act);
}
