import type * as contract from '@larder/contract/post';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import type { Act } from '../../act';
import { everyWord, keyset, paged, Values, whereAll } from '../../db/page';

const columns = `l.id, l.recipient AS "to", l.subject, l.attached, l.written_at AS "writtenAt", p.name AS person, o.id AS "orderId", o.number AS "order", l.body AS text, l.fault,
  CASE WHEN l.sent_at IS NOT NULL THEN 'sent' WHEN l.next_try_at IS NULL THEN 'not sent' ELSE 'waiting' END AS state, EXISTS (SELECT 1 FROM delivered d WHERE d.message_id = l.message_id) AS delivered`;

/** Letters that were written, the last first. */
export async function letters({ tx }: Act, query: QueryOf<typeof contract.listLetters>): Promise<ResponseOf<typeof contract.listLetters>> {
  const values = new Values();
  const where = everyWord(values, `lower(l.recipient || ' ' || l.subject || ' ' || coalesce(o.number, ''))`, query.q);
  if (query.orderId !== undefined) where.push(`l.purchase_order_id = ${values.add(query.orderId)}`);
  const page = keyset(values, { sql: 'l.written_at', type: 'timestamptz' }, 'l.id', { ...query, direction: 'down' });
  const rows = await tx.rows<contract.Letter & { cursor: string; cursorId: number }>(
    `SELECT ${columns}, l.written_at::text AS cursor, l.id AS "cursorId" FROM letter l JOIN person p ON p.id = l.written_by LEFT JOIN purchase_order o ON o.id = l.purchase_order_id ${whereAll([...where, ...page.where])} ${page.order}`,
    values.list,
  );
  return paged(rows, query.limit) as ResponseOf<typeof contract.listLetters>;
}

export async function letterFile({ tx }: Act, id: number): Promise<ResponseOf<typeof contract.letterFile>> {
  const [row] = await tx.rows<{ raw: Buffer; subject: string }>('SELECT raw, subject FROM letter WHERE id = $1', [id]);
  if (!row) throw new Refusal(404, 'not-found', 'There is no such letter.');
  return { type: 'message/rfc822', name: `${row.subject}.eml`, bytes: row.raw };
}
