import type * as contract from '@larder/contract/prices';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { pricesFor, type PriceRow } from '@larder/core/outbound/pricing';
import { Refusal, type FieldError } from '@larder/core/refusal';
import { and, eq, isNotNull, isNull, or, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { customerCode, item, party, priceList, priceRow } from '../../db/schema/index';
import { lower, plain } from '../../db/text';
import { recordChanges } from '../../documents/changes';
import { refuseErrors } from '../../documents/lines';
import { lastRate } from '../../documents/money';

/** What a customer pays for these items today: by their own list, then by the one for all, else what each item costs. */
export async function customerTerms(
  act: Act,
  id: number,
  { itemIds, currency }: { itemIds: string; currency?: string | undefined },
): Promise<ResponseOf<typeof contract.customerTerms>> {
  const { db } = act.tx;
  const [head] = await db
    .select({ taxCodeId: party.salesTaxCodeId, listId: party.priceListId, list: priceList.name, currency: party.salesCurrency })
    .from(party)
    .leftJoin(priceList, eq(priceList.id, party.priceListId))
    .where(and(eq(party.id, id), party.isCustomer));
  if (!head) throw new Refusal(404, 'not-found', 'There is no such customer.');
  const used = currency ?? head.currency;
  const ids = itemIds.split(',').filter(Boolean).map(Number);
  const [items, rows] = await Promise.all([
    db
      .select({
        itemId: item.id,
        categoryId: item.categoryId,
        salesPrice: plain(item.salesPrice),
        taxCodeId: item.taxCodeId,
        code: sql<string>`coalesce(${customerCode.code}, '')`,
      })
      .from(item)
      .leftJoin(customerCode, and(eq(customerCode.itemId, item.id), eq(customerCode.customerId, id)))
      .where(among(item.id, ids)),
    rowsAbout(act, head.listId, ids),
  ]);
  const lists = [rows.filter(({ listId }) => listId === head.listId), rows.filter(({ forAll, listId }) => forAll && listId !== head.listId)];
  return {
    taxCodeId: head.taxCodeId,
    list: head.list,
    rate: used === null ? null : await lastRate(act, used),
    rows: items.map(({ itemId, categoryId, salesPrice, taxCodeId, code }) => {
      const { price, breaks } = pricesFor(lists, { itemId, categoryId, salesPrice }, act.today);
      return { itemId, code, taxCodeId, price, breaks: [...breaks] };
    }),
  };
}

/** What a list and the one for all say of these items and their categories. */
const rowsAbout = ({ tx: { db } }: Act, listId: number | null, itemIds: readonly number[]): Promise<(PriceRow & { listId: number; forAll: boolean })[]> =>
  db
    .select({
      listId: priceRow.listId,
      forAll: priceList.forAll,
      itemId: priceRow.itemId,
      categoryId: priceRow.categoryId,
      from: plain(priceRow.from),
      price: sql<string | null>`${plain(priceRow.price)}`,
      percentOff: sql<string | null>`${plain(priceRow.percentOff)}`,
      startsOn: priceRow.startsOn,
      endsOn: priceRow.endsOn,
    })
    .from(priceRow)
    .innerJoin(priceList, eq(priceList.id, priceRow.listId))
    .where(
      and(
        listId === null ? priceList.forAll : or(eq(priceList.id, listId), priceList.forAll),
        isNull(priceList.retiredAt),
        or(among(priceRow.itemId, itemIds), isNotNull(priceRow.categoryId)),
      ),
    );

/** What a customer calls our items, by our SKUs. */
export async function customerCodes({ tx: { db } }: Act, id: number): Promise<ResponseOf<typeof contract.customerCodes>> {
  if ((await db.$count(party, and(eq(party.id, id), party.isCustomer))) === 0) throw new Refusal(404, 'not-found', 'There is no such customer.');
  return {
    rows: await db
      .select({ itemId: item.id, sku: item.sku, name: item.name, code: customerCode.code })
      .from(customerCode)
      .innerJoin(item, eq(item.id, customerCode.itemId))
      .where(eq(customerCode.customerId, id))
      .orderBy(lower(item.sku)),
  };
}

/** Writes down what a customer calls our items: these codes, and no others. */
export async function keepCustomerCodes(
  act: Act,
  id: number,
  { rows }: BodyOf<typeof contract.keepCustomerCodes>,
): Promise<ResponseOf<typeof contract.customerCodes>> {
  const { db } = act.tx;
  await db.select({ id: party.id }).from(party).where(eq(party.id, id)).for('update');
  const was = await customerCodes(act, id);
  const items = await db
    .select({ id: item.id })
    .from(item)
    .where(
      among(
        item.id,
        rows.map(({ itemId }) => itemId),
      ),
    );
  const known = new Set(items.map((one) => one.id));
  refuseErrors(
    rows.flatMap(({ itemId }, index): FieldError[] => (known.has(itemId) ? [] : [{ field: `rows.${index}.itemId`, sentence: 'There is no such item.' }])),
  );
  await db.delete(customerCode).where(eq(customerCode.customerId, id));
  if (rows.length > 0) await db.insert(customerCode).values(rows.map((row) => ({ ...row, customerId: id })));
  const is = await customerCodes(act, id);
  const inWords = ({ rows: all }: typeof is) => ({ codes: all.map(({ sku, code }) => `${sku}: ${code}`).join(', ') });
  await recordChanges(act, 'party', id, inWords(was), inWords(is));
  return is;
}
