import type * as contract from '@larder/contract/setup';
import type { Asked, ResponseOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';
import { everyWord, Values, whereAll } from '../../db/page';

export async function reference({ tx, today }: Act): Promise<ResponseOf<typeof contract.reference>> {
  const [row] = await tx.rows<ResponseOf<typeof contract.reference>>(
    `SELECT (SELECT coalesce(json_agg(json_build_object('id', id, 'code', code, 'name', name) ORDER BY id), '[]') FROM site WHERE retired_at IS NULL) AS sites,
      (SELECT coalesce(json_agg(json_build_object('id', id, 'code', code, 'name', name, 'step', trim_scale(step)::text) ORDER BY id), '[]') FROM unit) AS units,
      (SELECT coalesce(json_agg(json_build_object('id', id, 'name', name, 'inventoryAccountId', inventory_account_id, 'costAccountId', cost_account_id) ORDER BY name), '[]') FROM category) AS categories,
      (SELECT coalesce(json_agg(json_build_object('id', id, 'code', code, 'name', name) ORDER BY id), '[]') FROM reason WHERE retired_at IS NULL) AS reasons,
      (SELECT coalesce(json_agg(json_build_object('id', t.id, 'code', t.code, 'name', t.name, 'rate', trim_scale(r.rate)::text) ORDER BY t.id), '[]') FROM tax_code t
        JOIN LATERAL (SELECT rate FROM tax_rate WHERE tax_code_id = t.id AND from_day <= $1 ORDER BY from_day DESC LIMIT 1) r ON true) AS taxes,
      (SELECT ship_days FROM company) AS "shipDays"`,
    [today],
  );
  return row as ResponseOf<typeof contract.reference>;
}

type BinQuery = { siteId?: number | undefined; q?: string | undefined; ids?: number[]; retired?: 'without' | 'with' };

export async function bins({ tx }: Act, query: BinQuery): Promise<contract.Bin[]> {
  const values = new Values();
  const where = [
    `p.kind = 'bin'`,
    ...(query.retired === 'with' ? [] : ['p.retired_at IS NULL']),
    ...everyWord(values, `lower(p.code || ' ' || p.zone)`, query.q),
  ];
  if (query.siteId !== undefined) where.push(`p.site_id = ${values.add(query.siteId)}`);
  if (query.ids) where.push(`p.id = ANY(${values.add(query.ids)})`);
  return tx.rows(
    `SELECT p.id, p.site_id AS "siteId", s.name AS "siteName", p.code, p.sellable, p.unplaced, p.zone, p.walk, p.retired_at IS NOT NULL AS retired, (SELECT count(DISTINCT item_id)::int FROM balance b WHERE b.place_id = p.id AND b.quantity <> 0) AS items FROM place p JOIN site s ON s.id = p.site_id ${whereAll(where)} ORDER BY p.site_id, p.unplaced, p.walk, p.code LIMIT 5000`,
    values.list,
  );
}

export async function parties({ tx }: Act, query: NonNullable<Asked<typeof contract.listParties>['query']> & { id?: number }): Promise<contract.Party[]> {
  const values = new Values();
  const where = ['retired_at IS NULL', ...everyWord(values, 'lower(name)', query.q)];
  if (query.as) where.push(query.as === 'supplier' ? 'is_supplier' : 'is_customer');
  if (query.id !== undefined) where.push(`id = ${values.add(query.id)}`);
  return tx.rows(
    `SELECT id, name, is_supplier AS "isSupplier", is_customer AS "isCustomer", email, address, lead_days AS "leadDays", tax_code_id AS "taxCodeId", version FROM party ${whereAll(where)} ORDER BY lower(name) LIMIT ${values.add(query.limit ?? 500)}`,
    values.list,
  );
}
