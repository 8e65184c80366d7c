import type * as contract from '@larder/contract/handover';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { compareBooks, merged } from '@larder/core/books/handover';
import { and, eq, isNull, lte, notExists, sql } from 'drizzle-orm';
import { positive } from '../../db/given';
import { alias, QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { jsonList, jsonRows } from '../../db/json';
import { cursorOf, everyWord, pageOf, paged, type Sort } from '../../db/paging';
import { account, bill, handover, journalEntry, journalLine, outsideAccount, party, person, invoice, moneyIn } from '../../db/schema/index';
import { accounting } from '../../standins/accounting';

const ofEntry = eq(journalLine.entryId, journalEntry.id);
const gone = and(eq(handover.entryId, journalEntry.id), isNull(handover.takenBackAt));
const notGone = notExists(
  new QueryBuilder()
    .select({ one: sql`1` })
    .from(handover)
    .where(gone),
);
const allMapped = notExists(
  new QueryBuilder()
    .select({ one: sql`1` })
    .from(journalLine)
    .innerJoin(account, eq(account.id, journalLine.accountId))
    .where(and(ofEntry, isNull(account.outsideCode))),
);

/** What waits, what can go, what has gone, and how accounts are mapped. */
export async function standing({ tx: { db } }: Act): Promise<contract.Standing> {
  const [counts] = await db
    .select({ waiting: sql<number>`count(*)`, ready: sql<number>`count(*) filter (where ${allMapped})` })
    .from(journalEntry)
    .where(notGone);
  const waiting = db
    .select({ entries: sql`count(distinct ${journalLine.entryId})` })
    .from(journalLine)
    .innerJoin(journalEntry, ofEntry)
    .where(and(eq(journalLine.accountId, account.id), notGone));
  const mapping = await db
    .select({ accountId: account.id, code: account.code, name: account.name, outsideCode: account.outsideCode, waiting: sql<number>`(${waiting})` })
    .from(account)
    .orderBy(account.code);
  const outside = await db.select({ code: outsideAccount.code, name: outsideAccount.name }).from(outsideAccount).orderBy(outsideAccount.code);
  return { mapping, outside, waiting: counts?.waiting ?? 0, ready: counts?.ready ?? 0, gone: await db.$count(handover, isNull(handover.takenBackAt)) };
}

/** Entries that can go, the oldest first, with how often each has gone before. */
export async function waitingEntries({ tx: { db } }: Act, { through, entryId }: { through: string | null; entryId: number | null }, most: number) {
  const times = db
    .select({ count: sql`count(*)` })
    .from(handover)
    .where(eq(handover.entryId, journalEntry.id));
  return db
    .select({
      id: journalEntry.id,
      times: sql<number>`(${times})`,
      day: journalEntry.effectiveOn,
      party: sql<string>`coalesce(${party.name}, '')`,
      text: journalEntry.text,
      kind: sql<string>`case when ${journalEntry.paymentId} is not null then 'payment' when ${journalEntry.billId} is not null then ${bill.kind}
        when ${journalEntry.invoiceId} is not null then case ${invoice.kind} when 'credit' then 'credit note' else 'invoice' end when ${journalEntry.moneyId} is not null then 'payment'
        when ${journalEntry.sheetId} is not null then 'landed cost' else 'stock' end`,
      lines: jsonRows({ accountId: journalLine.accountId, amount: journalLine.amount }, (select) => select.from(journalLine).where(ofEntry), {
        orderBy: journalLine.id,
      }),
    })
    .from(journalEntry)
    .leftJoin(bill, eq(bill.id, journalEntry.billId))
    .leftJoin(invoice, eq(invoice.id, journalEntry.invoiceId))
    .leftJoin(moneyIn, eq(moneyIn.id, journalEntry.moneyId))
    .leftJoin(party, sql`${party.id} = coalesce(${bill.partyId}, ${invoice.partyId}, ${moneyIn.partyId})`)
    .where(
      and(
        notGone,
        allMapped,
        through === null ? undefined : lte(journalEntry.effectiveOn, through),
        entryId === null ? undefined : eq(journalEntry.id, entryId),
      ),
    )
    .orderBy(journalEntry.effectiveOn, journalEntry.id)
    .limit(most);
}

const sender = alias(person, 'sender');
const taker = alias(person, 'taker');

/** What has gone, the last first. */
export async function handed({ tx: { db } }: Act, query: QueryOf<typeof contract.listHanded>): Promise<ResponseOf<typeof contract.listHanded>> {
  const words = sql`lower(${handover.outsideNumber} || ' ' || ${handover.reference} || ' ' || ${journalEntry.text} || ' ' || ${journalEntry.effectiveOn}::text)`;
  const debits = db
    .select({ sum: sql`sum(${journalLine.amount})` })
    .from(journalLine)
    .where(and(ofEntry, positive(journalLine.amount)));
  const sort: Sort = { sql: handover.sentAt, type: 'timestamptz' };
  const page = pageOf(sort, handover.id, { ...query, direction: 'down' });
  const rows = await db
    .select({
      id: handover.id,
      entryId: handover.entryId,
      reference: handover.reference,
      outsideNumber: handover.outsideNumber,
      day: journalEntry.effectiveOn,
      text: journalEntry.text,
      amount: sql<string>`(${debits})`,
      sentAt: handover.sentAt,
      person: sender.name,
      takenBackAt: handover.takenBackAt,
      takenBackBy: taker.name,
      ...cursorOf(sort, handover.id),
    })
    .from(handover)
    .innerJoin(journalEntry, eq(journalEntry.id, handover.entryId))
    .innerJoin(sender, eq(sender.id, handover.sentBy))
    .leftJoin(taker, eq(taker.id, handover.takenBackBy))
    .where(and(everyWord(words, query.q), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  return paged(rows, query.limit);
}

/** Both sides, from our journal as it went and from what the accounting service says it has. */
export async function comparison(act: Act): Promise<ResponseOf<typeof contract.compare>> {
  const { db } = act.tx;
  const byAccount = db
    .select({ entryId: journalLine.entryId, accountId: journalLine.accountId, amount: sql<string>`sum(${journalLine.amount})::text`.as('sum_of_account') })
    .from(journalLine)
    .groupBy(journalLine.entryId, journalLine.accountId)
    .as('by_account');
  const ours = await db
    .select({ reference: handover.reference, lines: jsonList({ code: sql<string>`${account.outsideCode}`, amount: byAccount.amount }) })
    .from(handover)
    .innerJoin(byAccount, eq(byAccount.entryId, handover.entryId))
    .innerJoin(account, eq(account.id, byAccount.accountId))
    .where(isNull(handover.takenBackAt))
    .groupBy(handover.reference);
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
