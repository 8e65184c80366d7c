import type { Act } from '../act';
import { pick } from '../areas/outbound/pick';
import { pickList } from '../areas/outbound/pickList';

/** Picks a part of each line of an order; returns what was taken, line by line, and whether something is missing. */
export async function take(act: Act, orderId: number, part: number): Promise<{ taken: { lineId: number; quantity: string }[]; isShort: boolean }> {
  const { rows, missing } = await pickList(act, orderId);
  const lines = rows.map((row) => ({ lineId: row.lineId, binId: row.binId, lotId: row.lotId, quantity: String(Math.ceil(Number(row.take) * part)) }));
  if (lines.length > 0) await pick(act, { orderId, lines, shortReason: '', short: [], othersRound: false });
  const sums = new Map<number, number>();
  for (const { lineId, quantity } of lines) sums.set(lineId, (sums.get(lineId) ?? 0) + Number(quantity));
  return { taken: [...sums].map(([lineId, quantity]) => ({ lineId, quantity: String(quantity) })), isShort: missing.length > 0 };
}

export const takeAll = (act: Act, orderId: number) => take(act, orderId, 1);
