import { refuseField } from '@larder/core/refusal';
import { desc, eq, sql } from 'drizzle-orm';
import type { Act } from '../act';
import { invoice, invoiceCover, invoiceLine, movementLine } from '../db/schema/index';

/** Refuses to undo a movement of which something is on an invoice that stands. Its orders are locked. */
export async function refuseInvoiced({ tx: { db } }: Act, movementId: number): Promise<void> {
  const [found] = await db
    .select({ number: sql<string>`(array_agg(${invoice.number} order by ${invoice.id}) filter (where ${invoice.kind} = 'invoice'))[1]` })
    .from(movementLine)
    .innerJoin(invoiceCover, eq(invoiceCover.lineId, movementLine.id))
    .innerJoin(invoiceLine, eq(invoiceLine.id, invoiceCover.invoiceLineId))
    .innerJoin(invoice, eq(invoice.id, invoiceLine.invoiceId))
    .where(eq(movementLine.movementId, movementId))
    .groupBy(movementLine.id)
    .having(sql`sum(case ${invoice.kind} when 'credit' then -1 else 1 end * ${invoiceCover.quantity}) > 0`)
    .orderBy(desc(movementLine.id))
    .limit(1);
  if (found) throw refuseField(409, 'rests-on-it', 'movementId', `${found.number} rests on this. Credit ${found.number} first.`);
}
