import { and, eq, ne } from 'drizzle-orm';
import type { Act } from '../act';
import { itemPolicy, party, site } from '../db/schema/index';

/** How the sites are topped up from today on: the van is loaded at the barn, and the others take what there is too much of elsewhere before anything is bought. Two suppliers ask an order to come to so much at least. */
export async function setWays({ tx: { db } }: Act): Promise<void> {
  const places = await db.select({ id: site.id, code: site.code }).from(site).orderBy(site.id);
  const [barn, van] = [places.find(({ code }) => code === 'BARN'), places.find(({ code }) => code === 'VAN')];
  if (!barn || !van) throw new Error('the barn and the van are sites of Larkmoor');
  await db
    .update(itemPolicy)
    .set({ way: 'best' })
    .where(and(eq(itemPolicy.way, 'buy'), ne(itemPolicy.siteId, van.id)));
  await db.update(itemPolicy).set({ way: 'bring', waySiteId: barn.id }).where(eq(itemPolicy.siteId, van.id));
  await db.update(party).set({ minimumOrder: '150.00' }).where(eq(party.name, 'Pennywell Mill'));
  await db.update(party).set({ minimumOrder: '80.00' }).where(eq(party.name, 'Brightwick Glass'));
}
