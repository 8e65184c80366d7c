import { and, eq, isNull, sql } from 'drizzle-orm';
import { QueryBuilder } from 'drizzle-orm/pg-core';
import type { Tx } from '../db/database';
import { insertFrom } from '../db/given';
import { party, place, site } from '../db/schema/index';

/** Makes what is missing of the places where holders have things: one for each holder and site that lends. */
export async function placesOfHolders({ db }: Pick<Tx, 'db'>, { partyId, siteId }: { partyId?: number; siteId?: number }): Promise<void> {
  const missing = new QueryBuilder()
    .select({
      kind: sql<'holder'>`'holder'`.as('kind'),
      siteId: site.id,
      partyId: party.id,
      code: party.name,
      owned: sql<boolean>`true`.as('owned'),
    })
    .from(party)
    .crossJoin(site)
    .leftJoin(place, and(eq(place.kind, 'holder'), eq(place.siteId, site.id), eq(place.partyId, party.id)))
    .where(
      and(
        eq(party.isHolder, true),
        isNull(place.id),
        partyId === undefined ? undefined : eq(party.id, partyId),
        siteId === undefined ? undefined : eq(site.id, siteId),
      ),
    );
  await db.execute(insertFrom(place, missing, sql`on conflict do nothing`));
}
