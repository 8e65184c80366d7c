import { isNumber } from '../number';
import { isDay } from '../day';
import { decimal } from '../decimal';
import { readFlag, type ExchangeKind } from './exchange';

/** A row of a file by field; fields that no column gives are not there. */
export type Row = Record<string, string>;

/** What is there already for a row, in the same words as the file's. */
export type Current = Record<string, string>;

export type RowStatus = 'new' | 'changed' | 'same' | 'refused';

/** A row on its way: how it was read, what is wrong with it, and what it would change. */
export interface CheckedRow {
  /** Line of the file; the headings are line 1. */
  line: number;
  status: RowStatus;
  /** What it is told apart by. */
  key: string;
  reasons: string[];
  changes: { field: string; was: string; is: string }[];
  row: Row;
}

/** What is known where the rows will be written. */
export interface Known {
  current: (row: Row) => Current | undefined;
  /** What is wrong with a row beyond the form of its cells. */
  faults: (row: Row) => string[];
  /** Spellings that mean the same, such as a category's own capitals. */
  spelled?: (row: Row) => Row;
  /** A row that is there already is refused instead of changed. */
  onlyNew?: boolean;
}

/** Reads rows into their states: the form of each cell, then what is known of it, then what would change. `own` are further fields, with their names; `each` hears how many are read. */
export function checkRows(
  kind: ExchangeKind,
  known: Known,
  rows: readonly Row[],
  own: ReadonlyMap<string, string>,
  each?: (done: number) => void,
): CheckedRow[] {
  const seen = new Map<string, number>();
  return rows.map((given, index): CheckedRow => {
    each?.(index + 1);
    const line = index + 2;
    const reasons = formFaults(kind, given, own);
    const row = reasons.length === 0 ? { ...plainRow(kind, given), ...known.spelled?.(plainRow(kind, given)) } : given;
    const key = keyOf(kind.by.map((name) => row[name] ?? ''));
    if (reasons.length === 0) reasons.push(...known.faults(row));
    const twice = seen.get(key.toLowerCase());
    if (twice !== undefined) reasons.push(`The same as line ${twice}.`);
    else seen.set(key.toLowerCase(), line);
    const current = reasons.length > 0 ? undefined : known.current(row);
    if (current && known.onlyNew) reasons.push('This is there already.');
    if (reasons.length > 0) return { line, status: 'refused', key, reasons, changes: [], row };
    const names = new Map([...kind.fields.map(({ key: name, name: said }) => [name, said] as const), ...own]);
    const changes = Object.entries(row)
      .filter(([name, is]) => current !== undefined && (current[name] ?? '') !== is)
      .map(([name, is]) => ({ field: names.get(name) ?? name, was: current?.[name] ?? '', is }));
    return { line, status: current === undefined ? 'new' : changes.length > 0 ? 'changed' : 'same', key, reasons, changes, row };
  });
}

/** The parts a row is told apart by, without those left empty at the end. */
const keyOf = (parts: readonly string[]): string => parts.slice(0, parts.findLastIndex((part) => part !== '') + 1).join(' / ');

/** What is wrong with the form of a row's cells. */
function formFaults(kind: ExchangeKind, row: Row, own: ReadonlyMap<string, string>): string[] {
  const unknown = Object.keys(row).filter((name) => !kind.fields.some(({ key }) => key === name) && !own.has(name));
  const faults = unknown.map((name) => `There is no field ${name}.`);
  for (const { key, name, kind: form, needed } of kind.fields) {
    const text = row[key]?.trim();
    if (text === undefined || text === '') {
      if (needed) faults.push(`${name} is missing.`);
      continue;
    }
    if (/[^\P{Cc}\n\r\t]/u.test(text)) faults.push(`${name} holds characters that cannot be kept.`);
    if (form === 'number' && !isNumber(text, 'price')) faults.push(`${name} is no number above zero: “${text}”.`);
    if (form === 'day' && !isDay(text)) faults.push(`${name} is no day: “${text}”.`);
    if (form === 'flag' && readFlag(text) === null) faults.push(`${name} is yes or no, not “${text}”.`);
    if (form === 'code' && text.length > 60) faults.push(`${name} has more than 60 characters.`);
    if (form === 'text' && text.length > (['description', 'notes', 'address'].includes(key) ? 2000 : 200)) faults.push(`${name} is too long.`);
  }
  return faults;
}

/** Cells in the one form they are compared and kept in. */
const plainRow = (kind: ExchangeKind, row: Row): Row =>
  Object.fromEntries(
    Object.entries(row).map(([name, text]) => {
      const form = kind.fields.find(({ key }) => key === name)?.kind;
      const cell = text.trim();
      if (form === 'number') return [name, cell === '' ? '' : decimal(cell).toFixed()];
      if (form === 'flag') return [name, readFlag(cell) ? 'yes' : 'no'];
      return [name, cell];
    }),
  );

/** Names by their lower-case spelling. */
export function byName<T>(rows: readonly T[], nameOf: (row: T) => string): Map<string, T> {
  return new Map(rows.map((row) => [nameOf(row).toLowerCase(), row]));
}
export const lower = (text: string | undefined): string => (text ?? '').trim().toLowerCase();
