import { sql } from 'drizzle-orm';
import { boolean, check, date, index, integer, jsonb, pgTable, text, unique, uniqueIndex } from 'drizzle-orm/pg-core';
import { lot } from './catalog';
import { amount, key, moment, quantity } from './columns';
import { documentLine } from './documents';
import { movement } from './ledger';
import { salesOrder } from './outbound';
import { party } from './parties';
import { written } from './people';
import { site } from './setup';

/** Who takes parcels to customers: one of the business's own list, and the supplier who bills for it. */
export const carrier = pgTable(
  'carrier',
  {
    id: key(),
    name: text().notNull(),
    partyId: integer('party_id')
      .notNull()
      .references(() => party.id),
    /** Asked over their own interface; without one, price and tracking number are typed. */
    connected: boolean().notNull().default(false),
    retiredAt: moment('retired_at'),
  },
  (t) => [uniqueIndex('carrier_name').on(sql`lower(${t.name})`)],
);

/** Parcels, or loose goods, of one order that leave a site together, and how. It stays when its dispatch is undone, and goes when its booking is cancelled. */
export const shipment = pgTable(
  'shipment',
  {
    id: key(),
    number: text().notNull().unique(),
    orderId: integer('order_id')
      .notNull()
      .references(() => salesOrder.id),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    way: text().$type<'carrier' | 'van' | 'collected'>().notNull(),
    carrierId: integer('carrier_id').references(() => carrier.id),
    service: text().notNull().default(''),
    /** Where it goes, as it was booked. */
    address: text().notNull().default(''),
    /** What the customer is charged for it, before tax. */
    charged: amount().notNull().default('0'),
    /** The carrier has said yes; of one that is not connected, at once. */
    bookedAt: moment('booked_at'),
    /** Why it has not, and when it is asked again; null: not by itself. */
    fault: text().notNull().default(''),
    tries: integer().notNull().default(0),
    nextTryAt: moment('next_try_at'),
    cancelledAt: moment('cancelled_at'),
    /** The movement that it went out with; null while it is here. */
    movementId: integer('movement_id').references(() => movement.id),
    /** The carrier's driver has it. */
    takenAt: moment('taken_at'),
    ...written(),
  },
  (t) => [
    index('shipment_order').on(t.orderId),
    index('shipment_movement').on(t.movementId),
    check('shipment_way', sql`${t.way} in ('carrier', 'van', 'collected') and (${t.way} = 'carrier') = (${t.carrierId} is not null)`),
  ],
);

/** What is packed together for one order at one site, until it is taken apart again. */
export const parcel = pgTable(
  'parcel',
  {
    id: key(),
    number: text().notNull().unique(),
    orderId: integer('order_id')
      .notNull()
      .references(() => salesOrder.id),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    shipmentId: integer('shipment_id').references(() => shipment.id),
    /** In kilograms, where somebody weighed it; otherwise what its contents weigh. */
    weight: quantity(),
    /** Centimetres. */
    length: integer(),
    width: integer(),
    height: integer(),
    tracking: text().notNull().default(''),
    /** What the carrier is to bill for it, before tax, in company currency. */
    expected: amount().notNull().default('0'),
    /** Where the carrier says it is, since when, and that it is with the customer. */
    whereabouts: text().notNull().default(''),
    toldAt: moment('told_at'),
    deliveredAt: moment('delivered_at'),
    version: integer().notNull().default(1),
    ...written(),
  },
  (t) => [index('parcel_order').on(t.orderId), index('parcel_shipment').on(t.shipmentId), index('parcel_tracking').on(t.tracking)],
);

export const parcelContent = pgTable(
  'parcel_content',
  {
    id: key(),
    parcelId: integer('parcel_id')
      .notNull()
      .references(() => parcel.id, { onDelete: 'cascade' }),
    lineId: integer('line_id')
      .notNull()
      .references(() => documentLine.id),
    lotId: integer('lot_id').references(() => lot.id),
    /** In base units. */
    quantity: quantity().notNull(),
  },
  (t) => [
    unique('parcel_content_once').on(t.parcelId, t.lineId, t.lotId).nullsNotDistinct(),
    index('parcel_content_line').on(t.lineId),
    check('parcel_content_positive', sql`${t.quantity} > 0`),
  ],
);

/** A bill that a carrier sent over its interface, as it came: what it asks for which tracking number, before tax. */
export const carrierBill = pgTable(
  'carrier_bill',
  {
    id: key(),
    carrierId: integer('carrier_id')
      .notNull()
      .references(() => carrier.id),
    /** Their number. */
    reference: text().notNull(),
    billedOn: date('billed_on').notNull(),
    dueOn: date('due_on'),
    lines: jsonb().$type<{ tracking: string; amount: string }[]>().notNull(),
    cameAt: moment('came_at').notNull(),
  },
  (t) => [unique('carrier_bill_once').on(t.carrierId, t.reference)],
);
