import type * as contract from '@larder/contract/books';
import type { FileAnswer, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { plainEntries, plainHead, type AccountType } from '@larder/core/books/plainText';
import { decimal } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import type { Act } from '../../act';
import { csvFile } from '../../documents/csvFile';
import { countedBy } from '../../heavy/progress';
import { writtenFile } from '../../http/file';
import { everyWord, keyset, paged, Values, whereAll } from '../../db/page';

const accountSql = `SELECT a.id, a.code, a.name, a.type, a.purpose, (SELECT coalesce(sum(amount), 0)::numeric(18, 2) FROM journal_line WHERE account_id = a.id) AS balance FROM account a`;

export const accounts = ({ tx }: Act): Promise<contract.Account[]> => tx.rows<contract.Account>(`${accountSql} ORDER BY a.code`);

/** What makes up the balance of an account that clears something, signed as the balance is. */
const openItemSql: Record<string, string> = {
  grni: `SELECT json_build_object('kind', 'purchase order', 'id', o.id, 'number', o.number) AS document, p.name || ': ' || string_agg(i.sku, ', ' ORDER BY l.position) AS text, -sum(l.received_value - l.billed_value) AS amount
    FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id JOIN party p ON p.id = o.supplier_id JOIN item i ON i.id = l.item_id WHERE l.received_value > l.billed_value GROUP BY o.id, p.name ORDER BY o.id`,
  'credits-expected': `SELECT json_build_object('kind', 'purchase order', 'id', o.id, 'number', o.number) AS document, p.name || ': ' || string_agg(i.sku, ', ' ORDER BY l.position) AS text, sum(l.billed_value - l.received_value) AS amount
    FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id JOIN party p ON p.id = o.supplier_id JOIN item i ON i.id = l.item_id WHERE l.billed_value > l.received_value GROUP BY o.id, p.name ORDER BY o.id`,
  'landed-clearing': `SELECT json_build_object('kind', 'landed cost', 'id', s.id, 'number', s.number) AS document, c.name AS text, -(c.estimate - c.cleared) AS amount
    FROM landed_charge c JOIN landed_sheet s ON s.id = c.sheet_id WHERE c.removed_at IS NULL AND c.settled_at IS NULL AND c.estimate <> c.cleared ORDER BY s.id, c.position`,
  payable: `SELECT json_build_object('kind', 'bill', 'id', b.id, 'number', b.number) AS document, p.name || ' ' || b.reference AS text, (b.owed - x.paid) * CASE b.kind WHEN 'credit' THEN 1 ELSE -1 END AS amount
    FROM bill b JOIN party p ON p.id = b.party_id CROSS JOIN LATERAL (SELECT coalesce(sum(settled), 0) AS paid FROM payment WHERE bill_id = b.id AND undone_at IS NULL) x WHERE b.posted_at IS NOT NULL AND b.undone_at IS NULL AND b.owed <> x.paid ORDER BY b.id`,
};

export async function account(act: Act, id: number): Promise<ResponseOf<typeof contract.getAccount>> {
  const [row] = await act.tx.rows<contract.Account>(`${accountSql} WHERE a.id = $1`, [id]);
  if (!row) throw new Refusal(404, 'not-found', 'There is no such account.');
  const sql = openItemSql[row.purpose ?? ''];
  return { ...row, openItems: sql ? await act.tx.rows(sql) : null };
}

const documentSql = `CASE WHEN e.bill_id IS NOT NULL THEN json_build_object('kind', 'bill', 'id', e.bill_id, 'number', b.number) WHEN e.sheet_id IS NOT NULL THEN json_build_object('kind', 'landed cost', 'id', e.sheet_id, 'number', s.number)
    WHEN d.po IS NOT NULL THEN json_build_object('kind', 'purchase order', 'id', d.po, 'number', (SELECT number FROM purchase_order WHERE id = d.po)) WHEN d.so IS NOT NULL THEN json_build_object('kind', 'sales order', 'id', d.so, 'number', (SELECT number FROM sales_order WHERE id = d.so))
    WHEN e.movement_id IS NOT NULL THEN json_build_object('kind', 'movement', 'id', e.movement_id, 'number', 'M' || e.movement_id) END`;
const entryTables = `FROM journal_entry e LEFT JOIN bill b ON b.id = e.bill_id LEFT JOIN party p ON p.id = b.party_id LEFT JOIN landed_sheet s ON s.id = e.sheet_id
  LEFT JOIN LATERAL (SELECT min(pl.order_id) AS po, min(sl.order_id) AS so FROM movement_line l LEFT JOIN purchase_line pl ON pl.id = l.supply_line_id LEFT JOIN sales_line sl ON sl.id = l.demand_line_id WHERE l.movement_id = e.movement_id) d ON true`;

/** Journal entries, newest first; words look through text, document number, their own number, party and amounts. */
export async function journal({ tx }: Act, query: QueryOf<typeof contract.journal>): Promise<ResponseOf<typeof contract.journal>> {
  const values = new Values();
  const found = `lower(e.text || ' ' || e.effective_on::text || ' ' || to_char(e.effective_on, 'FMDD/FMMM') || coalesce(' ' || b.number || ' ' || b.reference || ' ' || p.name, '') || coalesce(' ' || s.number, '') || coalesce(' ' || (SELECT number FROM purchase_order WHERE id = d.po), '') || coalesce(' ' || (SELECT number FROM sales_order WHERE id = d.so), '') || coalesce(' ' || (SELECT string_agg(abs(amount)::text, ' ') FROM journal_line WHERE entry_id = e.id), ''))`;
  const where = everyWord(values, found, query.q);
  if (query.accountId !== undefined) where.push(`EXISTS (SELECT 1 FROM journal_line WHERE entry_id = e.id AND account_id = ${values.add(query.accountId)})`);
  if (query.from !== undefined) where.push(`e.effective_on >= ${values.add(query.from)}`);
  if (query.to !== undefined) where.push(`e.effective_on <= ${values.add(query.to)}`);
  const sort = { sql: 'e.effective_on', type: 'date' as const };
  const page = keyset(values, sort, 'e.id', { ...query, direction: 'down' });
  const rows = await tx.rows<contract.JournalRow & { cursor: string; cursorId: number }>(
    `SELECT e.id, e.effective_on AS day, e.text, ${documentSql} AS document, e.effective_on::text AS cursor, e.id AS "cursorId",
      (SELECT coalesce(json_agg(json_build_object('accountId', a.id, 'code', a.code, 'name', a.name, 'sku', i.sku, 'amount', j.amount::text) ORDER BY j.amount < 0, a.code, i.sku), '[]') FROM journal_line j JOIN account a ON a.id = j.account_id LEFT JOIN item i ON i.id = j.item_id WHERE j.entry_id = e.id) AS lines
     ${entryTables} ${whereAll([...where, ...page.where])} ${page.order}`,
    values.list,
  );
  return paged(rows, query.limit) as ResponseOf<typeof contract.journal>;
}

interface FileRow {
  id: number;
  day: string;
  text: string;
  document: string;
  lines: { code: string; name: string; type: AccountType; sku: string | null; amount: string }[];
}

/** The journal as a file, oldest entry first. */
export async function journalFile({ tx, tell }: Act, { format, from, to }: QueryOf<typeof contract.journalFile>): Promise<FileAnswer> {
  const days = [from ?? null, to ?? null];
  const within = '($1::date IS NULL OR e.effective_on >= $1) AND ($2::date IS NULL OR e.effective_on <= $2)';
  const entries = tx.batches<FileRow>(
    `SELECT e.id, e.effective_on AS day, e.text, coalesce(b.number, s.number, (SELECT number FROM purchase_order WHERE id = d.po), (SELECT number FROM sales_order WHERE id = d.so), '') AS document,
      (SELECT coalesce(json_agg(json_build_object('code', a.code, 'name', a.name, 'type', a.type, 'sku', i.sku, 'amount', j.amount::text) ORDER BY j.amount < 0, a.code, i.sku), '[]') FROM journal_line j JOIN account a ON a.id = j.account_id LEFT JOIN item i ON i.id = j.item_id WHERE j.entry_id = e.id) AS lines
     ${entryTables} WHERE ${within} ORDER BY e.effective_on, e.id`,
    days,
    500,
  );
  const batches = countedBy(tell, entries);
  if (format === 'csv') {
    const cells = async function* () {
      for await (const rows of batches)
        yield rows.flatMap((row) =>
          row.lines.map((line) => [String(row.id), row.day, row.document, row.text, line.code, line.name, line.sku ?? '', line.amount]),
        );
    };
    return csvFile('journal', ['Entry', 'Day', 'Document', 'Text', 'Account', 'Name', 'SKU', 'Amount'], cells());
  }
  const [company] = await tx.rows<{ currency: string }>('SELECT currency FROM company');
  const accounts = await tx.rows<FileRow['lines'][number]>(
    `SELECT a.code, a.name, a.type FROM account a WHERE EXISTS (SELECT FROM journal_line j JOIN journal_entry e ON e.id = j.entry_id WHERE j.account_id = a.id AND ${within})`,
    days,
  );
  const parts = async function* () {
    yield plainHead(accounts, company?.currency ?? '');
    for await (const rows of batches) {
      const exact = rows.map((row) => ({ ...row, lines: row.lines.map((line) => ({ ...line, amount: decimal(line.amount) })) }));
      yield plainEntries(exact, company?.currency ?? '');
    }
  };
  return writtenFile('journal.txt', 'text/plain; charset=utf-8', parts());
}
