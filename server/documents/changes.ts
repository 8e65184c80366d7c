import { Refusal } from '@larder/core/refusal';
import type { Act } from '../act';
import { change } from '../db/schema/index';

/** Refuses an edit of something that changed since it was read. */
export function refuseStale(was: number, is: number, what: string): void {
  if (was !== is)
    throw new Refusal(409, 'stale', `${what} was changed by somebody else in the meantime. Look at it again, then make your change.`, [
      { field: 'version', sentence: 'Changed in the meantime.' },
    ]);
}

/** Writes down what an edit changed, field by field. */
export async function recordChanges({ tx, by, now }: Act, kind: string, subjectId: number, was: object, is: object): Promise<void> {
  const before = was as Record<string, unknown>;
  const rows = Object.entries(is)
    .filter(([field, value]) => JSON.stringify(before[field]) !== JSON.stringify(value))
    .map(([field, value]) => ({ kind, subjectId, at: now.toISOString(), personId: by.id, field, was: before[field] ?? null, is: value ?? null }));
  if (rows.length > 0) await tx.db.insert(change).values(rows);
}

/** SQL of what was changed of something and can be told in a line, the last first. */
export const changesSql = (kind: string, id: string): string =>
  `(SELECT coalesce(json_agg(json_build_object('at', to_char(h.at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'), 'person', w.name, 'field', h.field, 'was', h.was #>> '{}', 'is', h."is" #>> '{}') ORDER BY h.id DESC), '[]')
    FROM (SELECT * FROM change WHERE kind = '${kind}' AND subject_id = ${id} AND jsonb_typeof("is") = 'string' ORDER BY id DESC LIMIT 40) h JOIN person w ON w.id = h.person_id)`;
