import type { Act } from '../act';

/** The company's own currency. */
export async function companyCurrency({ tx }: Pick<Act, 'tx'>): Promise<string> {
  const [row] = await tx.rows<{ currency: string }>('SELECT currency FROM company');
  if (!row) throw new Error('the business has not been founded');
  return row.currency;
}
