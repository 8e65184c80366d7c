import { attributeFault, type AttributeFacts } from '@larder/core/catalog/attribute';
import type { CheckedRow, Current, Row } from '@larder/core/exchange/rows';
import { and, eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, insertRows } from '../../db/given';
import { attribute, attributeValue } from '../../db/schema/index';

type Subject = 'item' | 'unit';
const columnOf = { item: attributeValue.itemId, unit: attributeValue.lotId };
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
  const values = await tx.db
    .select({ attributeId: attributeValue.attributeId, id: sql<number>`${column}`, value: attributeValue.value })
    .from(attributeValue)
    .where(and(among(attributeValue.attributeId, ids), among(column, [...there.keys()])));
  for (const { attributeId, id, value } of values) {
    const known = there.get(id);
    if (known) known[`attribute ${attributeId}`] = value;
  }
  const rows = await tx.db
    .select({ id: attribute.id, name: attribute.name, kind: attribute.kind, choices: attribute.choices })
    .from(attribute)
    .where(and(eq(attribute.subject, subject), among(attribute.id, ids)));
  return rows.map((row) => ({ ...row, field: `attribute ${row.id}` }));
}

/** What is wrong with a row's own attributes. */
export const ownFaults = (own: readonly OwnColumn[], row: Row): string[] =>
  own.flatMap((column) => (row[column.field] ? (attributeFault(column, row[column.field] ?? '') ?? []) : []));

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
    const ids = rows.map(({ id }) => id);
    await tx.db.delete(attributeValue).where(and(eq(attributeValue.attributeId, attributeId), among(column, ids)));
    await insertRows(
      tx,
      attributeValue,
      rows.filter(({ value }) => value !== '').map(({ id, value }) => ({ attributeId, value, ...(subject === 'item' ? { itemId: id } : { lotId: id }) })),
    );
  }
}
