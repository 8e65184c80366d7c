import { type Decimal, sum } from '../decimal';
import type { Day } from '../day';

export type AccountType = 'asset' | 'inventory' | 'liability' | 'equity' | 'expense' | 'income';

export interface BookEntry {
  id: number;
  day: Day;
  text: string;
  /** Number of the document behind it, or empty. */
  document: string;
  lines: readonly { code: string; name: string; type: AccountType; amount: Decimal }[];
}

const roots: Record<AccountType, string> = {
  asset: 'assets',
  inventory: 'assets',
  liability: 'liabilities',
  equity: 'equity',
  expense: 'expenses',
  income: 'revenues',
};

/** The name of an account in the plain-text journal: its kind, then number and name, without what would end a name. */
export const plainAccount = ({ code, name, type }: Pick<BookEntry['lines'][number], 'code' | 'name' | 'type'>): string =>
  `${roots[type]}:${plain(`${code} ${name}`)}`;

/** How the journal as plain-text double entry begins: its currency and every account declared. */
export function plainHead(accounts: readonly Pick<BookEntry['lines'][number], 'code' | 'name' | 'type'>[], currency: string): string {
  const names = [...new Set(accounts.map(plainAccount))].sort();
  return ['; Tidy Larder journal', `commodity 1,000.00 ${currency}`, ...names.map((name) => `account ${name}`), ''].join('\n');
}

/**
 * Entries of the journal: for each a day, the document in brackets and what it was about, then one posting a line.
 * Entries without lines are left out. Throws Error when an entry does not balance.
 */
export const plainEntries = (entries: readonly BookEntry[], currency: string): string =>
  entries
    .filter(({ lines }) => lines.length > 0)
    .map((entry) => `\n${plainEntry(entry, currency)}`)
    .join('');

function plainEntry({ id, day, text, document, lines }: BookEntry, currency: string): string {
  if (!sum(lines.map(({ amount }) => amount)).isZero()) throw new Error(`entry ${id} does not balance`);
  const title = `${day} (${document === '' ? `E${id}` : plain(document).replace(/[()]/g, '')}) ${plain(text)}`;
  return `${[title, ...lines.map((line) => `    ${plainAccount(line)}  ${line.amount.toFixed(2)} ${currency}`)].join('\n')}\n`;
}

/** Without line breaks, comments, bars or two spaces in a row. */
const plain = (text: string): string =>
  text
    .replace(/[\p{Cc};|:]+/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim();
