import type * as contract from '@larder/contract/setup';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal, refuseField } from '@larder/core/refusal';
import { twiceAt } from '@larder/core/twice';
import { and, eq, exists, max, ne, not, or, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, notNone, positive } from '../../db/given';
import { scalar } from '../../db/json';
import { balance, category, company, item, itemSite, place, site, unit } from '../../db/schema/index';
import { lower, sameText } from '../../db/text';
import { recordChanges } from '../../documents/changes';
import { placesOfHolders } from '../../documents/holders';
import { lock } from '../../ledger/lock';
import { standsOn } from '../../ledger/accounts';
import { accountFaults, moveInventory } from '../catalog/service';
import { bins } from './queries';

export { createParty } from './parties';

/** What the business has decided for everybody. */
export async function editCompany({ tx }: Act, { planning, ...decided }: BodyOf<typeof contract.editCompany>): Promise<Record<string, never>> {
  const set = { ...decided, ...planning };
  // By other shares items are of other classes: they are reckoned anew.
  if (Object.keys(set).length > 0) await tx.db.update(company).set(planning ? { ...set, classifiedOn: null } : set);
  return {};
}

/** Opens a site with its one bench, what is in transit to it, and its one place for goods that have no bin yet. */
export async function createSite({ tx }: Act, form: BodyOf<typeof contract.createSite>): Promise<ResponseOf<typeof contract.createSite>> {
  const [taken] = await tx.db.select({ name: site.name }).from(site).where(sameText(site.code, form.code));
  if (taken) throw refuseField(409, 'code-in-use', 'code', `${form.code} is already the code of ${taken.name}.`);
  const [added] = await tx.db.insert(site).values(form).returning({ id: site.id });
  const siteId = added?.id as number;
  await tx.db.insert(place).values([
    { kind: 'bench', siteId, code: 'bench', owned: true },
    { kind: 'transit', siteId, code: 'transit', owned: true },
    { kind: 'in-work', siteId, code: 'in work', owned: true },
    { kind: 'bin', siteId, code: 'UNPLACED', name: 'No bin yet', owned: true, sellable: true, unplaced: true, walk: 99999 },
  ]);
  await placesOfHolders(tx, { siteId });
  return { id: siteId, ...form };
}

export async function createBins(act: Act, form: BodyOf<typeof contract.createBins>): Promise<ResponseOf<typeof contract.createBins>> {
  const twice = twiceAt(form.codes, (code) => code);
  if (twice >= 0) throw refuseField(422, 'code-twice', `codes.${twice}`, `${form.codes[twice] ?? ''} is given twice.`);
  const [known] = await act.tx.db.select({ id: site.id }).from(site).where(eq(site.id, form.siteId));
  if (!known) throw refuseField(404, 'no-such-site', 'siteId', 'There is no such site.');
  const binsHere = and(eq(place.kind, 'bin'), eq(place.siteId, form.siteId));
  const codes = form.codes.map((code) => code.toLowerCase());
  const [taken] = await act.tx.db
    .select({ code: place.code })
    .from(place)
    .where(and(binsHere, among(lower(place.code), codes)));
  if (taken) throw refuseField(409, 'code-in-use', 'codes', `${taken.code} is already a bin of this site.`);
  const [last] = await act.tx.db
    .select({ walk: max(place.walk) })
    .from(place)
    .where(and(binsHere, not(place.unplaced)));
  const added = await act.tx.db
    .insert(place)
    .values(
      form.codes.map((code, index) => ({
        kind: 'bin' as const,
        siteId: form.siteId,
        code,
        owned: true,
        sellable: form.sellable,
        zone: form.zone,
        walk: (last?.walk ?? 0) + index + 1,
      })),
    )
    .returning({ id: place.id });
  return { rows: await bins(act, { ids: added.map(({ id }) => id) }) };
}

/** Changes bins. What holds goods can be neither retired nor turned from sale to quarantine: move the goods first, so that the change is a movement. */
export async function editBins(act: Act, form: BodyOf<typeof contract.editBins>): Promise<ResponseOf<typeof contract.editBins>> {
  const { ids, walkFrom, retired, ...facts } = form;
  const { db } = act.tx;
  const lying = db
    .select({ sku: item.sku })
    .from(balance)
    .innerJoin(item, eq(item.id, balance.itemId))
    .where(and(eq(balance.placeId, place.id), notNone(balance.quantity)))
    .limit(1);
  const was = await db
    .select({
      id: place.id,
      code: place.code,
      sellable: place.sellable,
      unplaced: place.unplaced,
      zone: place.zone,
      walk: place.walk,
      retired: sql<boolean>`${place.retiredAt} is not null`,
      holds: scalar(lying),
    })
    .from(place)
    .where(and(eq(place.kind, 'bin'), among(place.id, ids)))
    .orderBy(place.id)
    .for('update', { of: place });
  if (was.length < new Set(ids).size) throw refuseField(404, 'not-found', 'ids', 'One of the chosen bins is not there any more.');
  for (const bin of was) {
    const turned = facts.sellable !== undefined && facts.sellable !== bin.sellable;
    if (bin.unplaced && (retired || turned)) throw refuseField(409, 'bin-needed', 'ids', `${bin.code} is where goods without a bin lie; every site has one.`);
    if (bin.holds !== null && ((retired && !bin.retired) || turned))
      throw refuseField(409, 'bin-not-empty', 'ids', `${bin.code} still holds ${bin.holds}. Move what lies there first.`);
  }
  const set = Object.fromEntries(Object.entries(facts).filter(([, value]) => value !== undefined));
  for (const [index, id] of ids.entries()) {
    const change = {
      ...set,
      ...(walkFrom === undefined ? {} : { walk: walkFrom + index }),
      ...(retired === undefined ? {} : { retiredAt: retired ? act.now.toISOString() : null }),
    };
    if (Object.keys(change).length > 0) await act.tx.db.update(place).set(change).where(eq(place.id, id));
    await recordChanges(act, 'bin', id, was.find((bin) => bin.id === id) ?? {}, {
      ...set,
      ...(retired === undefined ? {} : { retired }),
      ...(walkFrom === undefined ? {} : { walk: walkFrom + index }),
    });
  }
  return { changed: was.length };
}

/** Retires a site in which nothing lies, waits or is awaited. */
export async function retireSite(act: Act, id: number, retired: boolean): Promise<ResponseOf<typeof contract.retireSite>> {
  const { db } = act.tx;
  const lying = db
    .select({ one: sql`1` })
    .from(balance)
    .innerJoin(place, eq(place.id, balance.placeId))
    .where(and(eq(place.siteId, site.id), notNone(balance.quantity)));
  const waiting = db
    .select({ one: sql`1` })
    .from(itemSite)
    .where(and(eq(itemSite.siteId, site.id), or(positive(itemSite.onOrder), positive(itemSite.coming), positive(itemSite.short), positive(itemSite.reserved))));
  const [row] = await db
    .select({ id: site.id, code: site.code, name: site.name, holds: sql<boolean>`${exists(lying)}`, waits: sql<boolean>`${exists(waiting)}` })
    .from(site)
    .where(eq(site.id, id))
    .for('update');
  if (!row) throw refuseField(404, 'not-found', 'id', 'There is no such site.');
  if (retired && row.holds) throw refuseField(409, 'site-not-empty', 'id', `Goods still lie at ${row.name}. Move them first.`);
  if (retired && row.waits) throw refuseField(409, 'site-not-empty', 'id', `Orders are still open at ${row.name}. Finish or cancel them first.`);
  await act.tx.db
    .update(site)
    .set({ retiredAt: retired ? act.now.toISOString() : null })
    .where(eq(site.id, id));
  await recordChanges(act, 'site', id, {}, { retired });
  return { id: row.id, code: row.code, name: row.name };
}

export async function createCategory({ tx }: Act, { name }: BodyOf<typeof contract.createCategory>): Promise<ResponseOf<typeof contract.createCategory>> {
  const [taken] = await tx.db.select({ id: category.id }).from(category).where(sameText(category.name, name));
  if (taken) throw refuseField(409, 'name-in-use', 'name', `There is a category ${name} already.`);
  const [added] = await tx.db.insert(category).values({ name }).returning({ id: category.id });
  return { id: added?.id as number, name, inventoryAccountId: null, costAccountId: null, salesAccountId: null };
}

/** Changes a category; the worth of its items that have no account of their own goes with them to another inventory account. */
export async function editCategory(act: Act, id: number, form: BodyOf<typeof contract.editCategory>): Promise<ResponseOf<typeof contract.editCategory>> {
  const [was] = await act.tx.db.select({ name: category.name }).from(category).where(eq(category.id, id)).for('update');
  if (!was) throw refuseField(404, 'not-found', 'id', 'There is no such category.');
  const [taken] = await act.tx.db
    .select({ id: category.id })
    .from(category)
    .where(and(sameText(category.name, form.name), ne(category.id, id)));
  if (taken) throw refuseField(409, 'name-in-use', 'name', `There is a category ${form.name} already.`);
  const faults = await accountFaults(act.tx, form);
  if (faults[0]) throw new Refusal(422, 'not-valid', faults[0].sentence, faults);
  const items = (await act.tx.db.select({ id: item.id }).from(item).where(eq(item.categoryId, id)).orderBy(item.id)).map((row) => row.id);
  await lock.pools(act, items);
  const stoodOn = await standsOn(act, items);
  await act.tx.db.update(category).set(form).where(eq(category.id, id));
  await moveInventory(act, stoodOn);
  await recordChanges(act, 'category', id, was, form);
  return { id, ...form };
}

export async function createUnit({ tx }: Act, form: BodyOf<typeof contract.createUnit>): Promise<ResponseOf<typeof contract.createUnit>> {
  const words = [form.code.toLowerCase(), form.name.toLowerCase()];
  const [taken] = await tx.db
    .select({ code: unit.code })
    .from(unit)
    .where(or(among(lower(unit.code), words), among(lower(unit.name), words)));
  if (taken) throw refuseField(409, 'name-in-use', 'code', `There is a unit ${taken.code} already.`);
  const [added] = await tx.db.insert(unit).values(form).returning({ id: unit.id });
  return { id: added?.id as number, ...form };
}
