import type * as contract from '@larder/contract/catalog';
import { parseGs1, type Gs1 } from '@larder/core/codes/gs1';
import { and, desc, eq, exists, isNull, or, sql, type Placeholder, type SQL } from 'drizzle-orm';
import { QueryBuilder, unionAll, type PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among, atSites } from '../../db/given';
import { everyWord } from '../../db/paging';
import { barcode, item, itemSupplier, lot, party, place, purchaseOrder, salesOrder, site } from '../../db/schema/index';
import { lower, sameText } from '../../db/text';
import { readCode } from './codes';

type Kind = contract.Found['kind'];

const query = new QueryBuilder();
const is = (column: PgColumn, code: string | Placeholder): SQL => sql`lower(${column}) = ${code}`;

/** Whether the code is exactly one of the item's: SKU, barcode or a supplier's. The code is in small letters. */
export function isCodeOf(code: string | Placeholder): SQL {
  const barcodes = query
    .select({ one: sql`1` })
    .from(barcode)
    .where(and(eq(barcode.itemId, item.id), is(barcode.code, code)));
  const suppliers = query
    .select({ one: sql`1` })
    .from(itemSupplier)
    .where(and(eq(itemSupplier.itemId, item.id), is(itemSupplier.code, code)));
  return sql`(${or(is(item.sku, code), exists(barcodes), exists(suppliers))})`;
}

/** Whatever a code or words may mean: exact codes first. A GS1 element string means its item and, if it is known, its lot or serial. */
export async function find(act: Act, q: string): Promise<contract.Found[]> {
  act.sites('look');
  const gs1 = parseGs1(q);
  if (gs1) return findGs1(act, q, gs1);
  const code = q.toLowerCase();
  const found = unionAll(
    itemsMeant(act.tx, q, code),
    lotsMeant(act.tx, code),
    binsMeant(act.tx, q, code),
    ordersMeant(act, purchaseOrder, q, code),
    ordersMeant(act, salesOrder, q, code),
    suppliersMeant(act.tx, q, code),
  ).as('found');
  const { kind, id, shown, name, exact } = found;
  return act.tx.db.select({ kind, id, code: shown, name, exact }).from(found).orderBy(desc(exact), found.rank, shown);
}

interface Meant {
  kind: Kind | PgColumn;
  id: PgColumn;
  shown: SQL | PgColumn;
  name: SQL | PgColumn;
  exact: SQL;
  rank: number;
}

const meant = ({ kind, id, shown, name, exact, rank }: Meant) => ({
  kind: sql<Kind>`${kind}::text`.as('kind'),
  id: sql<number>`${id}`.as('found_id'),
  shown: sql<string>`${shown}`.as('shown'),
  name: sql<string>`${name}`.as('found_name'),
  exact: sql<boolean>`${exact}`.as('exact'),
  rank: sql<number>`${rank}::int`.as('rank'),
});

const itemsMeant = ({ db }: Act['tx'], q: string, code: string) =>
  db
    .select(meant({ kind: 'item', id: item.id, shown: item.sku, name: item.name, exact: isCodeOf(code), rank: 1 }))
    .from(item)
    .where(everyWord(item.findable, q))
    .orderBy(sql`exact desc`, lower(item.sku))
    .limit(8);

const lotsMeant = ({ db }: Act['tx'], code: string) =>
  db
    .select(
      meant({
        kind: lot.kind,
        id: lot.id,
        shown: sql`coalesce(${lot.tag} || ' ', '') || ${lot.code}`,
        name: sql`${item.sku} || ' ' || ${item.name}`,
        exact: sql`true`,
        rank: 2,
      }),
    )
    .from(lot)
    .innerJoin(item, eq(item.id, lot.itemId))
    .where(or(is(lot.code, code), is(lot.tag, code)))
    .orderBy(lot.id)
    .limit(5);

const binsMeant = ({ db }: Act['tx'], q: string, code: string) =>
  db
    .select(meant({ kind: 'bin', id: place.id, shown: place.code, name: site.name, exact: is(place.code, code), rank: 3 }))
    .from(place)
    .innerJoin(site, eq(site.id, place.siteId))
    .where(and(eq(place.kind, 'bin'), isNull(place.retiredAt), everyWord(lower(place.code), q)))
    .orderBy(sql`exact desc`, place.code)
    .limit(5);

function ordersMeant({ tx: { db }, sites }: Act, order: typeof purchaseOrder | typeof salesOrder, q: string, code: string) {
  const [kind, rank, partyId]: [Kind, number, PgColumn] =
    order === purchaseOrder ? ['purchase order', 4, purchaseOrder.supplierId] : ['sales order', 5, salesOrder.customerId];
  return db
    .select(meant({ kind, id: order.id, shown: order.number, name: party.name, exact: is(order.number, code), rank }))
    .from(order)
    .innerJoin(party, eq(party.id, partyId))
    .where(and(everyWord(sql`lower(${order.number} || ' ' || ${party.name})`, q), atSites(order.siteId, sites('look'))))
    .orderBy(sql`exact desc`, desc(order.id))
    .limit(5);
}

const suppliersMeant = ({ db }: Act['tx'], q: string, code: string) =>
  db
    .select(meant({ kind: 'supplier', id: party.id, shown: sql`'Supplier'`, name: party.name, exact: is(party.name, code), rank: 6 }))
    .from(party)
    .where(and(party.isSupplier, isNull(party.retiredAt), everyWord(lower(party.name), q)))
    .orderBy(sql`exact desc`, party.name)
    .limit(5);

async function findGs1(act: Act, q: string, gs1: Gs1): Promise<contract.Found[]> {
  const { items } = await readCode(act, q);
  const lots = await act.tx.db
    .select({ kind: lot.kind, id: lot.id, code: lot.code, name: sql<string>`${item.sku} || ' ' || ${item.name}`, exact: sql<boolean>`true` })
    .from(lot)
    .innerJoin(item, eq(item.id, lot.itemId))
    .where(
      and(
        among(
          lot.itemId,
          items.map(({ itemId }) => itemId),
        ),
        sameText(lot.code, gs1.serial ?? gs1.lot ?? ''),
      ),
    );
  return lots.length > 0 ? lots : items.map(({ itemId, sku, name }) => ({ kind: 'item' as const, id: itemId, code: sku, name, exact: true }));
}
