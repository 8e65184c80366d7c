import { proposedPattern, shortCode } from '@larder/core/catalog/family';
import { byName, lower, type Current, type Row } from '@larder/core/formats/rows';
import type { Act } from '../../act';
import { ownFacts } from '../catalog/service';
import type { Importer } from './importer';
import { itemsMeant, missing } from './references';

/** Members of families: the family and its values are made as they are met; the items must be there. */
export const families: Importer = {
  right: 'items.edit',
  async prepare(act, rows) {
    const items = await itemsMeant(
      act,
      rows.map((row) => row.sku ?? ''),
    );
    const there = byName(
      await act.tx.rows<Current>(
        `SELECT i.sku, f.name AS family, coalesce(v1.axis_name, '') AS axis1, coalesce(v1.name, '') AS value1, coalesce(v2.axis_name, '') AS axis2, coalesce(v2.name, '') AS value2, coalesce(v3.axis_name, '') AS axis3, coalesce(v3.name, '') AS value3
         FROM item i JOIN family f ON f.id = i.family_id LEFT JOIN family_value v1 ON v1.id = i.value_1_id LEFT JOIN family_value v2 ON v2.id = i.value_2_id LEFT JOIN family_value v3 ON v3.id = i.value_3_id WHERE i.id = ANY($1)`,
        [[...items.values()]],
      ),
      ({ sku }) => sku ?? '',
    );
    // The axes each family has, and which member has which values: those that are there, and those of the rows before.
    const families = await act.tx.rows<{ family: string; axes: string; members: { sku: string; values: string }[] }>(
      `SELECT lower(f.name) AS family,
         (SELECT string_agg(coalesce(a.name, ''), '/' ORDER BY n) FROM generate_series(1, 3) n LEFT JOIN LATERAL (SELECT lower(axis_name) AS name FROM family_value WHERE family_id = f.id AND axis = n LIMIT 1) a ON true) AS axes,
         (SELECT coalesce(json_agg(json_build_object('sku', i.sku, 'values', lower(concat_ws('/', coalesce(v1.name, ''), coalesce(v2.name, ''), coalesce(v3.name, ''))))), '[]') FROM item i LEFT JOIN family_value v1 ON v1.id = i.value_1_id LEFT JOIN family_value v2 ON v2.id = i.value_2_id LEFT JOIN family_value v3 ON v3.id = i.value_3_id WHERE i.family_id = f.id) AS members
       FROM family f WHERE lower(f.name) = ANY($1)`,
      [rows.map((row) => lower(row.family))],
    );
    const axes = new Map(families.map((one) => [one.family, one.axes]));
    const members = new Map<string, string>(families.flatMap((one) => one.members.map(({ sku, values }) => [`${one.family}: ${values}`, sku] as const)));
    return {
      current: (row) => there.get(lower(row.sku)),
      faults: (row) => {
        const named = [1, 2, 3].map((n) => lower(row[`axis${n}`])).join('/');
        const before = axes.get(lower(row.family));
        axes.set(lower(row.family), before ?? named);
        const combination = `${lower(row.family)}: ${[1, 2, 3].map((n) => lower(row[`value${n}`])).join('/')}`;
        const other = members.get(combination);
        if (other === undefined) members.set(combination, row.sku ?? '');
        return [
          ...missing(items, row.sku, 'item'),
          ...(before !== undefined && before !== named ? [`${row.family ?? ''} has other axes: ${before.split('/').filter(Boolean).join(', ')}.`] : []),
          ...(other !== undefined && lower(other) !== lower(row.sku) ? [`${other} has these values of ${row.family ?? ''} already.`] : []),
          ...[2, 3].flatMap((n) => (Boolean(row[`axis${n}`]) === Boolean(row[`value${n}`]) ? [] : [`Axis ${n} and its value belong together.`])),
          ...(there.has(lower(row.sku)) && lower(there.get(lower(row.sku))?.family) !== lower(row.family)
            ? [`${row.sku ?? ''} belongs to ${there.get(lower(row.sku))?.family ?? ''} already; take it out there first.`]
            : []),
        ];
      },
    };
  },
  async write(act, checked) {
    const items = await itemsMeant(
      act,
      checked.map(({ row }) => row.sku ?? ''),
    );
    for (const { row } of checked) await putIntoFamily(act, row, items.get(lower(row.sku)) as number);
    await ownFacts(
      act,
      checked.map(({ row }) => items.get(lower(row.sku)) as number),
    );
  },
};

async function putIntoFamily({ tx }: Act, row: Row, itemId: number): Promise<void> {
  const axes = [1, 2, 3].flatMap((n) => (row[`axis${n}`] ? [{ axis: n, name: row[`axis${n}`] ?? '', value: row[`value${n}`] ?? '' }] : []));
  const [family] = await tx.rows<{ id: number }>('SELECT id FROM family WHERE lower(name) = lower($1)', [row.family]);
  const familyId =
    family?.id ??
    (
      await tx.rows<{ id: number }>(
        'INSERT INTO family (name, code, sku_pattern, unit_id, category_id) SELECT $1, $2, $3, unit_id, category_id FROM item WHERE id = $4 RETURNING id',
        [row.family, shortCode(row.family ?? '') || 'FAM', proposedPattern(axes), itemId],
      )
    )[0]?.id;
  const values: (number | null)[] = [null, null, null];
  for (const { axis, name, value } of axes) {
    const [known] = await tx.rows<{ id: number }>('SELECT id FROM family_value WHERE family_id = $1 AND axis = $2 AND lower(name) = lower($3)', [
      familyId,
      axis,
      value,
    ]);
    values[axis - 1] =
      known?.id ??
      (
        await tx.rows<{ id: number }>(
          'INSERT INTO family_value (family_id, axis, axis_name, position, name, code) SELECT $1, $2, $3, coalesce(max(position), 0) + 1, $4, $5 FROM family_value WHERE family_id = $1 AND axis = $2 RETURNING id',
          [familyId, axis, name, value, shortCode(value) || value],
        )
      )[0]?.id ??
      null;
  }
  await tx.rows('UPDATE item SET family_id = $2, value_1_id = $3, value_2_id = $4, value_3_id = $5, version = version + 1 WHERE id = $1', [
    itemId,
    familyId,
    ...values,
  ]);
}
