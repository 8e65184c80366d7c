import type * as contract from '@larder/contract/handover';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { compareBooks, merged, type HandedDocument } from '@larder/core/books/handover';
import type { Act } from '../../act';
import { everyWord, keyset, paged, Values, whereAll } from '../../db/page';
import { accounting } from '../../standins/accounting';

const notGone = 'NOT EXISTS (SELECT 1 FROM handover h WHERE h.entry_id = e.id AND h.taken_back_at IS NULL)';
const allMapped = `NOT EXISTS (SELECT 1 FROM journal_line j JOIN account a ON a.id = j.account_id WHERE j.entry_id = e.id AND a.outside_code IS NULL)`;

/** What waits, what can go, what has gone, and how accounts are mapped. */
export async function standing({ tx }: Act): Promise<contract.Standing> {
  const [counts] = await tx.rows<{ waiting: number; ready: number; gone: number }>(
    `SELECT count(*)::int AS waiting, (count(*) FILTER (WHERE ${allMapped}))::int AS ready, (SELECT count(*)::int FROM handover WHERE taken_back_at IS NULL) AS gone FROM journal_entry e WHERE ${notGone}`,
  );
  const mapping = await tx.rows<contract.Standing['mapping'][number]>(
    `SELECT a.id AS "accountId", a.code, a.name, a.outside_code AS "outsideCode", (SELECT count(DISTINCT j.entry_id)::int FROM journal_line j JOIN journal_entry e ON e.id = j.entry_id WHERE j.account_id = a.id AND ${notGone}) AS waiting FROM account a ORDER BY a.code`,
  );
  const outside = await tx.rows<{ code: string; name: string }>('SELECT code, name FROM outside_account ORDER BY code');
  return { mapping, outside, waiting: counts?.waiting ?? 0, ready: counts?.ready ?? 0, gone: counts?.gone ?? 0 };
}

export interface WaitingEntry {
  id: number;
  /** How often it has gone before. */
  times: number;
  kind: string;
  day: string;
  party: string;
  text: string;
  lines: { accountId: number; amount: string }[];
}

/** Entries that can go, the oldest first. */
export const waitingEntries = ({ tx }: Act, { through, entryId }: { through: string | null; entryId: number | null }, most: number): Promise<WaitingEntry[]> =>
  tx.rows(
    `SELECT e.id, (SELECT count(*)::int FROM handover WHERE entry_id = e.id) AS times, e.effective_on::text AS day, coalesce(p.name, '') AS party, e.text,
      CASE WHEN e.payment_id IS NOT NULL THEN 'payment' WHEN e.bill_id IS NOT NULL THEN b.kind WHEN e.sheet_id IS NOT NULL THEN 'landed cost' ELSE 'stock' END AS kind,
      (SELECT json_agg(json_build_object('accountId', account_id, 'amount', amount::text) ORDER BY id) FROM journal_line WHERE entry_id = e.id) AS lines
     FROM journal_entry e LEFT JOIN bill b ON b.id = e.bill_id LEFT JOIN party p ON p.id = b.party_id
     WHERE ${notGone} AND ${allMapped} AND ($1::date IS NULL OR e.effective_on <= $1) AND ($2::int IS NULL OR e.id = $2) ORDER BY e.effective_on, e.id LIMIT $3`,
    [through, entryId, most],
  );

/** What has gone, the last first. */
export async function handed({ tx }: Act, query: QueryOf<typeof contract.listHanded>): Promise<ResponseOf<typeof contract.listHanded>> {
  const values = new Values();
  const where = everyWord(values, `lower(h.outside_number || ' ' || h.reference || ' ' || e.text || ' ' || e.effective_on::text)`, query.q);
  const page = keyset(values, { sql: 'h.sent_at', type: 'timestamptz' }, 'h.id', { ...query, direction: 'down' });
  const rows = await tx.rows<contract.HandedRow & { cursor: string; cursorId: number }>(
    `SELECT h.id, h.entry_id AS "entryId", h.reference, h.outside_number AS "outsideNumber", e.effective_on AS day, e.text, (SELECT sum(amount) FROM journal_line WHERE entry_id = e.id AND amount > 0) AS amount,
      h.sent_at AS "sentAt", s.name AS person, h.taken_back_at AS "takenBackAt", t.name AS "takenBackBy", h.sent_at::text AS cursor, h.id AS "cursorId"
     FROM handover h JOIN journal_entry e ON e.id = h.entry_id JOIN person s ON s.id = h.sent_by LEFT JOIN person t ON t.id = h.taken_back_by ${whereAll([...where, ...page.where])} ${page.order}`,
    values.list,
  );
  return paged(rows, query.limit) as ResponseOf<typeof contract.listHanded>;
}

/** Both sides, from our journal as it went and from what the accounting service says it has. */
export async function comparison(act: Act): Promise<ResponseOf<typeof contract.compare>> {
  const ours = await act.tx.rows<HandedDocument>(
    `SELECT h.reference, json_agg(json_build_object('code', a.outside_code, 'amount', j.amount::text)) AS lines FROM handover h JOIN (SELECT entry_id, account_id, sum(amount) AS amount FROM journal_line GROUP BY 1, 2) j ON j.entry_id = h.entry_id JOIN account a ON a.id = j.account_id WHERE h.taken_back_at IS NULL GROUP BY h.reference`,
  );
  const names = new Map((await accounting.accounts(act)).map(({ code, name }) => [code, name]));
  const { accounts, ...documents } = compareBooks(ours.map(merged), (await accounting.standing(act)).map(merged));
  return {
    documents: ours.length,
    accounts: accounts.map(({ code, ours: here, theirs }) => ({
      code,
      name: names.get(code) ?? '',
      ours: here.toFixed(2),
      theirs: theirs.toFixed(2),
      same: here.eq(theirs),
    })),
    missing: documents.missing.slice(0, 50),
    unknown: documents.unknown.slice(0, 50),
    different: documents.different.slice(0, 50),
  };
}
