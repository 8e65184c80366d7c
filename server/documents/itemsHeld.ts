import type { Sites } from '@larder/contract/rights';
import { and, eq, exists, sql, type Placeholder, type SQL } from 'drizzle-orm';
import { QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import { atSites, notNone } from '../db/given';
import { attributeValue, balance, item, itemSupplier, place } from '../db/schema/index';
import { sameText } from '../db/text';

/** What lists of items are narrowed down by; the item is joined. Each value may be the place for one. */
type Given<T> = T | Placeholder;

const some = new QueryBuilder();
const one = { one: sql`1` };

/** Whether the item is bought from the supplier. */
export const boughtFrom = (supplierId: Given<number>): SQL =>
  exists(
    some
      .select(one)
      .from(itemSupplier)
      .where(and(eq(itemSupplier.itemId, item.id), eq(itemSupplier.supplierId, supplierId))),
  );

/** Whether the item has an attribute of the business's own; of this value, where one is asked for. */
export const withAttribute = (attributeId: Given<number>, value: Given<string> | undefined): SQL =>
  exists(
    some
      .select(one)
      .from(attributeValue)
      .where(
        and(
          eq(attributeValue.itemId, item.id),
          eq(attributeValue.attributeId, attributeId),
          value === undefined ? undefined : sameText(attributeValue.value, sql`${value}::text`),
        ),
      ),
  );

/** Whether something of the item lies in a bin of the zone, at one site, some or all. */
const lyingIn = (zone: Given<string>, sites: Sites | Placeholder, site?: Given<number> | PgColumn): SQL =>
  exists(
    some
      .select(one)
      .from(balance)
      .innerJoin(place, eq(place.id, balance.placeId))
      .where(
        and(
          eq(balance.itemId, item.id),
          notNone(balance.quantity),
          eq(place.kind, 'bin'),
          eq(place.zone, zone),
          site === undefined ? atSites(place.siteId, sites) : sql`${place.siteId} = ${site}`,
        ),
      ),
  );

/** Codes from this one on. */
const fromCode = (code: Given<string>): SQL => sql`lower(${item.sku}) >= lower(${code}::text)`;
/** Codes up to this one, those that begin with it among them. */
const upToCode = (code: Given<string>): SQL => sql`(lower(${item.sku}) <= lower(${code}::text) or starts_with(lower(${item.sku}), lower(${code}::text)))`;

/** What items are held to, each a value or the place for one. */
export type Held = { [K in 'categoryId' | 'supplierId' | 'attributeId']?: Given<number> | undefined } & {
  [K in 'zone' | 'attributeValue' | 'fromSku' | 'toSku']?: Given<string> | undefined;
};

/** What items are held to, whatever their stock is. */
export const itemsHeld = (
  { categoryId, supplierId, zone, attributeId, attributeValue, fromSku, toSku }: Held,
  { site, sites }: { site: Given<number> | PgColumn | undefined; sites: Sites | Placeholder },
): SQL | undefined =>
  and(
    eq(item.kind, 'stocked'),
    categoryId === undefined ? undefined : eq(item.categoryId, categoryId),
    supplierId === undefined ? undefined : boughtFrom(supplierId),
    zone === undefined ? undefined : lyingIn(zone, sites, site),
    attributeId === undefined ? undefined : withAttribute(attributeId, attributeValue),
    fromSku === undefined ? undefined : fromCode(fromSku),
    toSku === undefined ? undefined : upToCode(toSku),
  );
