import type * as contract from '@larder/contract/stock';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';
import { everyWord, keyset, paged, Values, whereAll, type SortColumn } from '../../db/page';

type LotQuery = QueryOf<typeof contract.listLots>;

const sorts: Record<LotQuery['sort'], SortColumn> = {
  code: { sql: 'lower(l.code)', type: 'text' },
  sku: { sql: 'lower(i.sku)', type: 'text' },
  useBy: { sql: `coalesce(l.use_by, '9999-12-31')`, type: 'date' },
  warrantyUntil: { sql: `coalesce(l.warranty_until, '9999-12-31')`, type: 'date' },
};

/** What lots and serial units are found by. */
export const lotWords = `lower(l.code || ' ' || coalesce(l.tag, '') || ' ' || i.sku || ' ' || i.name || ' ' || l.condition)`;

/** Where some of a lot lies, in places of ours. */
const here = (more = ''): string =>
  `EXISTS (SELECT 1 FROM balance b JOIN place p ON p.id = b.place_id WHERE b.item_id = l.item_id AND b.lot_id = l.id AND b.quantity > 0 AND p.owned ${more})`;

const states: Record<LotQuery['state'], string[]> = { here: [here()], past: ['l.past_use', here()], gone: [`NOT ${here()}`], all: [] };

/** Conditions of a list of lots; `l` is the lot, `i` its item. */
export function lotConditions(values: Values, query: Omit<LotQuery, 'sort' | 'direction' | 'limit' | 'cursor'>): string[] {
  const where = [...everyWord(values, lotWords, query.q), ...states[query.state]];
  if (query.kind !== undefined) where.push(`l.kind = ${values.add(query.kind)}`);
  if (query.itemId !== undefined) where.push(`l.item_id = ${values.add(query.itemId)}`);
  if (query.siteId !== undefined && query.state !== 'gone') where.push(here(`AND p.site_id = ${values.add(query.siteId)}`));
  if (query.attributeId !== undefined) {
    const value = query.attributeValue ? ` AND lower(a.value) = lower(${values.add(query.attributeValue)})` : '';
    where.push(`EXISTS (SELECT 1 FROM attribute_value a WHERE a.lot_id = l.id AND a.attribute_id = ${values.add(query.attributeId)}${value})`);
  }
  return where;
}

/** Lots and serial units, each with how much of it is here and where. */
export async function lots({ tx }: Act, query: LotQuery): Promise<ResponseOf<typeof contract.listLots>> {
  const values = new Values();
  const where = lotConditions(values, query);
  const sort = sorts[query.sort];
  const page = keyset(values, sort, 'l.id', query);
  const rows = await tx.rows<contract.LotRow & { cursor: string; cursorId: number }>(
    `SELECT l.id, l.item_id AS "itemId", i.sku, i.name, l.kind, l.code, l.tag, l.use_by AS "useBy", l.past_use AS "pastUse", l.condition, l.bought_on AS "boughtOn", l.warranty_until AS "warrantyUntil",
      coalesce(x.quantity, 0)::text AS quantity, coalesce(x.places, '') AS where, (SELECT coalesce(json_object_agg(attribute_id, value), '{}') FROM attribute_value WHERE lot_id = l.id) AS attributes,
      ${sort.sql}::text AS cursor, l.id AS "cursorId"
     FROM lot l JOIN item i ON i.id = l.item_id LEFT JOIN LATERAL (
       SELECT trim_scale(sum(b.quantity)) AS quantity, string_agg(concat_ws(' ', s.name, p.code), ', ' ORDER BY b.quantity DESC) AS places
       FROM balance b JOIN place p ON p.id = b.place_id LEFT JOIN site s ON s.id = p.site_id WHERE b.item_id = l.item_id AND b.lot_id = l.id AND b.quantity > 0 AND p.owned) x ON true
     ${whereAll([...where, ...page.where])} ${page.order}`,
    values.list,
  );
  return paged(rows, query.limit) as ResponseOf<typeof contract.listLots>;
}
