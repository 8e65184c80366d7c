import { readDay, readNumber, type DayForm, type DecimalMark } from '@larder/core/exchange/cells';
import type { ExchangeField } from '@larder/core/exchange/exchange';

const mostBytes = 20_000_000;

/** Why a file is not even opened, or null. */
export function fileFault({ name, size }: { name: string; size: number }): string | null {
  if (!/\.(csv|txt|tsv|xlsx)$/i.test(name)) return 'Give a CSV or XLSX file.';
  if (size > mostBytes) return `The file has ${Math.ceil(size / 1_000_000)} MB; at most 20 MB are read.`;
  return size === 0 ? 'The file is empty.' : null;
}

/** How the cells of a file are to be read. */
export interface Reading {
  /** Field of each column, null for columns left out. */
  fields: (string | null)[];
  kinds: (ExchangeField['kind'] | null)[];
  mark: DecimalMark;
  days: DayForm;
}

/** Rows with numbers and days in their one written form. What cannot be read stays as it is, for the dry run to refuse by its line. */
export const shapedRows = (rows: readonly (readonly string[])[], { fields, kinds, mark, days }: Reading): string[][] =>
  rows.map((row) =>
    fields.map((field, index) => {
      const cell = (row[index] ?? '').trim();
      if (field === null || cell === '') return '';
      if (kinds[index] === 'number') return readNumber(cell, mark) ?? cell;
      if (kinds[index] === 'day') return readDay(cell, days) ?? cell;
      return row[index] ?? '';
    }),
  );

/** Separators a file may have, by how often each stands in its lines outside quotes. Null when none is in every line. */
export function separatorOf(text: string): string | null {
  const lines = text
    .slice(0, 20_000)
    .replace(/"[^"]*"/g, '')
    .split(/\r?\n/)
    .slice(0, 20)
    .filter((line) => line.trim() !== '');
  const counts = [',', ';', '\t', '|'].map((mark) => ({ mark, least: Math.min(...lines.map((line) => line.split(mark).length - 1)) }));
  const best = counts.sort((a, b) => b.least - a.least)[0];
  return best && best.least > 0 ? best.mark : null;
}
