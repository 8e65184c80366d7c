import type { Act } from '../act';

/** Takes the next number of a kind of document. Called last: the counter's row stays locked until the end. */
export async function nextNumber({ tx }: Act, kind: 'purchase order' | 'sales order' | 'bill' | 'landed cost'): Promise<string> {
  const [row] = await tx.rows<{ number: string }>('UPDATE counter SET next = next + 1 WHERE kind = $1 RETURNING prefix || (next - 1) AS number', [kind]);
  if (!row) throw new Error(`there is no counter for ${kind}`);
  return row.number;
}
