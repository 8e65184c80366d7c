import type { FileAnswer } from '@larder/contract/endpoint';
import { neutralised } from '@larder/core/exchange/cells';
import { isDay } from '@larder/core/day';
import { refuseField } from '@larder/core/refusal';
import { csvFile } from '../../documents/csvFile';
import { forget, placeForFile } from '../../http/file';

export interface Column {
  name: string;
  /** Kept as text, so that no leading zero is lost. */
  isCode: boolean;
}

/** How many cells a workbook may have: it is held together by its end, which a text file is not. */
export const mostCells = 1_000_000;

/** A table as a file that is written while its rows come. */
export const tableFile = (list: string, format: 'csv' | 'xlsx', columns: readonly Column[], batches: AsyncIterable<string[][]>): Promise<FileAnswer> =>
  format === 'csv'
    ? csvFile(
        list,
        columns.map(({ name }) => name),
        batches,
      )
    : workbook(list, columns, batches);

async function workbook(list: string, columns: readonly Column[], batches: AsyncIterable<string[][]>): Promise<FileAnswer> {
  const name = `${list}.xlsx`;
  const path = await placeForFile();
  try {
    await writeWorkbook(path, list, columns, batches);
  } catch (error) {
    await forget(path);
    throw error;
  }
  return { type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet', name, path };
}

/** A sheet with codes as text, and numbers as numbers. */
async function writeWorkbook(path: string, list: string, columns: readonly Column[], batches: AsyncIterable<string[][]>): Promise<void> {
  // Half a second to load, and only workbooks need it.
  const { default: Excel } = await import('exceljs');
  const book = new Excel.stream.xlsx.WorkbookWriter({ filename: path, useStyles: true });
  const sheet = book.addWorksheet(list, { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.columns = columns.map(({ name, isCode }) => ({ width: Math.min(50, Math.max(10, name.length + 2)), style: isCode ? { numFmt: '@' } : {} }));
  const head = sheet.addRow(columns.map(({ name }) => neutralised(name)));
  head.font = { bold: true };
  head.commit();
  let cells = 0;
  for await (const rows of batches) {
    cells += rows.length * columns.length;
    if (cells > mostCells)
      throw refuseField(
        422,
        'too-many-cells',
        'format',
        `A workbook holds at most ${mostCells.toLocaleString('en-GB')} cells. Take fewer fields or rows, or CSV.`,
      );
    for (const row of rows) {
      const line = sheet.addRow(row.map((cell, index) => (columns[index]?.isCode ? neutralised(cell) : cellValue(cell))));
      line.eachCell((cell) => {
        if (cell.value instanceof Date) cell.numFmt = 'yyyy-mm-dd';
      });
      line.commit();
    }
  }
  sheet.commit();
  await book.commit();
}

/** Numbers as numbers and days as days; everything else as harmless text. */
function cellValue(cell: string): string | number | Date {
  if (/^-?\d{1,14}(\.\d+)?$/.test(cell)) return Number(cell);
  return isDay(cell) ? new Date(`${cell}T00:00:00Z`) : neutralised(cell);
}
