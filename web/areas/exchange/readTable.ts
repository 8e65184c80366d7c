import { dayFormOf, decimalMarkOf, type DayForm, type DecimalMark } from '@larder/core/exchange/cells';
import { encodingOf, textOf, type Encoding } from '@larder/core/exchange/text';
import papa from 'papaparse';
import { separatorOf } from './shape';
import { unpackedSize } from './zip';

const mostUnpacked = 200_000_000;
const mostColumns = 200;
const mostRows = 50_000;

/** What was found in a file; null where it could be one thing or another, or there was nothing to tell it by. */
export interface FileFound {
  headings: string[];
  rows: number;
  sample: string[][];
  /** Columns with nothing in any row. */
  empty: boolean[];
  encoding: Encoding | null;
  separator: string | null;
  mark: DecimalMark | null;
  days: DayForm | null;
}

/** Reads a file whole: what was found in it, and its rows. Throws an Error with a sentence for the person. */
export async function readTable(buffer: ArrayBuffer, name: string, encoding?: Encoding, separator?: string): Promise<{ found: FileFound; rows: string[][] }> {
  const read = /\.xlsx$/i.test(name) ? await workbook(buffer) : csv(new Uint8Array(buffer), encoding, separator);
  const all = read.cells.filter((row) => row.some((cell) => cell.trim() !== ''));
  const [headings = [], ...rest] = all;
  if (rest.length === 0) throw new Error('The file has headings at most, and no rows.');
  if (headings.length > mostColumns) throw new Error(`The file has ${headings.length} columns; at most ${mostColumns} are read.`);
  if (rest.length > mostRows) throw new Error(`The file has ${rest.length} rows; at most 50,000 can be imported at once.`);
  const cells = rest.slice(0, 2000).flat();
  const found = {
    headings: headings.map((text) => text.trim().slice(0, 200)),
    rows: rest.length,
    sample: rest.slice(0, 5),
    empty: headings.map((_, column) => rest.every((row) => (row[column] ?? '').trim() === '')),
    encoding: read.encoding,
    separator: read.separator,
    mark: read.encoding === null ? 'point' : decimalMarkOf(cells),
    days: read.encoding === null ? 'ymd' : dayFormOf(cells),
  };
  return { found, rows: rest };
}

function csv(bytes: Uint8Array, encoding: Encoding = encodingOf(bytes), chosen?: string) {
  const text = textOf(bytes, encoding);
  const separator = chosen ?? separatorOf(text);
  const { data } = papa.parse<string[]>(text, { delimiter: separator ?? ',', skipEmptyLines: true });
  return { cells: data, encoding: encoding as Encoding | null, separator };
}

/** The first sheet; numbers and days as they are kept, not as they are shown. */
async function workbook(buffer: ArrayBuffer) {
  const size = unpackedSize(new Uint8Array(buffer));
  if (size === null) throw new Error('This is no workbook that can be opened. If it is protected by a password, save it without one.');
  if (size > mostUnpacked) throw new Error('This workbook unpacks to more than 200 MB; it is not opened.');
  const { default: Excel } = await import('exceljs');
  const book = new Excel.Workbook();
  await book.xlsx.load(buffer);
  const sheet = book.worksheets[0];
  if (!sheet) throw new Error('The workbook has no sheet.');
  const cells: string[][] = [];
  sheet.eachRow((row) => {
    const line: string[] = [];
    for (let column = 1; column <= sheet.columnCount; column += 1) line.push(cellText(row.getCell(column).value));
    cells.push(line);
  });
  return { cells, encoding: null, separator: null };
}

function cellText(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (value instanceof Date) return value.toISOString().slice(0, 10);
  if (typeof value === 'object') {
    const { result, text, richText } = value as { result?: unknown; text?: unknown; richText?: { text: string }[] };
    if (richText) return richText.map((part) => part.text).join('');
    return cellText(result ?? text);
  }
  return String(value as string | number | boolean);
}
