import type * as contract from '@larder/contract/prices';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { clashingRows } from '@larder/core/outbound/pricing';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { and, asc, eq, ne, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { jsonRows } from '../../db/json';
import { category, item, party, priceList, priceRow, unit } from '../../db/schema/index';
import { lower, plain, sameText } from '../../db/text';
import { recordChanges, refuseStale } from '../../documents/changes';
import { refuseErrors } from '../../documents/lines';

const isRetired = sql<boolean>`${priceList.retiredAt} is not null`;

/** Price lists by name, those that were retired last. */
export async function priceLists({ tx: { db } }: Act): Promise<ResponseOf<typeof contract.listPriceLists>> {
  const customers = db.$count(party, eq(party.priceListId, priceList.id));
  const prices = db.$count(priceRow, eq(priceRow.listId, priceList.id));
  return {
    rows: await db
      .select({
        id: priceList.id,
        name: priceList.name,
        forAll: priceList.forAll,
        retired: isRetired,
        customers: sql<number>`${customers}::int`,
        prices: sql<number>`${prices}::int`,
      })
      .from(priceList)
      .orderBy(sql`${priceList.retiredAt} is not null`, asc(lower(priceList.name))),
  };
}

export async function priceListOf({ tx: { db } }: Act, id: number): Promise<contract.PriceList> {
  const customers = db.$count(party, eq(party.priceListId, priceList.id));
  const [row] = await db
    .select({
      id: priceList.id,
      name: priceList.name,
      forAll: priceList.forAll,
      version: priceList.version,
      retired: isRetired,
      customers: sql<number>`${customers}::int`,
      rows: jsonRows(
        {
          itemId: priceRow.itemId,
          code: sql<string>`coalesce(${item.sku}, ${category.name})`,
          name: sql<string>`coalesce(${item.name}, '')`,
          unit: sql<string>`coalesce(${unit.code}, '')`,
          salesPrice: plain(item.salesPrice),
          categoryId: priceRow.categoryId,
          from: plain(priceRow.from),
          price: plain(priceRow.price),
          percentOff: plain(priceRow.percentOff),
          startsOn: priceRow.startsOn,
          endsOn: priceRow.endsOn,
        },
        (select) =>
          select
            .from(priceRow)
            .leftJoin(item, eq(item.id, priceRow.itemId))
            .leftJoin(unit, eq(unit.id, item.unitId))
            .leftJoin(category, eq(category.id, priceRow.categoryId))
            .where(eq(priceRow.listId, priceList.id)),
        { orderBy: priceRow.position },
      ),
    })
    .from(priceList)
    .where(eq(priceList.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such price list.');
  return row;
}

export async function createPriceList(act: Act, form: contract.PriceListForm): Promise<contract.PriceList> {
  await refuseList(act, form, null);
  const { name, forAll } = form;
  const [added] = await act.tx.db.insert(priceList).values({ name, forAll }).returning({ id: priceList.id });
  const id = added?.id as number;
  await writeRows(act, id, form);
  return priceListOf(act, id);
}

export async function editPriceList(act: Act, id: number, { version, ...form }: BodyOf<typeof contract.editPriceList>): Promise<contract.PriceList> {
  const was = await held(act, id, version);
  await refuseList(act, form, id);
  const { db } = act.tx;
  await db
    .update(priceList)
    .set({ name: form.name, forAll: form.forAll, version: version + 1 })
    .where(eq(priceList.id, id));
  await db.delete(priceRow).where(eq(priceRow.listId, id));
  await writeRows(act, id, form);
  const is = await priceListOf(act, id);
  await recordChanges(act, 'price list', id, { ...was, version: 0 }, { ...is, version: 0 });
  return is;
}

/** Retires a list, which no customer may buy by then, or takes it back. Retired it is not for all any more. */
export async function retirePriceList(act: Act, id: number, { retired, version }: BodyOf<typeof contract.retirePriceList>): Promise<contract.PriceList> {
  const was = await held(act, id, version);
  const { db } = act.tx;
  const [buys] = await db.select({ name: party.name }).from(party).where(eq(party.priceListId, id)).limit(1);
  if (retired && buys)
    throw refuseField(409, 'list-in-use', 'id', `${buys.name} buys by ${was.name}. Give ${was.customers === 1 ? 'them' : 'all of them'} another list first.`);
  await db
    .update(priceList)
    .set({ retiredAt: retired ? act.now.toISOString() : null, version: version + 1, ...(retired ? { forAll: false } : {}) })
    .where(eq(priceList.id, id));
  await recordChanges(act, 'price list', id, { retired: was.retired }, { retired });
  return priceListOf(act, id);
}

/** A list as it is, held until it is changed; refuses one that somebody else changed since. */
async function held(act: Act, id: number, version: number): Promise<contract.PriceList> {
  await act.tx.db.select({ id: priceList.id }).from(priceList).where(eq(priceList.id, id)).for('update');
  const was = await priceListOf(act, id);
  refuseStale(version, was.version, was.name);
  return was;
}

const writeRows = async ({ tx: { db } }: Act, listId: number, { rows }: contract.PriceListForm): Promise<void> => {
  if (rows.length > 0) await db.insert(priceRow).values(rows.map((row, position) => ({ ...row, listId, position })));
};

/** Refuses, by their fields, a name that another list has, a second list for all, rows of what is not there, and rows that say two things of the same. */
async function refuseList({ tx: { db } }: Act, { name, forAll, rows }: contract.PriceListForm, ownId: number | null): Promise<void> {
  const other = ownId === null ? undefined : ne(priceList.id, ownId);
  const [named] = await db
    .select({ name: priceList.name })
    .from(priceList)
    .where(and(sameText(priceList.name, name), other));
  if (named) throw refuseField(409, 'name-in-use', 'name', `${named.name} is there already.`);
  const [forAllNow] = forAll ? await db.select({ name: priceList.name }).from(priceList).where(and(priceList.forAll, other)) : [];
  if (forAllNow) throw refuseField(409, 'one-for-all', 'forAll', `${forAllNow.name} is the list for all customers already; only one can be.`);
  const idsOf = (key: 'itemId' | 'categoryId') => [...new Set(rows.flatMap((row) => row[key] ?? []))];
  const items = await db
    .select({ id: item.id })
    .from(item)
    .where(among(item.id, idsOf('itemId')));
  const categories = await db
    .select({ id: category.id })
    .from(category)
    .where(among(category.id, idsOf('categoryId')));
  const known = { itemId: new Set(items.map(({ id }) => id)), categoryId: new Set(categories.map(({ id }) => id)) };
  const errors = rows.flatMap((row, index): FieldError[] => [
    ...(row.itemId !== null && !known.itemId.has(row.itemId) ? [{ field: `rows.${index}.itemId`, sentence: 'There is no such item.' }] : []),
    ...(row.categoryId !== null && !known.categoryId.has(row.categoryId) ? [{ field: `rows.${index}.itemId`, sentence: 'There is no such category.' }] : []),
  ]);
  const clashes = clashingRows(rows).map(([first, second]) => ({
    field: `rows.${second}.from`,
    sentence: `Line ${first + 1} says another price for the same quantity on some of these days.`,
  }));
  refuseErrors([...errors, ...clashes]);
}
