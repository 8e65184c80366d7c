import type { Act } from '../../act';
import { lower } from '@larder/core/formats/rows';

/** Ids of items by SKU in lower case. */
export async function itemsMeant({ tx }: Act, skus: readonly string[]): Promise<Map<string, number>> {
  const rows = await tx.rows<{ sku: string; id: number }>('SELECT lower(sku) AS sku, id FROM item WHERE lower(sku) = ANY($1)', [skus.map(lower)]);
  return new Map(rows.map(({ sku, id }) => [sku, id]));
}

/** Ids of sites by name or code in lower case. */
export async function sitesMeant({ tx }: Act): Promise<Map<string, number>> {
  const rows = await tx.rows<{ id: number; code: string; name: string }>('SELECT id, code, name FROM site WHERE retired_at IS NULL');
  return new Map(rows.flatMap(({ id, code, name }) => [[lower(code), id] as const, [lower(name), id] as const]));
}

/** Bins by site and code in lower case, as `12/a-01`. */
export async function binsMeant({ tx }: Act): Promise<Map<string, { id: number; unplaced: boolean }>> {
  const rows = await tx.rows<{ id: number; siteId: number; code: string; unplaced: boolean }>(
    `SELECT id, site_id AS "siteId", code, unplaced FROM place WHERE kind = 'bin' AND retired_at IS NULL`,
  );
  return new Map(rows.map(({ id, siteId, code, unplaced }) => [`${siteId}/${lower(code)}`, { id, unplaced }]));
}

/** What is to be said of a cell that names something that is not there. */
export const missing = (map: ReadonlyMap<string, unknown>, text: string | undefined, what: string): string[] =>
  text && !map.has(lower(text)) ? [`There is no ${what} “${text}”.`] : [];

/** What is to be said of a bin that is not at its site. */
export const missingBin = (places: ReadonlyMap<string, unknown>, siteId: number | undefined, bin: string | undefined, site: string | undefined): string[] =>
  bin && !places.has(`${siteId ?? ''}/${lower(bin)}`) ? [`There is no bin “${bin}” at ${site ?? ''}.`] : [];

/** What is to be said of days to deliver that are none. */
export const leadDaysSaid = (days: string | undefined): string[] =>
  days && !(/^\d{1,3}$/.test(days) && Number(days) <= 365) ? ['Days to deliver are whole days from 0 to 365.'] : [];

const written = (column: string): string => `coalesce(trim_scale(${column})::text, '')`;

/** Columns of items as a file writes them: the same going out and for comparing with what comes in. */
export const itemColumns = `i.sku, i.name, i.kind, i.description, coalesce(c.name, '') AS category, u.code AS unit, i.brand, i.maker, i.notes, coalesce(t.code, '') AS tax, i.tracking, i.cost_method AS "costMethod",
    ${written('i.sales_price')} AS "salesPrice", ${written('i.purchase_price')} AS "purchasePrice", ${written('i.weight_kg')} AS "weightKg", ${written('i.length_cm')} AS "lengthCm", ${written('i.width_cm')} AS "widthCm", ${written('i.height_cm')} AS "heightCm",
    CASE WHEN i.returnable THEN 'yes' ELSE 'no' END AS returnable, CASE WHEN i.retired_at IS NULL THEN 'no' ELSE 'yes' END AS retired,
    coalesce((SELECT string_agg(code, '; ' ORDER BY position) FROM barcode WHERE item_id = i.id AND unit_id IS NULL), '') AS barcode,
    coalesce(p.name, '') AS supplier, coalesce(s.code, '') AS "supplierCode", ${written('s.pack_size')} AS "packSize",
    coalesce(b.code, '') AS "buyUnit", ${written('b.many')} AS "buyOf"`;
export const itemTables = `item i JOIN unit u ON u.id = i.unit_id LEFT JOIN category c ON c.id = i.category_id LEFT JOIN tax_code t ON t.id = i.tax_code_id
    LEFT JOIN LATERAL (SELECT * FROM item_supplier WHERE item_id = i.id ORDER BY position LIMIT 1) s ON true LEFT JOIN party p ON p.id = s.supplier_id
    LEFT JOIN LATERAL (SELECT m.code, n.numerator::numeric / n.denominator AS many FROM item_unit n JOIN unit m ON m.id = n.unit_id WHERE n.item_id = i.id AND n.buys ORDER BY n.unit_id LIMIT 1) b ON true`;
