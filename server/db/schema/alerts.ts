import type { AlertKind } from '@larder/core/planning/alerts';
import { sql } from 'drizzle-orm';
import { boolean, check, date, index, integer, pgTable, primaryKey, text, unique } from 'drizzle-orm/pg-core';
import { key, moment } from './columns';
import { person } from './people';
import { letter } from './post';
import { site } from './setup';

/** What is so now, since when: told as it begins, and again only after it had ended. */
export const alertState = pgTable(
  'alert_state',
  {
    kind: text().$type<AlertKind>().notNull(),
    /** What it is of: an item at a site, an order, a lot. */
    subject: text().notNull(),
    since: moment().notNull(),
    siteId: integer('site_id').references(() => site.id),
    categoryId: integer('category_id'),
    text: text().notNull(),
    leadsTo: text('leads_to').notNull(),
  },
  (t) => [primaryKey({ columns: [t.kind, t.subject] })],
);

/** What a person wants to be told. */
export const alertWish = pgTable(
  'alert_wish',
  {
    personId: integer('person_id')
      .notNull()
      .references(() => person.id),
    kind: text().$type<AlertKind>().notNull(),
    /** Null: of all. */
    siteIds: integer('site_ids').array(),
    categoryIds: integer('category_ids').array(),
    /** As it happens, or at the person's time of day with all that is so then. */
    how: text().$type<'at once' | 'round-up'>().notNull(),
    /** By mail too, and not only on screen. */
    byMail: boolean('by_mail').notNull().default(false),
  },
  (t) => [primaryKey({ columns: [t.personId, t.kind] }), check('alert_wish_how', sql`${t.how} in ('at once', 'round-up')`)],
);

/** When a person gets their round-up, and when they got the last; and up to which alert they have seen them. */
export const alertPerson = pgTable('alert_person', {
  personId: integer('person_id')
    .primaryKey()
    .references(() => person.id),
  roundUpAt: text('round_up_at').notNull().default('07:30'),
  roundedUpOn: date('rounded_up_on'),
  seenId: integer('seen_id').notNull().default(0),
});

/** What somebody was told: once for each time that it began. */
export const alert = pgTable(
  'alert',
  {
    id: key(),
    personId: integer('person_id')
      .notNull()
      .references(() => person.id),
    kind: text().$type<AlertKind | 'round-up'>().notNull(),
    subject: text().notNull(),
    since: moment().notNull(),
    at: moment().notNull(),
    siteId: integer('site_id').references(() => site.id),
    text: text().notNull(),
    leadsTo: text('leads_to').notNull(),
    letterId: integer('letter_id').references(() => letter.id),
  },
  (t) => [unique('alert_once').on(t.personId, t.kind, t.subject, t.since), index('alert_person_id').on(t.personId, t.id)],
);
