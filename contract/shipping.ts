import { z } from 'zod';
import { endpoint } from './endpoint';
import { moved } from './nouns';
import { Amount, Day, Id, ItemCodes, MoneyOrZero, PathId, Posted, Quantity, ShortText, Typed, Version } from './values';

/** Packing what lies on the bench, booking it with a carrier, and sending it out. */

const one = z.object({ id: PathId });
const done = z.object({});
export const ways = ['carrier', 'van', 'collected'] as const;
export type Way = (typeof ways)[number];

const Content = z.object({
  lineId: Id,
  itemId: Id,
  sku: z.string(),
  name: z.string(),
  unit: z.string(),
  step: z.string(),
  lotId: Id.nullable(),
  lot: z.string().nullable(),
  quantity: Amount,
  /** Of one base unit, in kilograms. */
  weight: Amount.nullable(),
  codes: ItemCodes,
});
export type Content = z.infer<typeof Content>;
const Parcel = z.object({
  id: Id,
  version: z.number(),
  number: z.string(),
  siteId: Id,
  site: z.string(),
  shipmentId: Id.nullable(),
  /** As it was weighed, and what its contents weigh; kilograms. */
  weight: Amount.nullable(),
  reckoned: Amount.nullable(),
  length: z.number().nullable(),
  width: z.number().nullable(),
  height: z.number().nullable(),
  tracking: z.string(),
  whereabouts: z.string(),
  toldAt: z.string().nullable(),
  delivered: z.boolean(),
  contents: z.array(Content),
});
export type Parcel = z.infer<typeof Parcel>;
export const shipmentStates = ['asking', 'unanswered', 'refused', 'booked', 'dispatched', 'taken', 'delivered'] as const;
const Shipment = z.object({
  id: Id,
  number: z.string(),
  siteId: Id,
  site: z.string(),
  way: z.enum(ways),
  carrier: z.string(),
  connected: z.boolean(),
  service: z.string(),
  address: z.string(),
  charged: Amount,
  /** What the carrier is to bill for it. */
  expected: Amount,
  state: z.enum(shipmentStates),
  fault: z.string(),
  nextTryAt: z.string().nullable(),
  movementId: Id.nullable(),
});
export type Shipment = z.infer<typeof Shipment>;

export const getPacking = endpoint({
  method: 'GET',
  path: '/api/outbound/orders/:id/packing',
  summary: 'What of an order lies loose on a bench, its parcels, and how they go',
  right: 'look',
  shows: ['sale', 'stock', 'item', 'lot', 'place', 'parcel', 'carrier'],
  seenBy: 'sites',
  params: one,
  response: z.object({
    loose: z.array(Content.extend({ siteId: Id, site: z.string() })),
    parcels: z.array(Parcel),
    shipments: z.array(Shipment),
  }),
});

const Centimetres = z.number('Give whole centimetres.').int('Give whole centimetres.').min(1, 'At least 1 cm.').max(1000, 'At most 1,000 cm.');
const Kilograms = Typed('measure').refine((text) => Number(text) > 0 && Number(text) <= 5000, 'Give kilograms above zero, at most 5,000.');
export const packOrder = endpoint({
  method: 'PUT',
  path: '/api/outbound/orders/:id/packing',
  summary: 'Pack what lies on the bench of a site into parcels; those that are booked or gone stay as they are',
  right: 'outbound.ship',
  changes: ['parcel', 'sale'],
  params: one,
  body: z.object({
    siteId: Id,
    /** The parcels that were there when it was begun, so that nobody packs over what somebody else packed meanwhile. */
    seen: z.array(z.object({ id: Id, version: Version })).max(200),
    parcels: z
      .array(
        z.object({
          /** Null: a new one. Those that are left out are taken apart. */
          id: Id.nullable().default(null),
          weight: Kilograms.nullable().default(null),
          length: Centimetres.nullable().default(null),
          width: Centimetres.nullable().default(null),
          height: Centimetres.nullable().default(null),
          contents: z.array(z.object({ lineId: Id, lotId: Id.nullable().default(null), quantity: Quantity })).max(500),
        }),
      )
      .max(200, 'At most 200 parcels.'),
  }),
  response: z.object({ parcels: z.array(z.object({ id: Id, number: z.string() })) }),
});

const Offer = z.object({
  carrierId: Id,
  carrier: z.string(),
  connected: z.boolean(),
  service: z.string(),
  /** For all parcels, before tax; null where it is typed, or where the carrier does not take them. */
  price: Amount.nullable(),
  arrivesOn: Day.nullable(),
  /** Why the carrier does not take them; empty: it does. */
  refusal: z.string(),
});
export type Offer = z.infer<typeof Offer>;
export const carrierOffers = endpoint({
  method: 'POST',
  path: '/api/outbound/orders/:id/offers',
  summary: 'What carriers ask for parcels, or why they do not take them',
  reads: true,
  right: 'look',
  shows: ['parcel', 'carrier', 'sale'],
  seenBy: 'sites',
  params: one,
  body: z.object({ parcelIds: z.array(Id).max(200) }),
  response: z.object({ offers: z.array(Offer) }),
});
export const bookShipment = endpoint({
  method: 'POST',
  path: '/api/outbound/orders/:id/shipments',
  summary: 'Book parcels with a carrier; it is asked in the background, and again when it does not answer',
  right: 'outbound.ship',
  changes: ['parcel', 'sale'],
  posts: true,
  params: one,
  body: z.object({
    parcelIds: z.array(Id).min(1, 'Choose the parcels that go.').max(200),
    carrierId: Id,
    service: ShortText.default(''),
    charged: MoneyOrZero.default('0'),
    /** For a carrier that is not asked over an interface: what it will bill for each parcel, and the tracking number it gave. */
    typed: z
      .array(z.object({ parcelId: Id, expected: MoneyOrZero, tracking: ShortText.default('') }))
      .max(200)
      .default([]),
  }),
  response: z.object({ id: Id, number: z.string() }),
});
export const askAgain = endpoint({
  method: 'POST',
  path: '/api/outbound/shipments/:id/ask',
  summary: 'Ask the carrier again that has not answered',
  right: 'outbound.ship',
  changes: ['parcel'],
  params: one,
  body: done,
  response: done,
});
export const cancelShipment = endpoint({
  method: 'POST',
  path: '/api/outbound/shipments/:id/cancel',
  summary: 'Cancel a booking whose parcels are still here',
  right: 'outbound.ship',
  changes: ['parcel', 'sale'],
  params: one,
  body: done,
  response: done,
});
export const noteTaken = endpoint({
  method: 'POST',
  path: '/api/outbound/shipments/:id/taken',
  summary: 'Note that the driver has taken what was dispatched: it cannot be undone any more',
  right: 'outbound.ship',
  changes: ['parcel', 'sale'],
  params: one,
  body: done,
  response: done,
});

export const dispatch = endpoint({
  method: 'POST',
  path: '/api/outbound/dispatches',
  summary: 'Send picked goods out: a booked shipment, parcels, or what lies loose on the bench',
  right: 'outbound.ship',
  changes: moved,
  posts: true,
  body: z.object({
    orderId: Id,
    /** A shipment that was booked with a carrier, with all its parcels. */
    shipmentId: Id.nullable().default(null),
    /** Parcels that go without a carrier. */
    parcelIds: z.array(Id).max(200).default([]),
    /** What goes without being packed, in base units. */
    lines: z
      .array(z.object({ lineId: Id, quantity: Quantity }))
      .max(500)
      .default([]),
    /** How it goes without a carrier; null: nothing is said of it. */
    way: z.enum(['van', 'collected']).nullable().default(null),
    charged: MoneyOrZero.default('0'),
    /** The person has said that a part goes of what was to go out whole. */
    part: z.boolean().default(false),
  }),
  response: Posted,
});

export const printParcels = endpoint({
  method: 'POST',
  path: '/api/outbound/orders/:id/papers',
  summary: 'Print a label or a packing slip for each of some parcels',
  heavy: true,
  right: 'look',
  changes: ['print'],
  seenBy: 'sites',
  params: one,
  body: z.object({ parcelIds: z.array(Id).min(1, 'Choose the parcels.').max(200), paper: z.enum(['label', 'slip']) }),
  response: z.object({ id: Id, pages: z.number() }),
});
