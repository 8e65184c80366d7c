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
    const axes = new Map<string, string>();
    return {
      current: (row) => there.get(lower(row.sku)),
      faults: (row) => {
        const named = [1, 2, 3].map((n) => lower(row[`axis${n}`])).join('/');
        const before = axes.get(lower(row.family));
        axes.set(lower(row.family), before ?? named);
        return [
          ...missing(items, row.sku, 'item'),
          ...(before !== undefined && before !== named ? [`Other rows of ${row.family ?? ''} have other axes.`] : []),
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
