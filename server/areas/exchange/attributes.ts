import { attributeFault, type AttributeFacts } from '@larder/core/catalog/attribute';
import type { CheckedRow, Current, Row } from '@larder/core/formats/rows';
import type { Act } from '../../act';

type Subject = 'item' | 'unit';
const columnOf: Record<Subject, string> = { item: 'item_id', unit: 'lot_id' };
const idsOf = (fields: readonly string[]): number[] =>
  fields.filter((field) => field.startsWith('attribute ')).map((field) => Number(field.slice('attribute '.length)));

export type OwnColumn = AttributeFacts & { field: string };

/** The business's own attributes that columns stand for; what the items or lots in `there`, by id, have of them is added to what is known of each. */
export async function ownAttributes(
  { tx }: Pick<Act, 'tx'>,
  subject: Subject,
  fields: readonly string[],
  there: ReadonlyMap<number, Current>,
): Promise<OwnColumn[]> {
  const ids = idsOf(fields);
  if (ids.length === 0) return [];
  const column = columnOf[subject];
  const values = await tx.rows<{ attributeId: number; id: number; value: string }>(
    `SELECT attribute_id AS "attributeId", ${column} AS id, value FROM attribute_value WHERE attribute_id = ANY($1) AND ${column} = ANY($2)`,
    [ids, [...there.keys()]],
  );
  for (const { attributeId, id, value } of values) {
    const known = there.get(id);
    if (known) known[`attribute ${attributeId}`] = value;
  }
  const rows = await tx.rows<AttributeFacts>('SELECT id, name, kind, choices FROM attribute WHERE subject = $1 AND id = ANY($2)', [subject, ids]);
  return rows.map((row) => ({ ...row, field: `attribute ${row.id}` }));
}

/** What is wrong with a row's own attributes. */
export const ownFaults = (own: readonly OwnColumn[], row: Row): string[] =>
  own.flatMap((attribute) => (row[attribute.field] ? (attributeFault(attribute, row[attribute.field] ?? '') ?? []) : []));

/** Writes the own attributes that columns give; an empty cell takes the value away. */
export async function writeOwn(
  { tx }: Act,
  subject: Subject,
  checked: readonly CheckedRow[],
  fields: readonly string[],
  idOf: (row: Row) => number,
): Promise<void> {
  const column = columnOf[subject];
  for (const attributeId of idsOf(fields)) {
    const rows = checked.map(({ row }) => ({ id: idOf(row), value: row[`attribute ${attributeId}`] ?? '' }));
    await tx.rows(`DELETE FROM attribute_value WHERE attribute_id = $1 AND ${column} = ANY($2)`, [attributeId, rows.map(({ id }) => id)]);
    const given = rows.filter(({ value }) => value !== '');
    await tx.rows(`INSERT INTO attribute_value (attribute_id, ${column}, value) SELECT $1, * FROM unnest($2::int[], $3::text[])`, [
      attributeId,
      given.map(({ id }) => id),
      given.map(({ value }) => value),
    ]);
  }
}
