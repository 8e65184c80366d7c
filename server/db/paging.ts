import { isDay } from '@larder/core/day';
import { isWellFormed } from '@larder/core/exchange/text';
import { Refusal } from '@larder/core/refusal';
import { and, sql, type Placeholder, type SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';

/** What a list can be sorted by: its SQL and type. Nulls must be coalesced. */
export interface Sort {
  sql: SQL | PgColumn;
  type: 'text' | 'numeric' | 'date' | 'timestamptz';
}

interface Paged {
  limit: number;
  cursor?: string | undefined;
  direction: 'up' | 'down';
}

/** Where a page begins and how long it is, each as a value or as the place for one. */
interface PageAt {
  /** One more than is shown. */
  limit: number | Placeholder;
  after: readonly [value: unknown, id: unknown] | null;
  direction: 'up' | 'down';
}

interface Page {
  /** The rows after the last of the page before; all where it is the first. */
  after: SQL | undefined;
  order: SQL[];
  /** One more than asked for, which tells whether there is a next page. */
  limit: number | Placeholder;
  /** The same order by other SQL for the sort's value. */
  orderBy: (value: SQL | PgColumn, id?: SQL | PgColumn) => SQL[];
}

/** The conditions and order of one page of a list sorted by `sort`, ties by `id`: pages continue where the last row was. */
export const pageOf = (sort: Sort, id: SQL | PgColumn, { limit, cursor, direction }: Paged): Page =>
  pageAt(sort, id, { limit: limit + 1, after: readCursor(cursor, sort.type), direction });

/** The same, of a page that begins after a row. */
export function pageAt(sort: Sort, id: SQL | PgColumn, { limit, after, direction }: PageAt): Page {
  const [sign, way] = direction === 'up' ? [sql`>`, sql`asc`] : [sql`<`, sql`desc`];
  const orderBy: Page['orderBy'] = (value, tie = id) => [sql`${value} ${way}`, sql`${tie} ${way}`];
  return {
    after: after ? sql`(${sort.sql}, ${id}) ${sign} (${after[0]}::${sql.raw(sort.type)}, ${after[1]}::bigint)` : undefined,
    order: orderBy(sort.sql),
    limit,
    orderBy,
  };
}

/** What each row of a page carries for its cursor: `cursor` and `cursorId`. */
export const cursorOf = (sort: Sort, id: SQL | PgColumn) => ({ cursor: sql<string>`(${sort.sql})::text`, cursorId: sql<number>`${id}` });

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
const isOf: Record<Sort['type'], (text: string) => boolean> = {
  text: (text) => !text.includes('\u0000') && isWellFormed(text),
  numeric: (text) => /^-?\d{1,20}(\.\d{1,20})?$/.test(text),
  date: (text) => isDay(text) || /^-?infinity$/.test(text),
  timestamptz: (text) =>
    /^-?infinity$/.test(text) || (isDay(text.slice(0, 10)) && /^[T ]\d{2}:\d{2}:\d{2}(\.\d{1,6})?(Z|[+-]\d{2}(:\d{2})?)$/.test(text.slice(10))),
};

/** The row that a page begins after: the value it is sorted by and its id; null for the first page. */
export function readCursor(cursor: string | undefined, type: Sort['type']): readonly [value: string, id: number] | null {
  if (cursor === undefined) return null;
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
export const computed = (sort: Sort): Sort => ({ ...sort, sql: sort.type === 'text' ? sql`(${sort.sql} || '')` : sql`(${sort.sql} + 0)` });

/** How many words are looked for. */
const mostWords = 8;

/** The patterns that a text must match to have every word, in any order. */
export const wordPatterns = (q: string | undefined): string[] =>
  (q ?? '')
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '')
    .slice(0, mostWords)
    .map(likeWord);

/** Every word is found in the text, in any order; nothing is asked where there is none. The words, or their patterns. */
export const everyWord = (text: SQL | PgColumn, words: string | undefined | readonly Placeholder[]): SQL | undefined =>
  and(...(typeof words === 'object' ? words : wordPatterns(words)).map((pattern) => sql`${text} like ${pattern}`));

const wordNumbers = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15] as const;
type WordName = `word${(typeof wordNumbers)[number]}`;

/** Names of the places for words in a statement that is put together before. */
export const wordNames: readonly WordName[] = wordNumbers.map((n) => `word${n}` as const);
/** The patterns of words by the names of their places. */
export const wordValues = (patterns: readonly string[]): Record<WordName, string | null> =>
  Object.fromEntries(wordNames.map((name, at) => [name, patterns[at] ?? null])) as Record<WordName, string | null>;
/** The first so many places for words. */
export const wordsGiven = (given: Record<WordName, Placeholder>, count: number): Placeholder[] => wordNames.slice(0, count).map((name) => given[name]);
