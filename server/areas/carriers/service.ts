import type * as contract from '@larder/contract/carriers';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { refuseField } from '@larder/core/refusal';
import { and, eq, isNull, ne, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { carrier, party } from '../../db/schema/index';
import { sameText } from '../../db/text';
import { recordChanges } from '../../documents/changes';

/** Carriers of the business's own list, with those that were retired last. */
export async function listCarriers({ tx: { db } }: Act): Promise<ResponseOf<typeof contract.listCarriers>> {
  const retired = sql<boolean>`${carrier.retiredAt} is not null`;
  const rows = await db
    .select({ id: carrier.id, name: carrier.name, partyId: carrier.partyId, party: party.name, connected: carrier.connected, retired })
    .from(carrier)
    .innerJoin(party, eq(party.id, carrier.partyId))
    .orderBy(retired, sql`lower(${carrier.name})`);
  return { rows };
}

/** Refuses a name that another carrier has, and a party that is no supplier. */
async function refuseCarrier({ tx: { db } }: Act, { name, partyId }: BodyOf<typeof contract.createCarrier>, id: number | null): Promise<void> {
  const [taken] = await db
    .select({ id: carrier.id })
    .from(carrier)
    .where(and(sameText(carrier.name, name), id === null ? undefined : ne(carrier.id, id)));
  if (taken) throw refuseField(409, 'name-in-use', 'name', `There is a carrier ${name} already.`);
  const [billing] = await db
    .select({ id: party.id })
    .from(party)
    .where(and(eq(party.id, partyId), party.isSupplier, isNull(party.retiredAt)));
  if (!billing) throw refuseField(422, 'no-such-supplier', 'partyId', 'Choose the supplier who bills for it.');
}

export async function createCarrier(act: Act, form: BodyOf<typeof contract.createCarrier>): Promise<{ id: number }> {
  await refuseCarrier(act, form, null);
  const [added] = await act.tx.db.insert(carrier).values(form).returning({ id: carrier.id });
  if (!added) throw new Error('the carrier was not written');
  return added;
}

export async function editCarrier(act: Act, id: number, form: BodyOf<typeof contract.editCarrier>): Promise<Record<string, never>> {
  const [was] = await act.tx.db.select().from(carrier).where(eq(carrier.id, id)).for('update');
  if (!was) throw refuseField(404, 'not-found', 'id', 'This carrier is not there any more.');
  await refuseCarrier(act, form, id);
  await act.tx.db.update(carrier).set(form).where(eq(carrier.id, id));
  const { name, partyId, connected } = was;
  await recordChanges(act, 'carrier', id, { name, partyId, connected }, form);
  return {};
}
