import type { CheckedRow, Known, Row } from '@larder/core/formats/rows';
import type { Right } from '@larder/contract/rights';
import type { Act } from '../../act';

/** How one kind of file is brought in. */
export interface Importer {
  right: Right;
  /** Reads once what the rows refer to. */
  prepare(act: Act, rows: readonly Row[], fields: readonly string[]): Promise<Known>;
  /** Writes rows that are new or changed, some hundred at a time. */
  write(act: Act, rows: readonly CheckedRow[], fields: readonly string[]): Promise<void>;
}

/** Rows as one JSON list, for a statement to take apart. */
export const json = (rows: readonly CheckedRow[]): string => JSON.stringify(rows.map(({ row }) => row));

/** Writes down what an import changed, row by row. */
export async function recordAll({ tx, by, now }: Act, kind: string, changed: readonly CheckedRow[], idOf: (row: Row) => number): Promise<void> {
  const rows = changed.flatMap(({ row, changes }) => changes.map((change) => ({ ...change, id: idOf(row) })));
  if (rows.length === 0) return;
  await tx.rows(
    'INSERT INTO change (kind, subject_id, at, person_id, field, was, "is") SELECT $1, x.id, $2, $3, x.field, to_jsonb(x.was), to_jsonb(x.now) FROM unnest($4::int[], $5::text[], $6::text[], $7::text[]) x(id, field, was, now)',
    [kind, now.toISOString(), by.id, rows.map((r) => r.id), rows.map((r) => r.field), rows.map((r) => r.was), rows.map((r) => r.is)],
  );
}
