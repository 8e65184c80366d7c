import type * as contract from '@larder/contract/levels';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal, refuseField } from '@larder/core/refusal';
import { desc, eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { category, demandEvent, item, site } from '../../db/schema/index';

export async function listEvents({ tx: { db } }: Act): Promise<ResponseOf<typeof contract.listEvents>> {
  const rows = await db
    .select({
      id: demandEvent.id,
      name: demandEvent.name,
      startsOn: demandEvent.startsOn,
      endsOn: demandEvent.endsOn,
      siteId: demandEvent.siteId,
      site: site.name,
      categoryId: demandEvent.categoryId,
      category: category.name,
      itemId: demandEvent.itemId,
      sku: item.sku,
      counts: demandEvent.counts,
    })
    .from(demandEvent)
    .leftJoin(site, eq(site.id, demandEvent.siteId))
    .leftJoin(category, eq(category.id, demandEvent.categoryId))
    .leftJoin(item, eq(item.id, demandEvent.itemId))
    .orderBy(desc(demandEvent.startsOn), demandEvent.id);
  return { rows };
}

type Form = BodyOf<typeof contract.createEvent>;

/** Refuses, at the field, a site, category or item that there is not. */
async function refuseUnknown({ tx: { db } }: Act, { siteId, categoryId, itemId }: Form): Promise<void> {
  const named = [
    ['siteId', siteId, site, 'There is no such site.'],
    ['categoryId', categoryId, category, 'There is no such category.'],
    ['itemId', itemId, item, 'There is no such item.'],
  ] as const;
  for (const [field, id, table, sentence] of named) {
    if (id === null) continue;
    const [row] = await db.select({ id: table.id }).from(table).where(eq(table.id, id));
    if (!row) throw refuseField(404, 'not-found', field, sentence);
  }
}

export async function createEvent(act: Act, form: Form): Promise<ResponseOf<typeof contract.createEvent>> {
  await refuseUnknown(act, form);
  const [row] = await act.tx.db.insert(demandEvent).values(form).returning({ id: demandEvent.id });
  if (!row) throw new Error('the event was written');
  return row;
}

export async function changeEvent(act: Act, id: number, form: Form): Promise<Record<string, never>> {
  await refuseUnknown(act, form);
  const [row] = await act.tx.db.update(demandEvent).set(form).where(eq(demandEvent.id, id)).returning({ id: demandEvent.id });
  if (!row) throw noSuchEvent();
  return {};
}

export async function dropEvent(act: Act, id: number): Promise<Record<string, never>> {
  const [row] = await act.tx.db.delete(demandEvent).where(eq(demandEvent.id, id)).returning({ id: demandEvent.id });
  if (!row) throw noSuchEvent();
  return {};
}

const noSuchEvent = (): Refusal => new Refusal(404, 'not-found', 'There is no such event any more.');
