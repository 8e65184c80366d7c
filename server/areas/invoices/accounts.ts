import { amountText } from '@larder/core/books/currency';
import { runningBalance } from '@larder/core/books/payment';
import { addDays } from '@larder/core/day';
import { decimal, sum } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import type * as contract from '@larder/contract/invoices';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { and, eq, isNull, lte, sql, type SQL } from 'drizzle-orm';
import { QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { everyWord, cursorOf, paged, pageOf, type Sort } from '../../db/paging';
import { company, invoice, moneyIn, party } from '../../db/schema/index';
import { lower } from '../../db/text';
import { creditedNow, open, paidNow, total } from './standing';

/** What customers owe, and their accounts. */

type DebtorQuery = QueryOf<typeof contract.listDebtors>;

const late = (today: string) => sql`(${today}::date - ${invoice.dueOn})`;

/** What each customer owes in each currency, by how long it is due. */
const owing = (today: string, q: string | undefined) => {
  const between = (which: SQL) => sql<string>`coalesce(sum(${open}) filter (where ${which}), 0)`;
  const days = late(today);
  return new QueryBuilder()
    .select({
      partyId: invoice.partyId,
      party: sql<string>`min(${party.name})`.as('owing_party'),
      currency: invoice.currency,
      invoices: sql<number>`count(*)::int`.as('owing_invoices'),
      open: sql<string>`sum(${open})`.as('owing_open'),
      notDue: between(sql`${days} <= 0`).as('owing_not_due'),
      month: between(sql`${days} between 1 and 30`).as('owing_month'),
      months: between(sql`${days} between 31 and 60`).as('owing_months'),
      longer: between(sql`${days} > 60`).as('owing_longer'),
      firstDueOn: sql<string>`min(${invoice.dueOn})`.as('owing_first'),
    })
    .from(invoice)
    .innerJoin(party, eq(party.id, invoice.partyId))
    .innerJoinLateral(creditedNow, sql`true`)
    .innerJoinLateral(paidNow, sql`true`)
    .where(and(sql`${open} <> 0`, everyWord(lower(party.name), q)))
    .groupBy(invoice.partyId, invoice.currency)
    .as('owing');
};

export async function debtorsInAll({ tx, today }: Act, { q }: DebtorQuery): Promise<ResponseOf<typeof contract.debtorsInAll>> {
  const all = owing(today, q);
  const rows = await tx.db
    .select({ currency: all.currency, count: sql<number>`count(*)::int`, amount: sql<string>`sum(${all.open})` })
    .from(all)
    .groupBy(all.currency)
    .orderBy(all.currency);
  return { count: rows.reduce((many, { count }) => many + count, 0), open: rows.map(({ currency, amount }) => ({ currency, amount })) };
}

/** Customers that owe something, those first whose first invoice is due longest. */
export async function debtors({ tx, today }: Act, query: DebtorQuery): Promise<ResponseOf<typeof contract.listDebtors>> {
  const all = owing(today, query.q);
  const sort: Sort = { sql: sql`${all.firstDueOn} || ' ' || ${all.currency}`, type: 'text' };
  const page = pageOf(sort, all.partyId, { ...query, direction: 'up' });
  const rows = await tx.db
    .select({
      partyId: all.partyId,
      party: all.party,
      currency: all.currency,
      invoices: all.invoices,
      open: all.open,
      notDue: all.notDue,
      month: all.month,
      months: all.months,
      longer: all.longer,
      firstDueOn: all.firstDueOn,
      ...cursorOf(sort, all.partyId),
    })
    .from(all)
    .where(page.after)
    .orderBy(...page.order)
    .limit(page.limit);
  const { rows: shown, next } = paged(rows, query.limit);
  return {
    rows: shown.map(({ notDue, month, months, longer, ...row }) => ({
      ...row,
      ages: { 'not due': notDue, '1 to 30 days': month, '31 to 60 days': months, longer },
    })),
    next,
  };
}

/** The account of a customer in one currency: what it stood at before the first day, and what happened until the last. */
export async function statement(act: Act, query: QueryOf<typeof contract.getStatement>): Promise<contract.Statement> {
  const { db } = act.tx;
  const { partyId } = query;
  const [who] = await db
    .select({ party: party.name, own: company.currency })
    .from(party)
    .innerJoin(company, sql`true`)
    .where(eq(party.id, partyId));
  if (!who) throw new Refusal(404, 'not-found', 'There is no such customer.');
  const used = await db.selectDistinct({ currency: invoice.currency }).from(invoice).where(eq(invoice.partyId, partyId)).orderBy(invoice.currency);
  const currency = query.currency ?? used[0]?.currency ?? who.own;
  const to = query.to ?? act.today;
  const from = query.from ?? addDays(to, -90);
  const papers = await db
    .select({
      id: sql<number | null>`${invoice.id}`,
      at: invoice.createdAt,
      day: invoice.invoicedOn,
      kind: sql<'invoice' | 'credit' | 'money'>`${invoice.kind}`,
      text: sql<string>`case ${invoice.kind} when 'credit' then 'Credit note ' else 'Invoice ' end || ${invoice.number}`,
      amount: sql<string>`(case ${invoice.kind} when 'credit' then -1 else 1 end * ${total})`,
    })
    .from(invoice)
    .where(and(eq(invoice.partyId, partyId), eq(invoice.currency, currency), lte(invoice.invoicedOn, to)));
  const money = await db
    .select({
      id: sql<number | null>`null::int`,
      at: moneyIn.createdAt,
      day: moneyIn.paidOn,
      kind: sql<'invoice' | 'credit' | 'money'>`'money'`,
      text: sql<string>`case when ${moneyIn.amount} < 0 then 'Paid back' else 'Paid' end || case when ${moneyIn.note} = '' then '' else ', ' || ${moneyIn.note} end`,
      amount: sql<string>`(-${moneyIn.amount})`,
    })
    .from(moneyIn)
    .where(and(eq(moneyIn.partyId, partyId), eq(moneyIn.currency, currency), isNull(moneyIn.undoneAt), lte(moneyIn.paidOn, to), sql`${moneyIn.amount} <> 0`));
  const all = [...papers, ...money]
    .sort((a, b) => a.day.localeCompare(b.day) || a.at.localeCompare(b.at))
    .map((row) => ({ ...row, amount: decimal(row.amount) }));
  const before = sum(all.filter(({ day }) => day < from).map(({ amount }) => amount));
  const rows = runningBalance(
    before,
    all.filter(({ day }) => day >= from),
  );
  const text = (value: ReturnType<typeof decimal>) => amountText(currency, value);
  return {
    partyId,
    party: who.party,
    currency,
    currencies: used.map((one) => one.currency),
    from,
    to,
    before: text(before),
    rows: rows.map(({ at: _at, amount, balance, ...row }) => ({ ...row, amount: text(amount), balance: text(balance) })),
    balance: text(rows.at(-1)?.balance ?? before),
    open: await openOf(act, partyId, currency),
  };
}

async function openOf({ tx: { db }, today }: Act, partyId: number, currency: string): Promise<contract.Statement['open']> {
  const rows = await db
    .select({
      id: invoice.id,
      number: invoice.number,
      dueOn: invoice.dueOn,
      late: sql<boolean>`${invoice.dueOn} < ${today}::date and ${open} > 0`,
      total,
      open,
    })
    .from(invoice)
    .innerJoinLateral(creditedNow, sql`true`)
    .innerJoinLateral(paidNow, sql`true`)
    .where(and(eq(invoice.partyId, partyId), eq(invoice.currency, currency), sql`${open} <> 0`))
    .orderBy(invoice.dueOn, invoice.id);
  return rows;
}
