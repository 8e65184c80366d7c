import { isNumber } from '../number';
import { parseLineEntry } from './lineEntry';

/** A line pasted from a spreadsheet: which code, and how many. */
export interface PastedLine {
  code: string;
  quantity: string;
}

/** A number as people write it in a spreadsheet: "1,200" and "12." are numbers, too. */
const asNumber = (cell: string): string | null => {
  const plain = cell.replace(/,(?=\d{3}(?:\D|$))/g, '').replace(/\.0*$/, '');
  return isNumber(plain, 'quantity') ? plain : null;
};

/**
 * Reads a block of cells as lines of a document. With one column each cell is a line as it would be typed; else the column that holds nothing but numbers is how many, the shortest where several do,
 * and the first other column that is filled is the code. Heads of columns are left out, and so are empty rows; where nothing says how many, it is one.
 */
export function readPastedLines(block: readonly (readonly string[])[]): PastedLine[] {
  const rows = block.map((row) => row.map((cell) => cell.trim())).filter((row) => row.some((cell) => cell !== ''));
  const columns = Math.max(0, ...rows.map((row) => row.length));
  if (columns <= 1)
    return rows.flatMap(([cell = '']) => {
      const entry = parseLineEntry(cell);
      return entry ? [{ code: entry.words, quantity: entry.quantity }] : [];
    });
  const body = rows.length > 1 && isHead(rows) ? rows.slice(1) : rows;
  const cellsOf = (column: number) => body.map((row) => row[column] ?? '');
  const numbers = Array.from({ length: columns }, (_, column) => column).filter((column) => cellsOf(column).every((cell) => asNumber(cell) !== null));
  const lengthOf = (column: number) => cellsOf(column).reduce((sum, cell) => sum + cell.length, 0);
  const [many] = [...numbers].sort((a, b) => lengthOf(a) - lengthOf(b));
  return body.flatMap((row) => {
    const code = row.find((cell, column) => column !== many && cell !== '');
    return code === undefined ? [] : [{ code, quantity: (many === undefined ? null : asNumber(row[many] ?? '')) ?? '1' }];
  });
}

/** Whether the first row names the columns: it has no number where all rows below have one. */
function isHead(rows: readonly (readonly string[])[]): boolean {
  const [first = [], ...others] = rows;
  return first.some((cell, column) => asNumber(cell) === null && others.every((row) => asNumber(row[column] ?? '') !== null));
}
