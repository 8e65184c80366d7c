import type * as contract from '@larder/contract/families';
import type { QueryOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import type { Act } from '../../act';
import { everyWord, Values, whereAll } from '../../db/page';

const columns = `f.id, f.name, f.code, ARRAY(SELECT axis_name FROM family_value WHERE family_id = f.id GROUP BY axis, axis_name ORDER BY axis) AS axes, x.members, x.on_hand AS "onHand", x.free, f.retired_at IS NOT NULL AS retired`;
const tables = `FROM family f CROSS JOIN LATERAL (SELECT count(*)::int AS members, trim_scale(coalesce(sum(p.on_hand), 0)) AS on_hand, trim_scale(coalesce(sum(p.free), 0)) AS free FROM item i JOIN pool p ON p.item_id = i.id WHERE i.family_id = f.id) x`;

export async function families({ tx }: Act, query: QueryOf<typeof contract.listFamilies>): Promise<contract.FamilyRow[]> {
  const values = new Values();
  const where = everyWord(values, `lower(f.name || ' ' || f.code)`, query.q);
  if (query.life !== 'all') where.push(`f.retired_at IS ${query.life === 'active' ? '' : 'NOT '}NULL`);
  return tx.rows(`SELECT ${columns} ${tables} ${whereAll(where)} ORDER BY lower(f.name) LIMIT 500`, values.list);
}

export async function family({ tx }: Act, id: number): Promise<contract.Family> {
  const [row] = await tx.rows<contract.Family>(
    `SELECT ${columns}, f.version, f.description, f.category_id AS "categoryId", f.unit_id AS "unitId", f.brand, f.tax_code_id AS "taxCodeId", f.returnable, f.sku_pattern AS "skuPattern",
      (SELECT json_agg(json_build_object('name', a.axis_name, 'values', a.list) ORDER BY a.axis) FROM (
        SELECT axis, axis_name, json_agg(json_build_object('id', id, 'name', name, 'code', code) ORDER BY position, id) AS list FROM family_value WHERE family_id = f.id GROUP BY axis, axis_name) a) AS "axisValues",
      (SELECT coalesce(json_agg(json_build_object('itemId', i.id, 'sku', i.sku, 'name', i.name, 'valueIds', array_remove(ARRAY[i.value_1_id, i.value_2_id, i.value_3_id], NULL), 'onHand', trim_scale(p.on_hand)::text, 'free', trim_scale(p.free)::text,
          'salesPrice', trim_scale(i.sales_price)::text, 'purchasePrice', trim_scale(i.purchase_price)::text, 'ownFacts', i.own_facts, 'retired', i.retired_at IS NOT NULL) ORDER BY v1.position, v2.position, v3.position, i.id), '[]')
        FROM item i JOIN pool p ON p.item_id = i.id LEFT JOIN family_value v1 ON v1.id = i.value_1_id LEFT JOIN family_value v2 ON v2.id = i.value_2_id LEFT JOIN family_value v3 ON v3.id = i.value_3_id WHERE i.family_id = f.id) AS list
     ${tables} WHERE f.id = $1`,
    [id],
  );
  if (!row) throw new Refusal(404, 'not-found', 'There is no such family.');
  return row;
}
