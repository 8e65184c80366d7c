import { z } from 'zod';
import { endpoint } from './endpoint';
import { Amount, Day, Id, NeededText, PathId } from './values';

/** Carriers of the business's own list, and the bills they send over their interface. */

const Carrier = z.object({ id: Id, name: z.string(), partyId: Id, party: z.string(), connected: z.boolean(), retired: z.boolean() });
export type Carrier = z.infer<typeof Carrier>;
const CarrierForm = z.object({
  name: NeededText,
  /** The supplier who bills for it. */
  partyId: Id,
  /** It is asked for prices and tracking numbers over its interface. */
  connected: z.boolean().default(false),
});
const one = z.object({ id: PathId });
const done = z.object({});

export const listCarriers = endpoint({
  method: 'GET',
  path: '/api/setup/carriers',
  summary: 'Carriers, with those that were retired',
  right: 'look',
  shows: ['carrier', 'party'],
  seenBy: 'everyone',
  response: z.object({ rows: z.array(Carrier) }),
});
export const createCarrier = endpoint({
  method: 'POST',
  path: '/api/setup/carriers',
  summary: 'Add a carrier',
  right: 'setup.edit',
  changes: ['carrier'],
  body: CarrierForm,
  response: z.object({ id: Id }),
});
export const editCarrier = endpoint({
  method: 'PUT',
  path: '/api/setup/carriers/:id',
  summary: 'Change a carrier',
  right: 'setup.edit',
  changes: ['carrier'],
  params: one,
  body: CarrierForm,
  response: done,
});

/** A parcel whose carrier is still to bill it. */
const ParcelToBill = z.object({
  id: Id,
  number: z.string(),
  orderId: Id,
  order: z.string(),
  tracking: z.string(),
  /** What it was booked at. */
  expected: Amount,
  since: Day,
});
export type ParcelToBill = z.infer<typeof ParcelToBill>;
const SentBill = z.object({
  id: Id,
  reference: z.string(),
  billedOn: Day,
  dueOn: Day.nullable(),
  /** What it asks for each tracking number; null: no parcel of ours that waits to be billed has it. */
  lines: z.array(z.object({ tracking: z.string(), amount: Amount, parcelId: Id.nullable() })),
});
export type SentBill = z.infer<typeof SentBill>;
export const carriersBills = endpoint({
  method: 'GET',
  path: '/api/bills/parcels',
  summary: 'Parcels that a carrier is still to bill, and bills it has sent over its interface that were not entered yet',
  right: 'costs.see',
  shows: ['bill', 'parcel', 'carrier'],
  query: z.object({ partyId: PathId }),
  response: z.object({ parcels: z.array(ParcelToBill), sent: z.array(SentBill) }),
});
