import type { RemindedOf } from '@larder/core/reminders';
import { and, eq, exists, isNotNull, isNull, or, sql, type SQL } from 'drizzle-orm';
import { QueryBuilder } from 'drizzle-orm/pg-core';
import type { Db } from '../../db/database';
import { positive } from '../../db/given';
import { unitOrItem } from '../../documents/lots';
import { attribute, attributeValue, balance, item, loan, loanLine, lot, party, place, reminder } from '../../db/schema/index';

/** A day of something that somebody may be reminded of. */
export interface Subject {
  about: RemindedOf;
  loanId: number | null;
  itemId: number | null;
  lotId: number | null;
  attributeId: number | null;
  /** What it is, as a letter calls it: "LN-1001, Hexley Beekeepers: EX-4F 00017". */
  what: string;
  /** What its day is called. */
  called: string;
  day: string;
  /** Of a loan: the site that lends. */
  siteId: number | null;
}

const query = () => new QueryBuilder();
const isOut = exists(
  query()
    .select({ one: sql`1` })
    .from(loanLine)
    .where(and(eq(loanLine.loanId, loan.id), positive(loanLine.out))),
);
/** What of a loan is out. */
const outItems = sql<string>`(${query()
  .select({ all: sql`string_agg(distinct ${unitOrItem}, ', ')` })
  .from(loanLine)
  .innerJoin(item, eq(item.id, loanLine.itemId))
  .leftJoin(lot, eq(lot.id, loanLine.lotId))
  .where(and(eq(loanLine.loanId, loan.id), positive(loanLine.out)))})`;
const lies = exists(
  query()
    .select({ one: sql`1` })
    .from(balance)
    .innerJoin(place, and(eq(place.id, balance.placeId), place.owned))
    .where(and(eq(balance.itemId, lot.itemId), eq(balance.lotId, lot.id), positive(balance.quantity))),
);
/** The value of an attribute of days, as a day. */
const valueDay = sql<string>`case when ${attribute.kind} = 'date' then ${attributeValue.value}::date end`;

const none = sql<null>`null::int`;
const loanFields = {
  about: sql<RemindedOf>`'loan'`,
  loanId: loan.id,
  itemId: none,
  lotId: none,
  attributeId: none,
  what: sql<string>`${loan.number} || ', ' || ${party.name} || ': ' || ${outItems}`,
  called: sql<string>`'due back'`,
  day: sql<string>`${loan.dueOn}`,
  siteId: sql<number | null>`${loan.siteId}`,
};
const lotFields = {
  about: sql<RemindedOf>`'use-by'`,
  loanId: none,
  itemId: lot.itemId,
  lotId: lot.id,
  attributeId: none,
  what: sql<string>`${item.sku} || ' lot ' || ${lot.code}`,
  called: sql<string>`'use-by day'`,
  day: sql<string>`${lot.useBy}`,
  siteId: none,
};
const attributeFields = {
  about: sql<RemindedOf>`'attribute'`,
  loanId: none,
  itemId: item.id,
  lotId: sql<number | null>`${attributeValue.lotId}`,
  attributeId: attribute.id,
  what: sql<string>`concat_ws(' ', ${item.sku}, ${lot.code})`,
  called: attribute.name,
  day: valueDay,
  siteId: none,
};

/** Loans of which something is out and of which is known when they are due. */
export const loanDays = (db: Db, where?: SQL): Promise<Subject[]> =>
  db
    .select(loanFields)
    .from(loan)
    .innerJoin(party, eq(party.id, loan.holderId))
    .where(and(isNotNull(loan.dueOn), isOut, where));

/** Lots that have a use-by day, and lie somewhere with us. */
export const useByDays = (db: Db, where?: SQL): Promise<Subject[]> =>
  db
    .select(lotFields)
    .from(lot)
    .innerJoin(item, eq(item.id, lot.itemId))
    .where(and(isNotNull(lot.useBy), lies, where));

const ofValue = and(eq(attribute.id, attributeValue.attributeId), eq(attribute.kind, 'date'), isNull(attribute.retiredAt));
const itemOfValue = sql`${item.id} = coalesce(${attributeValue.itemId}, ${lot.itemId})`;
/** Days of the business's own attributes, of items and units. */
export const attributeDays = (db: Db, where?: SQL): Promise<Subject[]> =>
  db
    .select(attributeFields)
    .from(attributeValue)
    .innerJoin(attribute, ofValue)
    .leftJoin(lot, eq(lot.id, attributeValue.lotId))
    .innerJoin(item, itemOfValue)
    .where(where);

/** A day about which somebody is to be reminded, by a reminder of its own or by what its attribute says for all. */
export interface Reminding extends Subject {
  /** Null: by its attribute. */
  reminderId: number | null;
  days: number;
  /** The day it was set; null: nobody knows. */
  since: string | null;
}

const set = {
  reminderId: sql<number | null>`${reminder.id}`,
  days: sql<number>`${reminder.days}`,
  since: sql<string | null>`${reminder.createdAt}::date::text`,
};

/** All reminders whose day came lately: not later than `today`, and at most so many days before it. */
export async function remindings(db: Db, today: string, atMost: number): Promise<Reminding[]> {
  const lately = (day: SQL, days: SQL): SQL => sql`${day}::date + ${days} between ${today}::date - ${atMost}::int and ${today}::date`;
  const own = sql`${reminder.days}`;
  const [loans, lots, values, byRule] = [
    await db
      .select({ ...loanFields, ...set })
      .from(reminder)
      .innerJoin(loan, eq(loan.id, reminder.loanId))
      .innerJoin(party, eq(party.id, loan.holderId))
      .where(and(isNotNull(loan.dueOn), isOut, lately(loanFields.day, own))),
    await db
      .select({ ...lotFields, ...set })
      .from(reminder)
      .innerJoin(lot, or(eq(lot.id, reminder.lotId), eq(lot.itemId, reminder.itemId)))
      .innerJoin(item, eq(item.id, lot.itemId))
      .where(and(eq(reminder.about, 'use-by'), isNotNull(lot.useBy), lies, lately(lotFields.day, own))),
    await db
      .select({ ...attributeFields, ...set })
      .from(reminder)
      .innerJoin(
        attributeValue,
        and(eq(attributeValue.attributeId, reminder.attributeId), or(eq(attributeValue.itemId, reminder.itemId), eq(attributeValue.lotId, reminder.lotId))),
      )
      .innerJoin(attribute, ofValue)
      .leftJoin(lot, eq(lot.id, attributeValue.lotId))
      .innerJoin(item, itemOfValue)
      .where(lately(valueDay, own)),
    await db
      .select({
        ...attributeFields,
        reminderId: sql<number | null>`null::int`,
        days: sql<number>`${attribute.reminderDays}`,
        since: sql<string | null>`null::text`,
      })
      .from(attribute)
      .innerJoin(attributeValue, eq(attributeValue.attributeId, attribute.id))
      .leftJoin(lot, eq(lot.id, attributeValue.lotId))
      .innerJoin(item, itemOfValue)
      .where(and(eq(attribute.kind, 'date'), isNull(attribute.retiredAt), isNotNull(attribute.reminderDays), lately(valueDay, sql`${attribute.reminderDays}`))),
  ];
  return [...loans, ...lots, ...values, ...byRule];
}

/** What a day of something is told apart by: the same day is told nobody twice, by whichever reminder. */
export const keyOf = ({ about, loanId, itemId, lotId, attributeId }: Subject, days: number): string =>
  [about, attributeId ?? '', loanId === null ? (lotId === null ? `item ${itemId ?? ''}` : `lot ${lotId}`) : `loan ${loanId}`, days].join('/');

/** Where in the application one acts on it. */
export const leadsTo = ({ loanId, itemId, lotId }: Subject): string =>
  loanId !== null ? `/stock/loans/${loanId}` : lotId !== null ? `/stock/lots/${lotId}` : `/items/${itemId ?? ''}`;
