import { decimal } from '@larder/core/decimal';
import { goodsOpen } from '@larder/core/ledger/goodsOpen';
import type { Act } from '../act';
import { Entry, writeEntry } from './entry';

/**
 * Order lines of which as many are billed as came, and whose two amounts differ by the cents that an undo or a return in between had rounded:
 * what is left goes to price variance, so that nothing stays open. Usually there is none. The orders are locked.
 */
export async function settleLines(act: Act, purchaseLineIds: readonly number[], effectiveOn: string): Promise<void> {
  if (purchaseLineIds.length === 0) return;
  const left = await act.tx.rows<{ id: number; label: string; open: string }>(
    `SELECT l.id, o.number || ' line ' || l.position AS label, l.received_value - l.billed_value AS open FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id
     WHERE l.id = ANY($1) AND l.received = l.billed AND l.received_value <> l.billed_value ORDER BY l.id`,
    [purchaseLineIds],
  );
  if (left.length === 0) return;
  await act.tx.rows('INSERT INTO line_settlement (purchase_line_id, billed) SELECT * FROM unnest($1::int[], $2::numeric[])', [
    left.map(({ id }) => id),
    left.map(({ open }) => open),
  ]);
  const entry = await Entry.open(act);
  for (const { open } of left) {
    const { grni, creditsExpected } = goodsOpen(decimal(open), decimal(0));
    entry.add('grni', grni);
    entry.add('credits-expected', creditsExpected);
    entry.add('price-variance', grni.plus(creditsExpected).neg());
  }
  await writeEntry(act, { effectiveOn, text: `rounding of ${left.map(({ label }) => label).join(', ')}` }, entry);
}
