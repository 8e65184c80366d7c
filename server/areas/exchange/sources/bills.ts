import { and, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import { QueryBuilder } from 'drizzle-orm/pg-core';
import { bill, party, payment } from '../../../db/schema/index';
import { type Source, inOrder, day, named } from './source';

const paidOf = sql`coalesce((${new QueryBuilder()
  .select({ sum: sql`sum(${payment.amount})` })
  .from(payment)
  .where(and(eq(payment.billId, bill.id), isNull(payment.undoneAt)))}), 0)`;

export const bills: Source = {
  company: true,
  read: (db, where) =>
    db
      .select({
        number: bill.number,
        kind: bill.kind,
        party: party.name,
        reference: bill.reference,
        billedOn: day(bill.billedOn),
        dueOn: day(bill.dueOn),
        currency: bill.currency,
        total: sql<string>`(${bill.net} + ${bill.tax})::text`,
        open: sql<string>`(case when ${bill.undoneAt} is not null or ${bill.postedAt} is null then 0 else ${bill.net} + ${bill.tax} - ${paidOf} end)::text`,
      })
      .from(bill)
      .innerJoin(party, eq(party.id, bill.partyId))
      .where(where)
      .orderBy(inOrder),
  words: sql`lower(${bill.number} || ' ' || ${bill.reference} || ' ' || ${party.name})`,
  shows: {
    open: and(isNotNull(bill.postedAt), isNull(bill.undoneAt), sql`${paidOf} < ${bill.net} + ${bill.tax}`),
    waiting: and(isNull(bill.postedAt), isNull(bill.undoneAt)),
  },
  more: named([
    ['number', 'Bill'],
    ['kind', 'Kind'],
    ['party', 'From'],
    ['reference', 'Their number'],
    ['billedOn', 'Of'],
    ['dueOn', 'Due'],
    ['currency', 'Currency'],
    ['total', 'Total'],
    ['open', 'Open'],
  ]),
};
