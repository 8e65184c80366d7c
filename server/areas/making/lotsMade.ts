import type { ProductNow } from '@larder/contract/workOrders';
import { lotNumber, usedBy } from '@larder/core/making/lotNumber';
import { and, eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { given } from '../../db/given';
import { company, lot } from '../../db/schema/index';
import type { WorkNowRow } from './orderQueries';

/**
 * The lot that is made of each output with the next record of an order: its number by the business's pattern, and its use-by day by its shelf life, or
 * that which a lot of this number has already. Null for
 * what is not kept by lots.
 */
export async function lotsMade({ tx: { db }, today }: Act, { number, records, products }: WorkNowRow): Promise<ProductNow['nextLot'][]> {
  const byLot = products.filter(({ tracking }) => tracking === 'lot');
  if (byLot.length === 0) return products.map(() => null);
  const [set] = await db.select({ pattern: company.lotPattern }).from(company);
  const code = lotNumber(set?.pattern ?? '', { day: today, order: number, nth: records.length + 1 });
  const { rows, row } = given(
    'made',
    { itemId: lot.itemId },
    byLot.map(({ itemId }) => ({ itemId })),
  );
  const known = await db
    .select({ itemId: lot.itemId, useBy: lot.useBy })
    .from(rows)
    .innerJoin(lot, and(eq(lot.itemId, row.itemId), sql`lower(${lot.code}) = lower(${code})`));
  return products.map(({ itemId, tracking, shelfLifeDays }) => {
    if (tracking !== 'lot') return null;
    const there = known.find((one) => one.itemId === itemId);
    return { code, useBy: there ? there.useBy : usedBy(today, shelfLifeDays) };
  });
}
