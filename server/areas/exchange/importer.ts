import type { CheckedRow, Known, Row } from '@larder/core/exchange/rows';
import type { Right } from '@larder/contract/rights';
import type { Act } from '../../act';
import { insertRows } from '../../db/given';
import { change } from '../../db/schema/index';

/** How one kind of file is brought in. */
export interface Importer {
  right: Right;
  /** Reads once what the rows refer to. */
  prepare(act: Act, rows: readonly Row[], fields: readonly string[]): Promise<Known>;
  /** Writes rows that are new or changed, some hundred at a time. */
  write(act: Act, rows: readonly CheckedRow[], fields: readonly string[]): Promise<void>;
}

/** Writes down what an import changed, row by row. */
export async function recordAll({ tx, by, now }: Act, kind: string, changed: readonly CheckedRow[], idOf: (row: Row) => number): Promise<void> {
  const rows = changed.flatMap(({ row, changes }) => changes.map((change) => ({ ...change, id: idOf(row) })));
  await insertRows(
    tx,
    change,
    rows.map(({ id, field, was, is }) => ({ kind, subjectId: id, at: now.toISOString(), personId: by.id, field, was, is })),
  );
}
