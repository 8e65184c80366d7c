import type { MethodName } from '@larder/core/planning/forecast/methods';
import type { Pattern } from '@larder/core/planning/forecast/pattern';
import type { LeadFrom } from '@larder/core/planning/leadTime';
import { sql } from 'drizzle-orm';
import { boolean, check, date, doublePrecision, index, integer, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import { category, item } from './catalog';
import { key, moment, quantity } from './columns';
import { person } from './people';
import { site } from './setup';

const ofItem = () =>
  integer('item_id')
    .notNull()
    .references(() => item.id, { onDelete: 'cascade' });
const atSite = () =>
  integer('site_id')
    .notNull()
    .references(() => site.id);

/** A look at the past of all items, in the background. */
export const suggestionRun = pgTable('suggestion_run', {
  id: key(),
  askedAt: moment('asked_at').notNull(),
  /** Null: by itself. */
  askedBy: integer('asked_by').references(() => person.id),
  startedAt: moment('started_at'),
  heardAt: moment('heard_at'),
  endedAt: moment('ended_at'),
  /** Somebody wants it to end. */
  stopped: boolean().notNull().default(false),
  /** Items to look at, and looked at. */
  total: integer(),
  done: integer().notNull().default(0),
  fault: text().notNull().default(''),
});

/** What the past of an item at a site says for its levels there, as it was last looked at, and what was decided on it. Estimates are floating. */
export const levelSuggestion = pgTable(
  'level_suggestion',
  {
    itemId: ofItem(),
    siteId: atSite(),
    madeOn: date('made_on').notNull(),
    pattern: text().$type<Pattern>().notNull(),
    /** The way of forecasting that did best; null where there was too little past to try any. */
    method: text().$type<MethodName>(),
    perDay: quantity('per_day').notNull(),
    spread: doublePrecision().notNull(),
    /** Wanted within the last year. */
    wantedYear: quantity('wanted_year').notNull(),
    leadDays: doublePrecision('lead_days').notNull(),
    leadSpread: doublePrecision('lead_spread').notNull(),
    leadFrom: text('lead_from').$type<LeadFrom>().notNull(),
    point: quantity().notNull(),
    upTo: quantity('up_to').notNull(),
    withoutStock: integer('without_stock').notNull(),
    apart: integer().notNull(),
    /** What the last year would have been with these levels, and with those there were then, if any. */
    daysOut: integer('days_out').notNull(),
    averageStock: doublePrecision('average_stock').notNull(),
    daysOutNow: integer('days_out_now'),
    averageStockNow: doublePrecision('average_stock_now'),
    /** What was decided on it: taken as it is, changed and then taken, or refused; null: nothing yet. */
    decision: text().$type<'accepted' | 'changed' | 'refused'>(),
    decidedAt: moment('decided_at'),
    decidedBy: integer('decided_by').references(() => person.id),
    /** What was refused: it is asked again when the past says something else. */
    refusedPoint: quantity('refused_point'),
    refusedUpTo: quantity('refused_up_to'),
    reason: text().notNull().default(''),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.siteId] }), index('level_suggestion_site').on(t.siteId)],
);

/** What was wanted before the business worked here, as it was brought in. */
export const demandBefore = pgTable('demand_before', { itemId: ofItem(), siteId: atSite(), day: date().notNull(), quantity: quantity().notNull() }, (t) => [
  primaryKey({ columns: [t.itemId, t.siteId, t.day] }),
  check('demand_before_quantity', sql`${t.quantity} >= 0`),
]);

/** Days on which something went on that does not tell what is wanted otherwise: a fair, a promotion. */
export const demandEvent = pgTable(
  'demand_event',
  {
    id: key(),
    name: text().notNull(),
    startsOn: date('starts_on').notNull(),
    endsOn: date('ends_on').notNull(),
    /** Of one site, one category or one item; null: of all. */
    siteId: integer('site_id').references(() => site.id),
    categoryId: integer('category_id').references(() => category.id),
    itemId: integer('item_id').references(() => item.id, { onDelete: 'cascade' }),
    /** What was wanted on them counts all the same. */
    counts: boolean().notNull().default(false),
  },
  (t) => [check('demand_event_days', sql`${t.startsOn} <= ${t.endsOn}`), check('demand_event_of', sql`num_nonnulls(${t.categoryId}, ${t.itemId}) <= 1`)],
);

/** A proposal to top up that somebody has put off. */
export const putOff = pgTable(
  'put_off',
  {
    itemId: ofItem(),
    siteId: atSite(),
    /** It comes back on this day. */
    until: date().notNull(),
    reason: text().notNull().default(''),
    at: moment().notNull(),
    personId: integer('person_id')
      .notNull()
      .references(() => person.id),
  },
  (t) => [primaryKey({ columns: [t.itemId, t.siteId] })],
);
