import type { Act } from '../act';
import { company } from '../db/schema/index';

/** The company's own currency. */
export async function companyCurrency({ tx }: Pick<Act, 'tx'>): Promise<string> {
  const [row] = await tx.db.select({ currency: company.currency }).from(company);
  if (!row) throw new Error('the business has not been founded');
  return row.currency;
}
