import type { Act } from '../../act';
import { lower } from './importer';

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
