import { decimal, zero, type Decimal } from '../decimal';
import { isNumber } from '../number';

/** What a scanner counted: so many of what a code means, in a bin. */
export interface ScannedLine {
  bin: string;
  code: string;
  quantity: Decimal;
  /** Where it stands first in the file; the first line is 1. */
  line: number;
}

/** A line that says nothing that can be taken, and why. */
export interface ScannedFault {
  line: number;
  text: string;
  said: string;
}

const parts = ['bin', 'code', 'quantity'] as const;
type Part = (typeof parts)[number];

export interface ScannerFile {
  /** What each column was taken for; null is a column that means nothing here. Without columns a bin is followed by what lies in it, each line one. */
  columns: (Part | null)[] | null;
  lines: ScannedLine[];
  faults: ScannedFault[];
}

/** Words that headings have, which a column is known by. */
const headings: Readonly<Record<Part, RegExp>> = {
  bin: /^(bin|location|place|shelf|slot)\b/i,
  code: /^(code|barcode|gtin|ean|sku|item|article|product)\b/i,
  quantity: /^(quantity|qty|count|counted|pieces|pcs|units|number)\b/i,
};

/**
 * Reads what a scanner wrote: a text with bin, code and quantity on each line, in whatever order, between commas, semicolons, tabs or bars;
 * or one code on each line, a bin first and then all that lies in it. Which column is which is told by the headings, else by what stands in them:
 * bins are known (`bins`, as they are written at the site), quantities are numbers that no code of the file is. The same code in the same bin adds up.
 */
export function readScannerFile(text: string, bins: readonly string[]): ScannerFile {
  const known = new Map(bins.map((bin) => [bin.toLowerCase(), bin]));
  const rows = text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\r|\n/)
    .map((line, at) => ({ text: line, line: at + 1 }))
    .filter((row) => row.text.trim() !== '');
  const separator = separatorOf(rows.slice(0, 50).map((row) => row.text));
  if (separator === null) return oneByOne(rows, known);
  const cells = rows.map((row) => ({ ...row, cells: row.text.split(separator).map((cell) => cell.trim().replace(/^"(.*)"$/, '$1')) }));
  const [first] = cells;
  const headed = first ? partsByHeadings(first.cells) : null;
  const body = headed ? cells.slice(1) : cells;
  const columns =
    headed ??
    partsByContent(
      body.map((row) => row.cells),
      known,
    );
  return { columns, ...taken(body, columns, known) };
}

interface Row {
  text: string;
  line: number;
}

/** What most lines are divided by, when they are. */
function separatorOf(lines: readonly string[]): string | null {
  const best = [';', '\t', '|', ',']
    .map((separator) => ({ separator, many: lines.filter((line) => line.includes(separator)).length }))
    .reduce((one, other) => (other.many > one.many ? other : one));
  return best.many * 2 > lines.length ? best.separator : null;
}

function partsByHeadings(cells: readonly string[]): (Part | null)[] | null {
  const found = cells.map((cell) => parts.find((part) => headings[part].test(cell)) ?? null);
  return found.filter((part) => part !== null).length >= 2 ? found : null;
}

/** A day or a time, which scanners write beside what they read. */
const isMoment = /^(\d{4}-\d{2}-\d{2}|\d{1,2}[/.]\d{1,2}[/.]\d{2,4}|\d{1,2}:\d{2})/;

/** Which column is which, by what stands in most of its cells. */
function partsByContent(rows: readonly string[][], bins: ReadonlyMap<string, string>): (Part | null)[] {
  const width = Math.max(0, ...rows.slice(0, 200).map((row) => row.length));
  const seen = rows.slice(0, 200);
  const share = (fits: (cell: string) => boolean) => Array.from({ length: width }, (_, at) => seen.filter((row) => fits(row[at] ?? '')).length);
  /** Of columns that could be a quantity as well as a number that names something, the shorter is the quantity. */
  const shortness = (at: number) => 1 / (2 + seen.reduce((sum, row) => sum + (row[at] ?? '').length, 0));
  const columns: (Part | null)[] = Array.from({ length: width }, () => null);
  const give = (part: Part, shares: readonly number[]) => {
    const free = shares.map((many, at) => ({ many, at })).filter(({ at }) => columns[at] === null);
    const best = free.reduce<{ many: number; at: number } | null>((one, other) => (one === null || other.many > one.many ? other : one), null);
    if (best && best.many > 0) columns[best.at] = part;
  };
  give(
    'bin',
    share((cell) => bins.has(cell.toLowerCase())),
  );
  give(
    'quantity',
    share((cell) => isNumber(cell, 'quantityOrNone') && cell.length < 8).map((many, at) => (many === 0 ? 0 : many + shortness(at))),
  );
  give(
    'code',
    share((cell) => cell !== '' && !isMoment.test(cell)),
  );
  return columns;
}

/** The lines of columns, added up by bin and code, and those that cannot be taken. */
function taken(
  rows: readonly (Row & { cells: string[] })[],
  columns: readonly (Part | null)[],
  bins: ReadonlyMap<string, string>,
): Omit<ScannerFile, 'columns'> {
  const at = (part: Part) => columns.indexOf(part);
  const sums = new Map<string, ScannedLine>();
  const faults: ScannedFault[] = [];
  for (const { text, line, cells } of rows) {
    const cell = (part: Part) => (at(part) < 0 ? '' : (cells[at(part)] ?? ''));
    const quantity = at('quantity') < 0 ? '1' : cell('quantity');
    const bin = bins.get(cell('bin').toLowerCase());
    const fault =
      cell('code') === ''
        ? 'It names no item.'
        : cell('bin') === ''
          ? 'It names no bin.'
          : bin === undefined
            ? `There is no bin ${cell('bin')} here.`
            : quantity === ''
              ? 'It says no quantity.'
              : isNumber(quantity, 'quantityOrNone')
                ? null
                : `“${quantity}” is no quantity.`;
    if (fault !== null || bin === undefined) faults.push({ line, text, said: fault ?? '' });
    else add(sums, bin, cell('code'), decimal(quantity), line);
  }
  return { lines: [...sums.values()], faults };
}

/** One code on each line: a bin, and then all that lies in it. */
function oneByOne(rows: readonly Row[], bins: ReadonlyMap<string, string>): ScannerFile {
  const sums = new Map<string, ScannedLine>();
  const faults: ScannedFault[] = [];
  let bin: string | undefined;
  for (const { text, line } of rows) {
    const code = text.trim();
    const named = bins.get(code.toLowerCase());
    if (named !== undefined) bin = named;
    else if (bin === undefined) faults.push({ line, text, said: 'No bin stands before it.' });
    else add(sums, bin, code, decimal(1), line);
  }
  return { columns: null, lines: [...sums.values()], faults };
}

function add(sums: Map<string, ScannedLine>, bin: string, code: string, quantity: Decimal, line: number): void {
  const key = `${bin}\n${code.toLowerCase()}`;
  const was = sums.get(key);
  sums.set(key, { bin, code: was?.code ?? code, quantity: (was?.quantity ?? zero).plus(quantity), line: was?.line ?? line });
}
