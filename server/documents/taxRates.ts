import { decimal, zero, type Decimal } from '@larder/core/decimal';
import { desc, lte } from 'drizzle-orm';
import type { Act } from '../act';
import { taxRate } from '../db/schema/index';

/** The rate of each tax on a day, per cent; nothing where there is none. */
export async function ratesOn({ tx: { db } }: Act, day: string): Promise<(taxCodeId: number | null) => Decimal> {
  const rows = await db
    .selectDistinctOn([taxRate.taxCodeId], { id: taxRate.taxCodeId, rate: taxRate.rate })
    .from(taxRate)
    .where(lte(taxRate.fromDay, day))
    .orderBy(taxRate.taxCodeId, desc(taxRate.fromDay));
  const rates = new Map(rows.map(({ id, rate }) => [id, decimal(rate)]));
  return (id) => (id === null ? zero : (rates.get(id) ?? zero));
}
