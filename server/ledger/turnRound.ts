import type { BookPurpose } from '@larder/core/books/purpose';
import type { UndoneCost } from '@larder/core/costing/adjust';
import { decimal, type Decimal } from '@larder/core/decimal';
import { and, eq, isNull, ne, sql } from 'drizzle-orm';
import type { Act } from '../act';
import { account, journalEntry, journalLine } from '../db/schema/index';
import type { Entry } from './entry';

export interface PostedLine {
  accountId: number;
  purpose: BookPurpose | null;
  amount: Decimal;
}

const columnOf = { bill: journalEntry.billId, sheet: journalEntry.sheetId, shipment: journalEntry.shipmentId };

/** What a bill (its payments left aside), a worksheet or a shipment has posted on each account that is not of inventory. */
export async function postedLines({ tx }: Act, document: 'bill' | 'sheet' | 'shipment', id: number): Promise<PostedLine[]> {
  const rows = await tx.db
    .select({ accountId: account.id, purpose: account.purpose, amount: sql<string>`sum(${journalLine.amount})` })
    .from(journalEntry)
    .innerJoin(journalLine, eq(journalLine.entryId, journalEntry.id))
    .innerJoin(account, eq(account.id, journalLine.accountId))
    .where(and(eq(columnOf[document], id), isNull(journalEntry.paymentId), ne(account.type, 'inventory')))
    .groupBy(account.id, account.purpose);
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
