import type { Condition } from '@larder/core/stock/loans';
import type { RemindedOf } from '@larder/core/reminders';
import { sql } from 'drizzle-orm';
import { check, date, index, integer, pgTable, primaryKey, smallint, text, unique } from 'drizzle-orm/pg-core';
import { attribute, item, lot } from './catalog';
import { key } from './columns';
import { documentLine } from './documents';
import { movement } from './ledger';
import { party } from './parties';
import { person, role, written } from './people';
import { place } from './places';
import { letter } from './post';
import { site } from './setup';

/** Things lent by a site to a holder, who is to bring them back. What of it is out follows from its lines. */
export const loan = pgTable(
  'loan',
  {
    id: key(),
    number: text().notNull().unique(),
    holderId: integer('holder_id')
      .notNull()
      .references(() => party.id),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    lentOn: date('lent_on').notNull(),
    /** The day it should be back; null: until it is. */
    dueOn: date('due_on'),
    note: text().notNull().default(''),
    version: integer().notNull().default(1),
    ...written(),
  },
  (t) => [index('loan_holder').on(t.holderId), index('loan_due').on(t.dueOn)],
);

/** What is written on a line of a loan. `loan_line` (a view) shows it with its document line. */
export const loanTerms = pgTable(
  'loan_terms',
  {
    id: integer()
      .primaryKey()
      .references(() => documentLine.id, { onDelete: 'cascade' }),
    loanId: integer('loan_id')
      .notNull()
      .references(() => loan.id),
    lotId: integer('lot_id').references(() => lot.id),
    /** Where it was taken from, and is proposed to go again. */
    fromBinId: integer('from_bin_id')
      .notNull()
      .references(() => place.id),
  },
  (t) => [index('loan_terms_loan').on(t.loanId)],
);

/** In what condition things of a loan were when they came back. */
export const loanBack = pgTable(
  'loan_back',
  {
    movementId: integer('movement_id')
      .notNull()
      .references(() => movement.id),
    lineId: integer('line_id')
      .notNull()
      .references(() => documentLine.id),
    condition: text().$type<Condition>().notNull(),
    note: text().notNull().default(''),
  },
  (t) => [primaryKey({ columns: [t.movementId, t.lineId] })],
);

/** Somebody is to be reminded so many days around a day: a loan's due day, the use-by days of an item's lots or of one lot, or a day of an own attribute of an item or unit. */
export const reminder = pgTable(
  'reminder',
  {
    id: key(),
    about: text().$type<RemindedOf>().notNull(),
    loanId: integer('loan_id').references(() => loan.id),
    itemId: integer('item_id').references(() => item.id),
    lotId: integer('lot_id').references(() => lot.id),
    attributeId: integer('attribute_id').references(() => attribute.id),
    /** Days before it (below zero) or after it. */
    days: smallint().notNull(),
    ...written(),
  },
  (t) => [
    index('reminder_loan').on(t.loanId),
    index('reminder_item').on(t.itemId),
    index('reminder_lot').on(t.lotId),
    check('reminder_subject', sql`num_nonnulls(${t.loanId}, ${t.itemId}, ${t.lotId}) = 1 and (${t.about} = 'loan') = (${t.loanId} is not null)`),
    check('reminder_attribute', sql`(${t.about} = 'attribute') = (${t.attributeId} is not null)`),
  ],
);

/** Who is reminded: a person, or whoever has a role. */
export const reminderTo = pgTable(
  'reminder_to',
  {
    reminderId: integer('reminder_id')
      .notNull()
      .references(() => reminder.id, { onDelete: 'cascade' }),
    personId: integer('person_id').references(() => person.id),
    roleId: integer('role_id').references(() => role.id),
  },
  (t) => [
    unique('reminder_to_once').on(t.reminderId, t.personId, t.roleId).nullsNotDistinct(),
    check('reminder_to_somebody', sql`num_nonnulls(${t.personId}, ${t.roleId}) = 1`),
  ],
);

/** That somebody was reminded of a day of something, so that nobody is told twice. */
export const reminded = pgTable(
  'reminded',
  {
    /** What it was about: its kind, its id, and how many days around. */
    what: text().notNull(),
    day: date().notNull(),
    personId: integer('person_id')
      .notNull()
      .references(() => person.id),
    letterId: integer('letter_id').references(() => letter.id),
  },
  (t) => [primaryKey({ columns: [t.what, t.day, t.personId] })],
);
