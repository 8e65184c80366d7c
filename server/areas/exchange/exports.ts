import { exchangeKinds } from '@larder/core/formats/exchange';
import type * as contract from '@larder/contract/exchange';
import type { BodyOf, FileAnswer, ParamsOf, ResponseOf } from '@larder/contract/endpoint';
import { refuseField } from '@larder/core/refusal';
import type { Act } from '../../act';
import { itemColumns, itemTables } from './references';
import { itemConditions } from '../catalog/queries';
import { countedBy } from '../../heavy/progress';
import { tableFile } from './tableFile';
import { lotConditions, lotWords, stockConditions } from '../stock/queries';
import { everyWord, Values, whereAll } from '../../db/page';

type List = ParamsOf<typeof contract.exportFile>['list'];
interface Source {
  /** Rows with a column for each field; without conditions of its own. */
  sql: string;
  /** Which rows belong to the list at all. */
  only?: string;
  /** What the words of the list's own search field look through. */
  words: string;
  /** Columns of the site and of the item, where rows have one. */
  site?: string;
  item?: string;
  /** Conditions of what the list may be held to. */
  shows?: Partial<Record<NonNullable<BodyOf<typeof contract.exportFile>['show']>, string[]>>;
  /** Fields beyond those that can be brought in. */
  more?: { key: string; name: string }[];
}

const trimmed = (column: string): string => `trim_scale(${column})::text`;
const attributesOf = (owner: 'item' | 'lot', id: string): string =>
  `LEFT JOIN LATERAL (SELECT json_object_agg('attribute ' || attribute_id, value) AS own FROM attribute_value WHERE ${owner}_id = ${id}) own ON true`;
const figures = [
  { key: 'onHand', name: 'On hand' },
  { key: 'reserved', name: 'Reserved' },
  { key: 'free', name: 'Free' },
  { key: 'onOrder', name: 'On order' },
];

const named = (pairs: readonly (readonly [string, string])[]) => pairs.map(([key, name]) => ({ key, name }));

const sources: Record<List, Source> = {
  items: {
    sql: `SELECT ${itemColumns}, ${trimmed('q.on_hand')} AS "onHand", ${trimmed('q.reserved')} AS reserved, ${trimmed('q.free')} AS free, ${trimmed('q.on_order')} AS "onOrder", own.own FROM ${itemTables} JOIN pool q ON q.item_id = i.id ${attributesOf('item', 'i.id')}`,
    words: 'i.findable',
    more: figures,
  },
  families: {
    sql: `SELECT i.sku, f.name AS family, v1.axis_name AS axis1, v1.name AS value1, v2.axis_name AS axis2, v2.name AS value2, v3.axis_name AS axis3, v3.name AS value3
      FROM item i JOIN family f ON f.id = i.family_id LEFT JOIN family_value v1 ON v1.id = i.value_1_id LEFT JOIN family_value v2 ON v2.id = i.value_2_id LEFT JOIN family_value v3 ON v3.id = i.value_3_id`,
    words: `lower(f.name || ' ' || i.sku)`,
  },
  suppliers: { sql: `SELECT name, email, address, lead_days::text AS "leadDays" FROM party`, only: 'is_supplier', words: 'lower(name)' },
  customers: { sql: 'SELECT name, email, address FROM party', only: 'is_customer', words: 'lower(name)' },
  terms: {
    sql: `SELECT p.name AS supplier, i.sku, s.code, ${trimmed('s.pack_size')} AS "packSize", ${trimmed('s.minimum')} AS minimum, ${trimmed('s.price')} AS price, s.lead_days::text AS "leadDays",
       (SELECT coalesce(string_agg((b->>'from') || ': ' || (b->>'price'), '; ' ORDER BY (b->>'from')::numeric), '') FROM jsonb_array_elements(s.breaks) b) AS breaks FROM item_supplier s JOIN item i ON i.id = s.item_id JOIN party p ON p.id = s.supplier_id`,
    words: `lower(p.name || ' ' || i.sku)`,
  },
  bins: {
    sql: `SELECT s.name AS site, p.code, p.zone, p.walk::text AS walk, CASE WHEN p.sellable THEN 'sale' ELSE 'quarantine' END AS use FROM place p JOIN site s ON s.id = p.site_id`,
    only: `p.kind = 'bin' AND NOT p.unplaced AND p.retired_at IS NULL`,
    words: 'lower(p.code)',
    site: 'p.site_id',
  },
  policies: {
    sql: `SELECT i.sku, s.name AS site, p.code AS bin, ${trimmed('y.reorder_point')} AS "reorderPoint", ${trimmed('y.order_up_to')} AS "orderUpTo" FROM item_policy y JOIN item i ON i.id = y.item_id JOIN site s ON s.id = y.site_id LEFT JOIN place p ON p.id = y.bin_id`,
    words: 'i.findable',
    site: 'y.site_id',
  },
  stock: {
    sql: `SELECT i.sku, i.name, s.name AS site, ${trimmed('f.on_hand')} AS "onHand", ${trimmed('f.reserved')} AS reserved, ${trimmed('f.free')} AS free, ${trimmed('f.on_order')} AS "onOrder", ${trimmed('f.short')} AS short, ${trimmed('p.unit_cost')} AS "unitCost", round(p.unit_cost * f.on_hand, 2)::text AS value
      FROM item_site f JOIN item i ON i.id = f.item_id JOIN site s ON s.id = f.site_id JOIN pool p ON p.item_id = i.id`,
    words: 'i.findable',
    site: 'f.site_id',
    more: [
      { key: 'sku', name: 'SKU' },
      { key: 'name', name: 'Name' },
      { key: 'site', name: 'Site' },
      ...figures,
      { key: 'short', name: 'Short' },
      { key: 'unitCost', name: 'Unit cost' },
      { key: 'value', name: 'Value' },
    ],
  },
  lots: {
    sql: `SELECT i.sku, l.code, i.name, l.use_by::text AS "useBy", l.tag, l.condition, l.bought_on::text AS "boughtOn", l.warranty_until::text AS "warrantyUntil", (SELECT ${trimmed('coalesce(sum(b.quantity), 0)')} FROM balance b JOIN place p ON p.id = b.place_id WHERE b.item_id = l.item_id AND b.lot_id = l.id AND p.owned) AS "onHand", own.own
      FROM lot l JOIN item i ON i.id = l.item_id ${attributesOf('lot', 'l.id')}`,
    words: lotWords,
    more: named([
      ['name', 'Name'],
      ['onHand', 'Here'],
    ]),
  },
  bills: {
    sql: `SELECT b.number, b.kind, p.name AS party, b.reference, b.billed_on::text AS "billedOn", b.due_on::text AS "dueOn", b.currency, (b.net + b.tax)::text AS total,
       (CASE WHEN b.undone_at IS NOT NULL OR b.posted_at IS NULL THEN 0 ELSE b.net + b.tax - x.paid END)::text AS open FROM bill b JOIN party p ON p.id = b.party_id CROSS JOIN LATERAL (SELECT coalesce(sum(amount), 0) AS paid FROM payment WHERE bill_id = b.id AND undone_at IS NULL) x`,
    words: `lower(b.number || ' ' || b.reference || ' ' || p.name)`,
    shows: { open: ['b.posted_at IS NOT NULL', 'b.undone_at IS NULL', 'x.paid < b.net + b.tax'], waiting: ['b.posted_at IS NULL', 'b.undone_at IS NULL'] },
    more: named([
      ['number', 'Bill'],
      ['kind', 'Kind'],
      ['party', 'From'],
      ['reference', 'Their number'],
      ['billedOn', 'Of'],
      ['dueOn', 'Due'],
      ['currency', 'Currency'],
      ['total', 'Total'],
      ['open', 'Open'],
    ]),
  },
  trail: {
    sql: `SELECT m.posted_at::text AS "when", w.name AS who, m.kind AS what, i.sku, i.name, f.code AS "from", t.code AS "to", ${trimmed('l.quantity')} AS quantity, l.value::text AS value, b.code AS lot, concat_ws(': ', r.name, nullif(m.note, '')) AS why, coalesce(po.number, so.number) AS document
      FROM movement_line l JOIN movement m ON m.id = l.movement_id JOIN person w ON w.id = m.person_id JOIN item i ON i.id = l.item_id JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id LEFT JOIN lot b ON b.id = l.lot_id LEFT JOIN reason r ON r.id = m.reason_id
       LEFT JOIN purchase_line pl ON pl.id = l.supply_line_id LEFT JOIN purchase_order po ON po.id = pl.order_id LEFT JOIN sales_line sl ON sl.id = l.demand_line_id LEFT JOIN sales_order so ON so.id = sl.order_id`,
    words: 'i.findable',
    site: 'coalesce(f.site_id, t.site_id)',
    item: 'l.item_id',
    more: named([
      ['when', 'When'],
      ['who', 'Who'],
      ['what', 'What'],
      ['why', 'Why'],
      ['document', 'Document'],
      ['sku', 'SKU'],
      ['name', 'Name'],
      ['from', 'From'],
      ['to', 'To'],
      ['quantity', 'Quantity'],
      ['lot', 'Lot or serial'],
      ['value', 'Value'],
    ]),
  },
  purchases: {
    sql: `SELECT o.number, p.name AS supplier, s.name AS site, o.expected_on::text AS "expectedOn", i.sku, i.name, ${trimmed('l.quantity')} AS quantity, l.unit, ${trimmed('l.price')} AS price, ${trimmed('l.price_per')} AS "pricePer", l.currency, l.amount::text AS amount, ${trimmed('l.received')} AS received
      FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id JOIN party p ON p.id = o.supplier_id JOIN site s ON s.id = o.site_id JOIN item i ON i.id = l.item_id`,
    words: `lower(o.number || ' ' || p.name)`,
    site: 'o.site_id',
    shows: {
      open: ['o.placed_at IS NOT NULL', 'o.closed_at IS NULL', 'o.cancelled_at IS NULL', 'l.outstanding > 0'],
      drafts: ['o.placed_at IS NULL', 'o.cancelled_at IS NULL'],
    },
    more: named([
      ['number', 'Order'],
      ['supplier', 'Supplier'],
      ['site', 'Site'],
      ['expectedOn', 'Expected'],
      ['sku', 'SKU'],
      ['name', 'Name'],
      ['quantity', 'Ordered'],
      ['unit', 'Unit'],
      ['price', 'Price'],
      ['pricePer', 'Price for'],
      ['currency', 'Currency'],
      ['amount', 'Amount'],
      ['received', 'Received'],
    ]),
  },
  sales: {
    sql: `SELECT o.number, p.name AS customer, s.name AS site, o.ship_by::text AS "shipBy", i.sku, i.name, ${trimmed('l.quantity')} AS quantity, l.unit, ${trimmed('l.price')} AS price, l.amount::text AS amount, ${trimmed('l.picked')} AS picked, ${trimmed('l.dispatched')} AS dispatched, ${trimmed('l.short')} AS short
      FROM sales_line l JOIN sales_order o ON o.id = l.order_id JOIN party p ON p.id = o.customer_id JOIN site s ON s.id = o.site_id JOIN item i ON i.id = l.item_id`,
    words: `lower(o.number || ' ' || p.name)`,
    site: 'o.site_id',
    shows: {
      open: ['o.confirmed_at IS NOT NULL', 'o.closed_at IS NULL', 'o.cancelled_at IS NULL', 'l.dispatched < l.base_quantity'],
      quotes: ['o.confirmed_at IS NULL', 'o.cancelled_at IS NULL'],
    },
    more: named([
      ['number', 'Order'],
      ['customer', 'Customer'],
      ['site', 'Site'],
      ['shipBy', 'Ship by'],
      ['sku', 'SKU'],
      ['name', 'Name'],
      ['quantity', 'Ordered'],
      ['unit', 'Unit'],
      ['price', 'Price'],
      ['amount', 'Amount'],
      ['picked', 'Picked'],
      ['dispatched', 'Dispatched'],
      ['short', 'Short'],
    ]),
  },
};

async function fieldsOf({ tx }: Act, list: List): Promise<{ key: string; name: string; isCode: boolean }[]> {
  const known = exchangeKinds.find(({ key }) => key === list)?.fields ?? [];
  const subject = exchangeKinds.find(({ key }) => key === list)?.own;
  const own =
    subject === undefined
      ? []
      : await tx.rows<{ id: number; name: string }>('SELECT id, name FROM attribute WHERE subject = $1 AND retired_at IS NULL ORDER BY position, id', [
          subject,
        ]);
  return [
    ...known.map(({ key, name, kind }) => ({ key, name, isCode: kind === 'code' })),
    ...own.map(({ id, name }) => ({ key: `attribute ${id}`, name, isCode: false })),
    ...(sources[list].more ?? []).map((one) => ({ ...one, isCode: one.key === 'sku' })),
  ];
}

export async function exportFields(act: Act, list: List): Promise<ResponseOf<typeof contract.exportFields>> {
  const [kept] = await act.tx.rows<{ fields: string[]; format: 'csv' | 'xlsx' }>('SELECT fields, format FROM kept_export WHERE person_id = $1 AND list = $2', [
    act.by.id,
    list,
  ]);
  return { fields: (await fieldsOf(act, list)).map(({ key, name }) => ({ key, name })), chosen: kept?.fields ?? null, format: kept?.format ?? 'csv' };
}

/** The list as a file, with the chosen fields in their order. */
export async function exportFile(act: Act, list: List, query: BodyOf<typeof contract.exportFile>): Promise<FileAnswer> {
  const all = await fieldsOf(act, list);
  const keys = query.fields.split(',');
  const fields = keys.map((key) => all.find((field) => field.key === key));
  if (fields.some((field) => field === undefined)) throw refuseField(422, 'no-such-field', 'fields', 'Choose the fields from the list.');
  if (new Set(keys).size < keys.length) throw refuseField(422, 'field-twice', 'fields', 'Each field can be taken once.');
  const source = sources[list];
  const values = new Values();
  const where = [...(source.only ? [source.only] : []), ...everyWord(values, source.words, query.q)];
  if (query.items !== undefined && list === 'items') where.push(...itemConditions(values, query.items));
  if (query.lots !== undefined && list === 'lots') where.push(...lotConditions(values, query.lots));
  if (query.stock !== undefined && list === 'stock') where.push(...stockConditions(values, query.stock, 'f', 'f.site_id'));
  where.push(...(source.shows?.[query.show ?? 'all'] ?? []));
  if (query.itemId !== undefined && source.item) where.push(`${source.item} = ${values.add(query.itemId)}`);
  if (query.siteId !== undefined && source.site) where.push(`${source.site} = ${values.add(query.siteId)}`);
  const used = fields.filter((field) => field !== undefined);
  const rows = act.tx.batches<Record<string, string | null> & { own?: Record<string, string> | null }>(
    `${source.sql} ${whereAll(where)} ORDER BY 1, 2`,
    values.list,
    1000,
  );
  const cells = async function* () {
    for await (const some of countedBy(act.tell, rows))
      yield some.map((row) => used.map(({ key }) => (key.startsWith('attribute ') ? row.own?.[key] : row[key]) ?? ''));
  };
  return tableFile(list, query.format, used, cells());
}

/** Remembers what was chosen, for the next time. */
export const keepExport = ({ tx, by }: Act, list: List, { fields, format }: BodyOf<typeof contract.exportFile>): Promise<unknown> =>
  tx.rows(
    'INSERT INTO kept_export (person_id, list, fields, format) VALUES ($1, $2, $3, $4) ON CONFLICT (person_id, list) DO UPDATE SET fields = excluded.fields, format = excluded.format',
    [by.id, list, fields.split(','), format],
  );
