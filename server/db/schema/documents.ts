import type { DocumentKind } from '@larder/core/ledger/counters';
import { sql } from 'drizzle-orm';
import { boolean, check, date, index, integer, pgTable, smallint, text, unique } from 'drizzle-orm/pg-core';
import { item, lot } from './catalog';
import { amount, key, moment, quantity } from './columns';
import { site } from './setup';

/** Kinds of documents whose lines movements serve, and where what was drawn for them waits. The same as core's; put in with the rules. */
export const documentKind = pgTable('document_kind', { kind: text().primaryKey(), side: text().notNull(), waitsAt: text('waits_at'), goesBy: text('goes_by') });

/** Which move changes which counter of a document line. The same as core's; put in with the rules. */
export const counterRule = pgTable(
  'counter_rule',
  {
    document: text().notNull(),
    counter: text().notNull(),
    measure: text().notNull(),
    from: text('from_kind').notNull(),
    to: text('to_kind').notNull(),
    sign: smallint().notNull(),
  },
  (t) => [unique('counter_rule_key').on(t.document, t.from, t.to, t.counter, t.measure)],
);

/** A line of any document, as stock sees it. What else is written on it stands in its kind's own table, under the same id. */
export const documentLine = pgTable(
  'document_line',
  {
    id: key(),
    kind: text().$type<DocumentKind>().notNull(),
    /** Of its document. */
    number: text().notNull(),
    position: integer().notNull(),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    /** Where its document is: what it draws, it draws here. */
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    /** The site its goods will come to; null when they come to none. */
    bringsToId: integer('brings_to_id').references(() => site.id),
    /** Whether it draws on the stock of its site. */
    draws: boolean().notNull(),
    baseQuantity: quantity('base_quantity').notNull(),
    /** Of the base quantity: called off, or will not come or go any more. */
    cancelled: quantity().notNull().default('0'),
    /** Of an item kept in stock; services, charges and goods that are used at once are neither reserved nor on order. */
    stocked: boolean('kept').notNull().default(true),
    /** Decided on, and neither closed nor cancelled; follows its document's decisions. */
    active: boolean().notNull().default(false),
    neededOn: date('needed_on'),
    promisedOn: date('promised_on'),
    /** Nothing is reserved for it until that is taken back. */
    standsBack: boolean('stands_back').notNull().default(false),
    /** Of the base quantity: decided to come straight from a supplier, so that it is not wanted of the site. */
    direct: quantity().notNull().default('0'),
    /** Counters, kept by the ledger's rules. */
    arrived: quantity().notNull().default('0'),
    drawn: quantity().notNull().default('0'),
    /** Of what is drawn: came straight from a supplier, and never off the shelf. */
    sent: quantity().notNull().default('0'),
    /** Of what is drawn: has left the site, of a transfer. */
    gone: quantity().notNull().default('0'),
    finished: quantity().notNull().default('0'),
    /** Went back, or came back. */
    returned: quantity().notNull().default('0'),
    arrivedValue: amount('arrived_value').notNull().default('0'),
    finishedValue: amount('finished_value').notNull().default('0'),
    /** What posted bills, or issued invoices, cover, and what that cleared or came to, in company currency. */
    billed: quantity().notNull().default('0'),
    billedValue: amount('billed_value').notNull().default('0'),
    /** Kept by the rule on reservations. */
    reserved: quantity().notNull().default('0'),
    incoming: quantity()
      .notNull()
      .generatedAlwaysAs(
        sql`case when active and kept and brings_to_id is not null then greatest(base_quantity - cancelled - greatest(arrived, finished), 0) else 0 end`,
      ),
    /** Of what work uses, more may be drawn than its order says: it wants none of it then. */
    wanted: quantity()
      .notNull()
      .generatedAlwaysAs(
        sql`case when not (active and kept and draws) or (kind = 'component' and drawn > base_quantity - cancelled) then 0 else base_quantity - cancelled - direct - (drawn - sent) end`,
      ),
    short: quantity()
      .notNull()
      .generatedAlwaysAs(
        sql`case when not (active and kept and draws) or (kind = 'component' and drawn > base_quantity - cancelled) then 0 else base_quantity - cancelled - direct - (drawn - sent) - reserved end`,
      ),
  },
  (t) => [
    unique('document_line_position').on(t.kind, t.number, t.position),
    index('document_line_incoming')
      .on(t.itemId, t.bringsToId)
      .where(sql`incoming > 0`),
    index('document_line_wanted')
      .on(t.itemId, t.siteId)
      .where(sql`wanted > 0`),
    index('document_line_waiting')
      .on(t.itemId, t.siteId)
      .where(sql`drawn > finished`),
    index('document_line_to_invoice')
      .on(t.id)
      .where(sql`kind = 'sales' and finished > billed`),
    index('document_line_unfinished')
      .on(t.id)
      .where(sql`kind = 'sales' and active and finished < base_quantity - cancelled`),
    index('document_line_straight')
      .on(t.id)
      .where(sql`direct > 0`),
    index('document_line_unkept')
      .on(t.id)
      .where(sql`not kept`),
    check('document_line_quantity', sql`${t.baseQuantity} > 0 and ${t.cancelled} >= 0 and ${t.cancelled} <= ${t.baseQuantity}`),
    check(
      'document_line_counters',
      sql`${t.arrived} >= 0 and ${t.finished} >= 0 and ${t.drawn} >= ${t.finished} and (${t.drawn} <= ${t.baseQuantity} or ${t.kind} = 'component')`,
    ),
    check('document_line_gone', sql`${t.kind} <> 'transfer' or (${t.gone} >= ${t.finished} and ${t.gone} <= ${t.drawn})`),
    check('document_line_returned', sql`${t.kind} <> 'sales' or (${t.returned} >= 0 and ${t.returned} <= ${t.finished})`),
    check(
      'document_line_direct',
      sql`${t.sent} >= 0 and ${t.sent} <= ${t.direct} and (${t.direct} + ${t.drawn} - ${t.sent} <= ${t.baseQuantity} or ${t.kind} = 'component')`,
    ),
    check(
      'document_line_reserved',
      sql`${t.reserved} >= 0 and (${t.reserved} = 0 or (${t.active} and ${t.reserved} <= ${t.baseQuantity} - ${t.cancelled} - ${t.direct} - (${t.drawn} - ${t.sent})))`,
    ),
  ],
);

/** Stock promised to a line and not yet drawn; a lot or serial may be pinned. */
export const reservation = pgTable(
  'reservation',
  {
    id: key(),
    itemId: integer('item_id')
      .notNull()
      .references(() => item.id),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    lineId: integer('line_id')
      .notNull()
      .references(() => documentLine.id),
    lotId: integer('lot_id').references(() => lot.id),
    quantity: quantity().notNull(),
    /** When stock that came in was last reserved for it. */
    servedAt: moment('served_at'),
  },
  (t) => [
    unique('reservation_once').on(t.lineId, t.lotId).nullsNotDistinct(),
    index('reservation_item').on(t.itemId, t.siteId),
    index('reservation_served')
      .on(t.servedAt)
      .where(sql`served_at is not null`),
    check('reservation_not_negative', sql`${t.quantity} >= 0`),
  ],
);
