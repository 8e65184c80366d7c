import type { BookPurpose } from '@larder/core/books/purpose';
import type { UndoneCost } from '@larder/core/costing/adjust';
import { decimal, type Decimal } from '@larder/core/decimal';
import type { Act } from '../act';
import type { Entry } from './entry';

export interface PostedLine {
  accountId: number;
  purpose: BookPurpose | null;
  amount: Decimal;
}

/** What a bill (its payments left aside) or a worksheet has posted on each account that is not of inventory. */
export async function postedLines({ tx }: Act, document: 'bill' | 'sheet', id: number): Promise<PostedLine[]> {
  const rows = await tx.rows<{ accountId: number; purpose: BookPurpose | null; amount: string }>(
    `SELECT a.id AS "accountId", a.purpose, sum(j.amount) AS amount FROM journal_entry e JOIN journal_line j ON j.entry_id = e.id JOIN account a ON a.id = j.account_id
     WHERE e.${document}_id = $1 AND e.payment_id IS NULL AND a.type <> 'inventory' GROUP BY 1, 2`,
    [id],
  );
  return rows.map(({ amount, ...row }) => ({ ...row, amount: decimal(amount) }));
}

/**
 * Turns round what was posted: every account to the cent, and stock as far as the goods are here; what has left with goods since goes to the account `goneTo` names.
 * Inventory stands on the item's account of today, as `inventory` says.
 */
export function turnRound(
  entry: Entry,
  posted: readonly PostedLine[],
  costs: readonly UndoneCost[],
  accounts: { inventory: (lineId: number) => number; goneTo: (lineId: number) => BookPurpose | number },
): void {
  for (const { accountId, amount } of posted) entry.add(accountId, amount.neg());
  for (const { itemId, lineId, toStock, toGone, variance } of costs) {
    entry.add(accounts.inventory(lineId), toStock, itemId);
    entry.add(accounts.goneTo(lineId), toGone);
    entry.add('cost-variance', variance);
  }
}
