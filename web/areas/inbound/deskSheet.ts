import { decimal, zero } from '@larder/core/decimal';
import { matchReceipt, settleCode, type OpenLine } from '@larder/core/inbound/match';
import type { DeskLine } from '@larder/contract/inbound';
import type { LotEntry } from '@larder/contract/values';

/** What was scanned or typed so far: how many of each open line, and into which bin. */
export type Counted = Record<number, { quantity: string; binId: number | null; lots?: LotEntry[] }>;

export type ScanResult =
  { outcome: 'counted'; counted: Counted; said: string } | { outcome: 'over'; itemId: number; said: string } | { outcome: 'unknown' | 'several'; said: string };

const openLine = (line: DeskLine): OpenLine => ({ ...line, outstanding: decimal(line.outstanding) });

/** What lines still want beyond what is counted already. */
const stillOpen = (lines: readonly DeskLine[], counted: Counted): OpenLine[] =>
  lines.map((line) => {
    const left = decimal(line.outstanding).minus(counted[line.lineId]?.quantity || 0);
    return { ...openLine(line), outstanding: left.lt(zero) ? zero : left };
  });

/** Counts `many` of the item a code means on the earliest due open line that still wants it, within the chosen orders. */
export function scan(lines: readonly DeskLine[], counted: Counted, chosen: readonly number[], code: string, many = '1'): ScanResult {
  const fits = lines.filter((line) => line.codes.some((one) => one.toLowerCase() === code.toLowerCase()));
  const items = [...new Set(fits.map(({ itemId }) => itemId))];
  if (items.length === 0) return { outcome: 'unknown', said: `${code} is on no open order.` };
  const itemId = settleCode(items, lines.map(openLine), chosen);
  const line = fits.find((one) => one.itemId === itemId);
  if (itemId === null || !line)
    return { outcome: 'several', said: `${code} fits several items: ${[...new Set(fits.map(({ sku }) => sku))].join(', ')}. Scan the item's own code.` };
  const { taken, over } = matchReceipt(stillOpen(lines, counted), itemId, decimal(many), chosen);
  if (over.gt(zero)) {
    const inChosen = chosen.length === 0 || lines.some((one) => one.itemId === itemId && chosen.includes(one.orderId));
    return { outcome: 'over', itemId, said: inChosen ? `No open line wants more ${line.sku}.` : `${line.sku} is not on the chosen orders.` };
  }
  const next = { ...counted };
  for (const { lineId, quantity } of taken) {
    const at = lines.find((one) => one.lineId === lineId) as DeskLine;
    next[lineId] = {
      ...next[lineId],
      binId: next[lineId]?.binId ?? at.binId,
      quantity: decimal(next[lineId]?.quantity || 0)
        .plus(quantity)
        .toFixed(),
    };
  }
  return { outcome: 'counted', counted: next, said: `${many} × ${line.sku} ${line.name}` };
}

/** Counts one more than was ordered, on the last line that wanted the item: the person has said that it is right. */
export function takeExtra(lines: readonly DeskLine[], counted: Counted, chosen: readonly number[], itemId: number): Counted {
  const at = lines.filter((line) => line.itemId === itemId && (chosen.length === 0 || chosen.includes(line.orderId))).at(-1);
  if (!at) return counted;
  return {
    ...counted,
    [at.lineId]: {
      ...counted[at.lineId],
      binId: counted[at.lineId]?.binId ?? at.binId,
      quantity: decimal(counted[at.lineId]?.quantity || 0)
        .plus(1)
        .toFixed(),
    },
  };
}
