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
export const plainAccount = ({ code, name, type }: BookEntry['lines'][number]): string => `${roots[type]}:${plain(`${code} ${name}`)}`;

/**
 * The journal as plain-text double entry, with its currency and every account declared first: a day, the document in brackets and what it was about, then one posting a line.
 * Entries without lines are left out. Throws Error when an entry does not balance.
 */
export function plainJournal(entries: readonly BookEntry[], currency: string): string {
  const posted = entries.filter(({ lines }) => lines.length > 0);
  const accounts = [...new Set(posted.flatMap(({ lines }) => lines.map(plainAccount)))].sort();
  const head = ['; Tidy Larder journal', `commodity 1,000.00 ${currency}`, ...accounts.map((name) => `account ${name}`)].join('\n');
  return [`${head}\n`, ...posted.map((entry) => plainEntry(entry, currency))].join('\n');
}

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
