import type { AlertKind } from '@larder/core/planning/alerts';
import { and, eq, ne } from 'drizzle-orm';
import type { Act } from '../act';
import { alertWish, itemPolicy, party, person, site } from '../db/schema/index';

/**
 * How the sites are topped up from today on: the van is loaded at the barn, and the others take what there is too much of elsewhere before anything is bought.
 * Two suppliers ask an order to come to so much at least; two people
 * want to be told what happens. */
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
  const people = new Map((await db.select({ id: person.id, name: person.name }).from(person)).map(({ id, name }) => [name.split(' ')[0], id]));
  const [ines, wim] = [people.get('Ines') ?? 0, people.get('Wim') ?? 0];
  const told = (personId: number, kind: AlertKind, how: 'at once' | 'round-up', byMail = false) => ({
    personId,
    kind,
    how,
    byMail,
    siteIds: null,
    categoryIds: null,
  });
  await db
    .insert(alertWish)
    .values([
      ...(['low', 'short', 'price-rise', 'below-cost'] as const).map((kind) => told(ines, kind, 'at once')),
      ...(['overdue', 'use-by', 'count-due'] as const).map((kind) => told(ines, kind, 'round-up', true)),
      told(wim, 'low', 'at once', true),
      told(wim, 'out', 'round-up', true),
    ]);
}
