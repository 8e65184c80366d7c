import { Refusal } from '@larder/core/refusal';
import type { Act } from '../act';
import { change } from '../db/schema/index';

/** Takes the next number of a kind of document. Called last: the counter's row stays locked until the end. */
export async function nextNumber({ tx }: Act, kind: 'purchase order' | 'sales order'): Promise<string> {
  const [row] = await tx.rows<{ number: string }>('UPDATE counter SET next = next + 1 WHERE kind = $1 RETURNING prefix || (next - 1) AS number', [kind]);
  if (!row) throw new Error(`there is no counter for ${kind}`);
  return row.number;
}

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

/** SQL of the movements of a document, newest first, as `MovementRef` rows. */
export const movementRefs = (kind: 'purchase' | 'sales', orderId: string): string =>
  `(SELECT coalesce(json_agg(json_build_object('id', m.id, 'kind', m.kind, 'postedAt', to_char(m.posted_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'), 'person', w.name,
      'quantity', x.quantity, 'value', x.value, 'undone', EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.id), 'undoes', m.reverses IS NOT NULL) ORDER BY m.id DESC), '[]')
    FROM (SELECT l.movement_id, trim_scale(sum(l.quantity))::text AS quantity, sum(l.value)::text AS value
      FROM ${kind}_line d JOIN movement_line l ON l.${kind}_line_id = d.id WHERE d.order_id = ${orderId} GROUP BY 1) x
    JOIN movement m ON m.id = x.movement_id JOIN person w ON w.id = m.person_id)`;
