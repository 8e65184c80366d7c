import type * as contract from '@larder/contract/catalog';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import type { Act } from '../../act';
import { everyWord, keyset, paged, Values, whereAll, type SortColumn } from '../../db/page';

const sorts: Record<Exclude<QueryOf<typeof contract.listItems>['sort'], 'best'>, SortColumn> = {
  sku: { sql: 'lower(i.sku)', type: 'text' },
  name: { sql: 'i.name', type: 'text' },
  salesPrice: { sql: 'coalesce(i.sales_price, 0)', type: 'numeric' },
  onHand: { sql: 'p.on_hand', type: 'numeric' },
  free: { sql: 'p.free', type: 'numeric' },
};

const columns = `i.id, i.sku, i.name, c.name AS category, u.code AS unit, trim_scale(u.step) AS step, i.sales_price AS "salesPrice", i.purchase_price AS "purchasePrice",
  trim_scale(p.on_hand) AS "onHand", trim_scale(p.reserved) AS reserved, trim_scale(p.free) AS free, trim_scale(p.on_order) AS "onOrder", i.retired_at IS NOT NULL AS retired,
  (SELECT trim_scale(sum(reorder_point)) FROM item_policy WHERE item_id = i.id) AS "reorderPoint", (SELECT trim_scale(sum(order_up_to)) FROM item_policy WHERE item_id = i.id) AS "orderUpTo"`;
const tables = 'FROM item i JOIN pool p ON p.item_id = i.id JOIN unit u ON u.id = i.unit_id LEFT JOIN category c ON c.id = i.category_id';

type ItemPage = ResponseOf<typeof contract.listItems>;

export async function items({ tx }: Act, query: QueryOf<typeof contract.listItems>): Promise<ItemPage> {
  const values = new Values();
  const where = everyWord(values, 'i.findable', query.q);
  if (query.categoryId !== undefined) where.push(`i.category_id = ${values.add(query.categoryId)}`);
  if (query.sort === 'best') return bestItems(tx, values, where, query);
  const sort = sorts[query.sort];
  const page = keyset(values, sort, 'i.id', query);
  const rows = await tx.rows<contract.ItemRow & { cursor: string; cursorId: number }>(
    `SELECT ${columns}, ${sort.sql}::text AS cursor, i.id AS "cursorId" ${tables} ${whereAll([...where, ...page.where])} ${page.order}`,
    values.list,
  );
  return paged(rows, query.limit) as ItemPage;
}

/** The best few for a line or the scan bar: an exact code first, then names and SKUs that begin with the first word. */
async function bestItems(tx: Act['tx'], values: Values, where: string[], { q = '', limit }: { q?: string | undefined; limit: number }): Promise<ItemPage> {
  const typed = q.trim().toLowerCase();
  const code = values.add(typed);
  const start = values.add(`${typed.replace(/[\\%_]/g, '\\$&')}%`);
  const rows = await tx.rows<contract.ItemRow>(
    `SELECT ${columns} ${tables} ${whereAll([...where, 'i.retired_at IS NULL'])}
     ORDER BY (lower(i.sku) = ${code} OR EXISTS (SELECT 1 FROM barcode b WHERE b.item_id = i.id AND lower(b.code) = ${code}) OR EXISTS (SELECT 1 FROM item_supplier s WHERE s.item_id = i.id AND lower(s.code) = ${code})) DESC,
       (lower(i.sku) LIKE ${start}) DESC, (lower(i.name) LIKE ${start}) DESC, lower(i.sku) LIMIT ${values.add(limit)}`,
    values.list,
  );
  return { rows, next: null };
}

export async function item({ tx }: Act, id: number): Promise<contract.Item> {
  const [row] = await tx.rows<contract.Item>(
    `SELECT i.id, i.version, i.sku, i.name, i.description, i.category_id AS "categoryId", c.name AS category, i.unit_id AS "unitId", u.code AS unit, trim_scale(u.step) AS step, i.brand,
      trim_scale(i.sales_price) AS "salesPrice", trim_scale(i.purchase_price) AS "purchasePrice", i.tax_code_id AS "taxCodeId", i.tracking, i.retired_at IS NOT NULL AS retired,
      (SELECT coalesce(json_agg(code ORDER BY position), '[]') FROM barcode WHERE item_id = i.id) AS barcodes,
      (SELECT coalesce(json_agg(json_build_object('supplierId', s.supplier_id, 'supplier', p.name, 'code', s.code, 'packSize', trim_scale(s.pack_size)::text, 'minimum', trim_scale(s.minimum)::text, 'price', trim_scale(s.price)::text) ORDER BY s.position), '[]')
        FROM item_supplier s JOIN party p ON p.id = s.supplier_id WHERE s.item_id = i.id) AS suppliers,
      (SELECT coalesce(json_agg(json_build_object('siteId', y.site_id, 'binId', y.bin_id, 'bin', b.code, 'reorderPoint', trim_scale(y.reorder_point)::text, 'orderUpTo', trim_scale(y.order_up_to)::text) ORDER BY y.site_id), '[]')
        FROM item_policy y LEFT JOIN place b ON b.id = y.bin_id WHERE y.item_id = i.id) AS policies
     FROM item i JOIN unit u ON u.id = i.unit_id LEFT JOIN category c ON c.id = i.category_id WHERE i.id = $1`,
    [id],
  );
  if (!row) throw new Refusal(404, 'not-found', 'There is no such item.');
  return row;
}

/** Whatever a code or words may mean: exact codes first. */
export async function find({ tx }: Act, q: string): Promise<contract.Found[]> {
  const values = new Values();
  const code = values.add(q.toLowerCase());
  const words = (column: string) => everyWord(values, column, q).join(' AND ');
  return tx.rows<contract.Found>(
    `SELECT kind, id, code, name, exact FROM (
      (SELECT 'item' AS kind, i.id, i.sku AS code, i.name, (lower(i.sku) = ${code} OR EXISTS (SELECT 1 FROM barcode b WHERE b.item_id = i.id AND lower(b.code) = ${code}) OR EXISTS (SELECT 1 FROM item_supplier s WHERE s.item_id = i.id AND lower(s.code) = ${code})) AS exact, 1 AS rank
        FROM item i WHERE ${words('i.findable')} ORDER BY 5 DESC, lower(i.sku) LIMIT 8)
      UNION ALL (SELECT 'bin', p.id, p.code, s.name, lower(p.code) = ${code}, 2 FROM place p JOIN site s ON s.id = p.site_id WHERE p.kind = 'bin' AND p.retired_at IS NULL AND ${words('lower(p.code)')} ORDER BY 5 DESC, p.code LIMIT 5)
      UNION ALL (SELECT 'purchase order', o.id, o.number, p.name, lower(o.number) = ${code}, 3 FROM purchase_order o JOIN party p ON p.id = o.supplier_id WHERE ${words(`lower(o.number || ' ' || p.name)`)} ORDER BY 5 DESC, o.id DESC LIMIT 5)
      UNION ALL (SELECT 'sales order', o.id, o.number, p.name, lower(o.number) = ${code}, 4 FROM sales_order o JOIN party p ON p.id = o.customer_id WHERE ${words(`lower(o.number || ' ' || p.name)`)} ORDER BY 5 DESC, o.id DESC LIMIT 5)
     ) found ORDER BY exact DESC, rank, code`,
    values.list,
  );
}
