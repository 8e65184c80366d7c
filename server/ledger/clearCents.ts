import { decimal } from '@larder/core/decimal';
import { goodsOpen } from '@larder/core/ledger/goodsOpen';
import { and, eq, ne, sql, type SQL } from 'drizzle-orm';
import type { Act } from '../act';
import { among, insertRows } from '../db/given';
import { lineSettlement, purchaseLine, purchaseOrder } from '../db/schema/index';
import { Entry, writeEntry } from './entry';

/**
 * Order lines of which as many are billed as came, and whose two amounts differ by the cents that an undo or a return in between had rounded:
 * what is left goes to price variance, so that nothing stays open. Usually there is none. The orders are locked.
 */
export async function clearCents(act: Act, purchaseLineIds: readonly number[], effectiveOn: string): Promise<void> {
  if (purchaseLineIds.length === 0) return;
  const left = await linesWithCents(act, among(purchaseLine.id, purchaseLineIds));
  if (left.length === 0) return;
  await insertRows(
    act.tx,
    lineSettlement,
    left.map(({ id, open }) => ({ purchaseLineId: id, billed: open })),
  );
  const entry = await Entry.open(act);
  for (const { open } of left) {
    const { grni, creditsExpected } = goodsOpen(decimal(open), decimal(0));
    entry.add('grni', grni);
    entry.add('credits-expected', creditsExpected);
    entry.add('price-variance', grni.plus(creditsExpected).neg());
  }
  await writeEntry(act, { effectiveOn, text: `rounding of ${left.map(({ label }) => label).join(', ')}` }, entry);
}

/** Purchase lines as much billed as received whose two amounts differ, with what is open. */
export const linesWithCents = async ({ tx }: Act, which?: SQL) =>
  tx.db
    .select({
      id: purchaseLine.id,
      label: sql<string>`${purchaseOrder.number} || ' line ' || ${purchaseLine.position}`,
      open: sql<string>`${purchaseLine.receivedValue} - ${purchaseLine.billedValue}`,
    })
    .from(purchaseLine)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .where(and(which, eq(purchaseLine.received, purchaseLine.billed), ne(purchaseLine.receivedValue, purchaseLine.billedValue)))
    .orderBy(purchaseLine.id);
