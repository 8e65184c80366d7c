import { Refusal } from '@larder/core/refusal';
import { and, desc, eq, sql } from 'drizzle-orm';
import { QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../act';
import { jsonRows } from '../db/json';
import { change, person } from '../db/schema/index';

/** Refuses an edit of something that changed since it was read. */
export function refuseStale(was: number, is: number, what: string): void {
  if (was !== is)
    throw new Refusal(409, 'stale', `${what} was changed by somebody else in the meantime. Nothing you typed is lost: look at it, then save again.`, [
      { field: 'version', sentence: 'Changed in the meantime.' },
    ]);
}

/** Writes down what an edit changed, field by field; `isCost` says which fields tell what something costs. */
export async function recordChanges(
  { tx, by, now }: Act,
  kind: string,
  subjectId: number,
  was: object,
  is: object,
  isCost: (field: string) => boolean = () => false,
): Promise<void> {
  const before = was as Record<string, unknown>;
  const rows = Object.entries(is)
    .filter(([field, value]) => JSON.stringify(before[field]) !== JSON.stringify(value))
    .map(([field, value]) => ({
      kind,
      subjectId,
      at: now.toISOString(),
      personId: by.id,
      field,
      was: before[field] ?? null,
      is: value ?? null,
      cost: isCost(field),
    }));
  if (rows.length > 0) await tx.db.insert(change).values(rows);
}

/** What was changed of something and can be told in a line, the last first. */
export function changesOf(kind: string, id: PgColumn) {
  const last = new QueryBuilder()
    .select()
    .from(change)
    .where(and(eq(change.kind, kind), eq(change.subjectId, id), sql`jsonb_typeof(${change.is}) = 'string'`))
    .orderBy(desc(change.id))
    .limit(40)
    .as('last_changes');
  return jsonRows(
    {
      at: last.at,
      person: person.name,
      field: last.field,
      cost: last.cost,
      was: sql<string | null>`${last.was} #>> '{}'`,
      is: sql<string>`${last.is} #>> '{}'`,
    },
    (select) => select.from(last).innerJoin(person, eq(person.id, last.personId)),
    { orderBy: desc(last.id) },
  );
}

/** Who changed something last, and when; null when nobody did since it was made. */
export async function lastChange({ tx }: Pick<Act, 'tx'>, kind: string, id: number): Promise<{ person: string; at: string } | null> {
  const [last] = await tx.db
    .select({ person: person.name, at: change.at })
    .from(change)
    .innerJoin(person, eq(person.id, change.personId))
    .where(and(eq(change.kind, kind), eq(change.subjectId, id)))
    .orderBy(desc(change.id))
    .limit(1);
  return last ?? null;
}

/** Of changes, those that a person may see: what something costs only who may see that. */
export const toldTo = <T extends { cost: boolean }>({ seesCosts }: Pick<Act, 'seesCosts'>, changes: readonly T[]): Omit<T, 'cost'>[] =>
  changes.filter(({ cost }) => seesCosts || !cost).map(({ cost: _cost, ...change }) => change);
