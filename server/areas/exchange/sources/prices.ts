import { eq, sql } from 'drizzle-orm';
import { category, item, priceList, priceRow } from '../../../db/schema/index';
import { plain } from '../../../db/text';
import { day, inOrder, type Source } from './source';

/** What customers pay: the rows of every list, or of one. */
export const prices: Source = {
  read: (db, where) =>
    db
      .select({
        list: priceList.name,
        sku: sql<string>`coalesce(${item.sku}, '')`,
        category: sql<string>`coalesce(${category.name}, '')`,
        from: plain(priceRow.from),
        price: plain(priceRow.price),
        percentOff: plain(priceRow.percentOff),
        startsOn: day(priceRow.startsOn),
        endsOn: day(priceRow.endsOn),
      })
      .from(priceRow)
      .innerJoin(priceList, eq(priceList.id, priceRow.listId))
      .leftJoin(item, eq(item.id, priceRow.itemId))
      .leftJoin(category, eq(category.id, priceRow.categoryId))
      .where(where)
      .orderBy(inOrder, sql`3, ${priceRow.from}, ${priceRow.startsOn} nulls first`),
  words: sql`lower(${priceList.name} || ' ' || coalesce(${item.sku}, ${category.name}))`,
  priceList: priceList.id,
};
