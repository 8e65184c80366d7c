import type * as contract from '@larder/contract/books';
import type { FileAnswer, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { plainEntries, plainHead } from '@larder/core/books/plainText';
import { decimal } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import { and, eq, exists, gte, lte, sql, type SQL } from 'drizzle-orm';
import { QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { csvFile } from '../../documents/csvFile';
import { countedBy } from '../../heavy/progress';
import { writtenFile } from '../../http/file';
import { jsonRows, type Fields } from '../../db/json';
import { cursorOf, everyWord, pageOf, paged, type Sort } from '../../db/paging';
import { account as accountTable, department, entryDocument, item, journalEntry, journalLine } from '../../db/schema/index';
import { companyCurrency } from '../../ledger/company';
import { openItems } from './openItems';

const accountBalance = sql<string>`(${new QueryBuilder()
  .select({ sum: sql`coalesce(sum(${journalLine.amount}), 0)::numeric(18, 2)` })
  .from(journalLine)
  .where(eq(journalLine.accountId, accountTable.id))})`;

const accountsWhere = async ({ db }: Act['tx'], which?: SQL): Promise<contract.Account[]> =>
  db
    .select({
      id: accountTable.id,
      code: accountTable.code,
      name: accountTable.name,
      type: accountTable.type,
      purpose: accountTable.purpose,
      balance: accountBalance,
    })
    .from(accountTable)
    .where(which)
    .orderBy(accountTable.code);

export const accounts = ({ tx }: Act): Promise<contract.Account[]> => accountsWhere(tx);

export async function account({ tx }: Act, id: number): Promise<ResponseOf<typeof contract.getAccount>> {
  const [row] = await accountsWhere(tx, eq(accountTable.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such account.');
  return { ...row, openItems: await openItems(tx, row.purpose) };
}

const entryLines = {
  accountId: accountTable.id,
  code: accountTable.code,
  name: accountTable.name,
  type: accountTable.type,
  sku: item.sku,
  department: department.name,
  amount: journalLine.amount,
};

/** The lines of a journal entry, debits first. */
const linesOfEntry = <F extends Fields>(fields: F) =>
  jsonRows(
    fields,
    (select) =>
      select
        .from(journalLine)
        .innerJoin(accountTable, eq(accountTable.id, journalLine.accountId))
        .leftJoin(item, eq(item.id, journalLine.itemId))
        .leftJoin(department, eq(department.id, journalLine.departmentId))
        .where(eq(journalLine.entryId, journalEntry.id)),
    { orderBy: sql`${journalLine.amount} < 0, ${accountTable.code}, ${item.sku}` },
  );

/** Journal entries, newest first; words look through text, document number, their own number, party and amounts. */
export async function journal({ tx: { db } }: Act, query: QueryOf<typeof contract.journal>): Promise<ResponseOf<typeof contract.journal>> {
  const ofEntry = eq(journalLine.entryId, journalEntry.id);
  const amounts = db
    .select({ all: sql`string_agg(abs(${journalLine.amount})::text, ' ')` })
    .from(journalLine)
    .where(ofEntry);
  const { effectiveOn } = journalEntry;
  const words = sql`lower(concat_ws(' ', ${journalEntry.text}, ${effectiveOn}::text, to_char(${effectiveOn}, 'FMDD/FMMM'), ${entryDocument.words}, (${amounts})))`;
  /** The entry has a line on that account, of that department, or both. */
  const has = ({ accountId: on, departmentId: of }: typeof query) =>
    on === undefined && of === undefined
      ? undefined
      : exists(
          db
            .select({ one: sql`1` })
            .from(journalLine)
            .where(and(ofEntry, on === undefined ? undefined : eq(journalLine.accountId, on), of === undefined ? undefined : eq(journalLine.departmentId, of))),
        );
  const sort: Sort = { sql: effectiveOn, type: 'date' };
  const page = pageOf(sort, journalEntry.id, { ...query, direction: 'down' });
  const { accountId, code, name, sku, department: borneBy, amount } = entryLines;
  const rows = await db
    .select({
      id: journalEntry.id,
      day: effectiveOn,
      text: journalEntry.text,
      kind: entryDocument.kind,
      documentId: entryDocument.documentId,
      number: entryDocument.number,
      lines: linesOfEntry({ accountId, code, name, sku, department: borneBy, amount }),
      ...cursorOf(sort, journalEntry.id),
    })
    .from(journalEntry)
    .innerJoin(entryDocument, eq(entryDocument.entryId, journalEntry.id))
    .where(
      and(
        everyWord(words, query.q),
        has(query),
        query.from === undefined ? undefined : gte(effectiveOn, query.from),
        query.to === undefined ? undefined : lte(effectiveOn, query.to),
        page.after,
      ),
    )
    .orderBy(...page.order)
    .limit(page.limit);
  const shown = rows.map(({ kind, documentId, number, ...row }) => ({
    ...row,
    document: kind && documentId !== null && number !== null ? { kind, id: documentId, number } : null,
  }));
  return paged(shown, query.limit);
}

/** The journal as a file, oldest entry first. */
export async function journalFile({ tx, tell }: Act, { format, from, to }: QueryOf<typeof contract.journalFile>): Promise<FileAnswer> {
  const { db } = tx;
  const within = and(from ? gte(journalEntry.effectiveOn, from) : undefined, to ? lte(journalEntry.effectiveOn, to) : undefined);
  const { code, name, type, sku, department: borneBy, amount } = entryLines;
  const entries = tx.batches(
    db
      .select({
        id: journalEntry.id,
        day: journalEntry.effectiveOn,
        text: journalEntry.text,
        document: sql<string>`case when ${entryDocument.kind} = 'movement' then '' else coalesce(${entryDocument.number}, '') end`,
        lines: linesOfEntry({ code, name, type, sku, department: borneBy, amount }),
      })
      .from(journalEntry)
      .innerJoin(entryDocument, eq(entryDocument.entryId, journalEntry.id))
      .where(within)
      .orderBy(journalEntry.effectiveOn, journalEntry.id),
    500,
  );
  const batches = countedBy(tell, entries);
  if (format === 'csv') {
    const cells = async function* () {
      for await (const rows of batches)
        yield rows.flatMap((row) =>
          row.lines.map((line) => [String(row.id), row.day, row.document, row.text, line.code, line.name, line.sku ?? '', line.department ?? '', line.amount]),
        );
    };
    return csvFile('journal', ['Entry', 'Day', 'Document', 'Text', 'Account', 'Name', 'SKU', 'Department', 'Amount'], cells());
  }
  const currency = await companyCurrency({ tx });
  const used = db
    .select({ one: sql`1` })
    .from(journalLine)
    .innerJoin(journalEntry, eq(journalEntry.id, journalLine.entryId))
    .where(and(eq(journalLine.accountId, accountTable.id), within));
  const accountsUsed = await db.select({ code, name, type }).from(accountTable).where(exists(used));
  const parts = async function* () {
    yield plainHead(accountsUsed, currency);
    for await (const rows of batches) {
      const exact = rows.map((row) => ({ ...row, lines: row.lines.map((line) => ({ ...line, amount: decimal(line.amount) })) }));
      yield plainEntries(exact, currency);
    }
  };
  return writtenFile('journal.txt', 'text/plain; charset=utf-8', parts());
}
