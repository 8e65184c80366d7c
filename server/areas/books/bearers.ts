import type * as contract from '@larder/contract/bearers';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, sum } from '@larder/core/decimal';
import { and, eq, gte, isNotNull, lte, ne, sql, type SQL } from 'drizzle-orm';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import { account, costBearer, department, item, journalEntry, journalLine, movement, movementLine, person, taxCode } from '../../db/schema/index';

const within = (day: PgColumn, { from, to }: { from?: string | undefined; to?: string | undefined }): SQL | undefined =>
  and(from === undefined ? undefined : gte(day, from), to === undefined ? undefined : lte(day, to));

/** What departments bear, account by account; what came to nothing is left out. */
export async function departmentReport(
  { tx: { db } }: Act,
  query: QueryOf<typeof contract.departmentReport>,
): Promise<ResponseOf<typeof contract.departmentReport>> {
  const amount = sql<string>`sum(${journalLine.amount})`;
  const rows = await db
    .select({
      departmentId: department.id,
      department: department.name,
      accountId: account.id,
      code: account.code,
      account: account.name,
      entries: sql<number>`count(distinct ${journalEntry.id})::int`,
      amount,
    })
    .from(journalLine)
    .innerJoin(journalEntry, eq(journalEntry.id, journalLine.entryId))
    .innerJoin(department, eq(department.id, journalLine.departmentId))
    .innerJoin(account, eq(account.id, journalLine.accountId))
    .where(within(journalEntry.effectiveOn, query))
    .groupBy(department.id, account.id)
    .having(ne(amount, '0'))
    .orderBy(department.name, department.id, account.code);
  return { rows, total: sum(rows.map((row) => decimal(row.amount))).toFixed(2) };
}

const undo = alias(movement, 'undo');
type OwnUseQuery = Pick<QueryOf<typeof contract.ownUse>, 'q' | 'departmentId' | 'from' | 'to'>;

/** Postings that tax is due on, and those that took it back. */
const taxed = ({ q, departmentId, ...days }: OwnUseQuery): SQL | undefined =>
  and(
    isNotNull(costBearer.taxCodeId),
    within(movement.effectiveOn, days),
    departmentId === undefined ? undefined : eq(costBearer.departmentId, departmentId),
    everyWord(sql`lower(concat_ws(' ', ${person.name}, ${department.name}, ${movement.note}, ${taxCode.code}, ${allGoods}))`, q),
  );

/** The goods of a movement: those that came to something, not what only changed its bin by the way. */
const goodsOf = (words: SQL<string>) =>
  sql<string>`(${new QueryBuilder()
    .select({ words })
    .from(movementLine)
    .innerJoin(item, eq(item.id, movementLine.itemId))
    .where(and(eq(movementLine.movementId, movement.id), ne(movementLine.value, '0')))})`;
const allGoods = goodsOf(sql`string_agg(concat_ws(' ', ${item.sku}, ${item.name}), ' ')`);
const firstGoods = goodsOf(
  sql`concat_ws(', ', (array_agg(${item.sku} || ' × ' || trim_scale(${movementLine.quantity}) order by ${movementLine.position}))[1],
    (array_agg(${item.sku} || ' × ' || trim_scale(${movementLine.quantity}) order by ${movementLine.position}))[2]) || case when count(*) > 2 then ' and ' || count(*) - 2 || ' more' else '' end`,
);

/** What the business used itself with the tax due on it, newest first. */
export async function ownUse(act: Act, query: QueryOf<typeof contract.ownUse>): Promise<ResponseOf<typeof contract.ownUse>> {
  const { db } = act.tx;
  const sort: Sort = { sql: movement.effectiveOn, type: 'date' };
  const page = pageOf(sort, movement.id, { ...query, direction: 'down' });
  const rows = await db
    .select({
      movementId: movement.id,
      day: movement.effectiveOn,
      person: person.name,
      department: department.name,
      accountId: costBearer.accountId,
      note: movement.note,
      used: firstGoods,
      taxCode: taxCode.code,
      rate: sql<string>`trim_scale(${costBearer.taxRate})::text`,
      base: costBearer.taxBase,
      tax: costBearer.tax,
      undo: sql<boolean>`${movement.reverses} is not null`,
      undone: sql<boolean>`${undo.id} is not null`,
      ...cursorOf(sort, movement.id),
    })
    .from(costBearer)
    .innerJoin(movement, eq(movement.id, costBearer.movementId))
    .innerJoin(person, eq(person.id, movement.personId))
    .innerJoin(taxCode, eq(taxCode.id, costBearer.taxCodeId))
    .leftJoin(department, eq(department.id, costBearer.departmentId))
    .leftJoin(undo, eq(undo.reverses, movement.id))
    .where(and(taxed(query), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  return paged(rows, query.limit);
}

/** How many postings those are, what they come to, and what the account of that tax took in the same days. */
export async function ownUseInAll(act: Act, query: QueryOf<typeof contract.ownUseInAll>): Promise<ResponseOf<typeof contract.ownUseInAll>> {
  const { db } = act.tx;
  const [row] = await db
    .select({
      count: sql<number>`count(*)::int`,
      base: sql<string>`coalesce(sum(${costBearer.taxBase}), 0.00)`,
      tax: sql<string>`coalesce(sum(${costBearer.tax}), 0.00)`,
    })
    .from(costBearer)
    .innerJoin(movement, eq(movement.id, costBearer.movementId))
    .innerJoin(person, eq(person.id, movement.personId))
    .innerJoin(taxCode, eq(taxCode.id, costBearer.taxCodeId))
    .leftJoin(department, eq(department.id, costBearer.departmentId))
    .where(taxed(query));
  const booked = db
    .select({ sum: sql`coalesce(-sum(${journalLine.amount}), 0.00)` })
    .from(journalLine)
    .innerJoin(journalEntry, eq(journalEntry.id, journalLine.entryId))
    .where(and(eq(journalLine.accountId, account.id), within(journalEntry.effectiveOn, query)));
  const [held] = await db
    .select({ id: account.id, code: account.code, name: account.name, booked: sql<string>`(${booked})` })
    .from(account)
    .where(eq(account.purpose, 'own-use-tax'));
  if (!row || !held) throw new Error('a business has an account for tax on own use');
  return { ...row, account: held };
}
