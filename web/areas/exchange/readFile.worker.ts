import { dayFormOf, decimalMarkOf, type DayForm, type DecimalMark } from '@larder/core/formats/cells';
import { encodingOf, textOf, type Encoding } from '@larder/core/formats/text';
import papa from 'papaparse';
import { unpackedSize } from './zip';
import { separatorOf, shapedRows, type Reading } from './shape';

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

export type Ask =
  { id: number; open: ArrayBuffer; name: string; encoding?: Encoding | undefined; separator?: string | undefined } | { id: number; shape: Reading };
export type Answer = { id: number; found: FileFound } | { id: number; rows: string[][] } | { id: number; fault: string };

const mostUnpacked = 200_000_000;
let rows: string[][] = [];

self.onmessage = async ({ data }: MessageEvent<Ask>) => {
  const answer = (given: Answer) => self.postMessage(given);
  try {
    if ('shape' in data) answer({ id: data.id, rows: shapedRows(rows, data.shape) });
    else answer({ id: data.id, found: await open(data) });
  } catch (error) {
    answer({ id: data.id, fault: error instanceof Error ? error.message : 'The file could not be read.' });
  }
};

async function open({ open: buffer, name, encoding, separator }: Extract<Ask, { open: ArrayBuffer }>): Promise<FileFound> {
  const read = /\.xlsx$/i.test(name) ? await workbook(buffer) : csv(new Uint8Array(buffer), encoding, separator);
  const all = read.cells.filter((row) => row.some((cell) => cell.trim() !== ''));
  const [headings = [], ...rest] = all;
  if (rest.length === 0) throw new Error('The file has headings at most, and no rows.');
  if (headings.length > 200) throw new Error(`The file has ${headings.length} columns; at most 200 are read.`);
  if (rest.length > 50_000) throw new Error(`The file has ${rest.length} rows; at most 50,000 can be brought in at once.`);
  rows = rest;
  const cells = rest.slice(0, 2000).flat();
  return {
    headings: headings.map((text) => text.trim().slice(0, 200)),
    rows: rest.length,
    sample: rest.slice(0, 5),
    empty: headings.map((_, column) => rest.every((row) => (row[column] ?? '').trim() === '')),
    encoding: read.encoding,
    separator: read.separator,
    mark: read.encoding === null ? 'point' : decimalMarkOf(cells),
    days: read.encoding === null ? 'ymd' : dayFormOf(cells),
  };
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
