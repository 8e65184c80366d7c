import { isDay } from '@larder/core/day';
import { isWellFormed } from '@larder/core/formats/text';
import { Refusal } from '@larder/core/refusal';

/** A column that a list can be sorted by: its SQL and type. Nulls must be coalesced. */
export interface SortColumn {
  sql: string;
  type: 'text' | 'numeric' | 'date' | 'timestamptz';
}

/** Collects the values of a statement as its text is written: `value(x)` gives the placeholder. */
export class Values {
  readonly list: unknown[] = [];
  add(value: unknown): string {
    this.list.push(value);
    return `$${this.list.length}`;
  }
}

interface Paged {
  limit: number;
  cursor?: string | undefined;
  direction: 'up' | 'down';
}

export interface PageSql {
  where: string[];
  order: string;
  /** The same order by other SQL for the sort's value, and of another length. */
  orderBy: (sql: string, most?: number) => string;
}

/** The conditions and order of one page of a list sorted by `sort`, ties by `id`: pages continue where the last row was. */
export function keyset(values: Values, sort: SortColumn, id: string, { limit, cursor, direction }: Paged): PageSql {
  const after = cursor === undefined ? null : readCursor(cursor, sort.type);
  const sign = direction === 'up' ? '>' : '<';
  const way = direction === 'up' ? 'ASC' : 'DESC';
  const length = values.add(limit + 1);
  const orderBy = (sql: string, most: number | string = length) => `ORDER BY ${sql} ${way}, ${id} ${way} LIMIT ${most}`;
  return {
    where: after ? [`(${sort.sql}, ${id}) ${sign} (${values.add(after[0])}::${sort.type}, ${values.add(after[1])}::bigint)`] : [],
    order: orderBy(sort.sql),
    orderBy,
  };
}

/** Cuts the extra row off and says where the next page begins. Rows carry their sort value as `cursor`. */
export function paged<T extends { cursor: string; cursorId: number }>(
  rows: T[],
  limit: number,
): { rows: Omit<T, 'cursor' | 'cursorId'>[]; next: string | null } {
  const last = rows.length > limit ? rows[limit - 1] : undefined;
  return {
    rows: rows.slice(0, limit).map(({ cursor: _cursor, cursorId: _id, ...row }) => row),
    next: last ? Buffer.from(JSON.stringify([last.cursor, last.cursorId])).toString('base64url') : null,
  };
}

/** Whether a text is a value of a column, as PostgreSQL writes it. */
const isOf: Record<SortColumn['type'], (text: string) => boolean> = {
  text: (text) => !text.includes('\u0000') && isWellFormed(text),
  numeric: (text) => /^-?\d{1,20}(\.\d{1,20})?$/.test(text),
  date: (text) => isDay(text) || /^-?infinity$/.test(text),
  timestamptz: (text) =>
    /^-?infinity$/.test(text) || (isDay(text.slice(0, 10)) && /^[T ]\d{2}:\d{2}:\d{2}(\.\d{1,6})?(Z|[+-]\d{2}(:\d{2})?)$/.test(text.slice(10))),
};

function readCursor(cursor: string, type: SortColumn['type']): [string, number] {
  try {
    const read: unknown = JSON.parse(Buffer.from(cursor, 'base64url').toString());
    if (Array.isArray(read) && typeof read[0] === 'string' && isOf[type](read[0]) && Number.isSafeInteger(read[1])) return [read[0], read[1] as number];
  } catch {
    // falls through to the refusal: what cannot be parsed is no cursor
  }
  throw noSuchPage();
}

/** Where a list that is counted through goes on: a whole number. */
export function readOffset(cursor: string | undefined): number {
  if (cursor !== undefined && !/^\d{1,9}$/.test(cursor)) throw noSuchPage();
  return Number(cursor ?? 0);
}

const noSuchPage = (): Refusal =>
  new Refusal(422, 'no-such-page', 'This list cannot be continued from here; load it anew.', [
    { field: 'cursor', sentence: 'This is not a place in the list.' },
  ]);

/** The pattern for a word anywhere in a text. */
export const likeWord = (word: string): string => `%${word.replace(/[\\%_]/g, '\\$&')}%`;

/** Whether the trigram index can narrow down what is asked: it knows words from three letters on. */
export const hasLongWord = (q: string | undefined): boolean => (q ?? '').split(/\s+/).some((word) => word.length > 2);

/**
 * The same order, not readable from an index. Where the words narrow the rows down, reading in the order of the sort
 * and filtering on the way would walk through the whole table for words that few rows have.
 */
export const computed = (sort: SortColumn): SortColumn => ({ ...sort, sql: sort.type === 'text' ? `(${sort.sql} || '')` : `(${sort.sql} + 0)` });

/** Conditions that every word is found, in any order. */
export const everyWord = (values: Values, column: string, q: string | undefined): string[] =>
  (q ?? '')
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '')
    .slice(0, 8)
    .map((word) => `${column} LIKE ${values.add(likeWord(word))}`);

export const whereAll = (conditions: readonly string[]): string => (conditions.length === 0 ? '' : `WHERE ${conditions.join(' AND ')}`);
