import type { FileAnswer } from '@larder/contract/endpoint';
import { neutralised } from '@larder/core/exchange/cells';
import papa from 'papaparse';
import { writtenFile } from '../http/file';

/** Rows as comma-separated text, in UTF-8 with its mark; no cell or heading is a formula to a spreadsheet. */
export function csvFile(name: string, headings: readonly string[], batches: AsyncIterable<string[][]> | Iterable<string[][]>): Promise<FileAnswer> {
  const lines = (rows: string[][]) =>
    `${papa.unparse(
      rows.map((row) => row.map(neutralised)),
      { newline: '\r\n' },
    )}\r\n`;
  const parts = async function* () {
    yield `\ufeff${lines([[...headings]])}`;
    for await (const rows of batches) if (rows.length > 0) yield lines(rows);
  };
  return writtenFile(`${name}.csv`, 'text/csv; charset=utf-8', parts());
}
