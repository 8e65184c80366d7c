import { documentRules } from '@larder/core/ledger/counters';

/** SQL of the movements of a document, newest first, as `MovementRef` rows. */
export const movementRefs = (kind: 'purchase' | 'sales', orderId: string): string =>
  `(SELECT coalesce(json_agg(json_build_object('id', m.id, 'kind', m.kind, 'postedAt', to_char(m.posted_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'), 'person', w.name,
      'quantity', x.quantity, 'value', x.value, 'undone', EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.id), 'undoes', m.reverses IS NOT NULL) ORDER BY m.id DESC), '[]')
    FROM (SELECT l.movement_id, trim_scale(sum(l.quantity))::text AS quantity, sum(l.value)::text AS value
      FROM ${kind}_line d JOIN movement_line l ON l.${documentRules[kind].side}_line_id = d.id WHERE d.order_id = ${orderId} GROUP BY 1) x
    JOIN movement m ON m.id = x.movement_id JOIN person w ON w.id = m.person_id)`;
