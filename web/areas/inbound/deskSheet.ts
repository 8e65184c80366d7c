import type { Gs1 } from '@larder/core/codes/gs1';
import { readScan, scannedQuantity } from '@larder/core/codes/meaning';
import { decimal, zero, type Decimal } from '@larder/core/decimal';
import { matchReceipt, settleCode, type OpenLine } from '@larder/core/inbound/match';
import type { DeskLine } from '@larder/contract/inbound';
import type { LotEntry } from '@larder/contract/values';

/** What was scanned or typed so far: how many of each open line, and into which bin. */
export type Counted = Record<number, { quantity: string; binId: number | null; lots?: LotEntry[] }>;

export type ScanResult =
  | { outcome: 'counted'; counted: Counted; said: string }
  | { outcome: 'over'; itemId: number; quantity: string; said: string }
  | { outcome: 'unknown' | 'several'; said: string };

const openLine = (line: DeskLine): OpenLine => ({ ...line, outstanding: decimal(line.outstanding) });

/** What lines still want beyond what is counted already. */
const stillOpen = (lines: readonly DeskLine[], counted: Counted): OpenLine[] =>
  lines.map((line) => {
    const left = decimal(line.outstanding).minus(counted[line.lineId]?.quantity || 0);
    return { ...openLine(line), outstanding: left.lt(zero) ? zero : left };
  });

/**
 * Counts what a code means on the earliest due open lines that still want it, within the chosen orders: one, or the case it is on, or as many
 * as a GS1 code says; times `many`. A GS1 code's lot, use-by or serial goes with it.
 */
export function scan(lines: readonly DeskLine[], counted: Counted, chosen: readonly number[], scanned: string, many = '1'): ScanResult {
  const read = readScan(scanned);
  const { gs1 } = read;
  const fits = lines.filter((line) => scannedQuantity(line.codes, read) !== null);
  const items = [...new Set(fits.map(({ itemId }) => itemId))];
  if (items.length === 0) return { outcome: 'unknown', said: `${scanned} is on no open order.` };
  const itemId = settleCode(items, lines.map(openLine), chosen);
  const line = fits.find((one) => one.itemId === itemId);
  if (itemId === null || !line)
    return { outcome: 'several', said: `${scanned} fits several items: ${[...new Set(fits.map(({ sku }) => sku))].join(', ')}. Scan the item's own code.` };
  const quantity = decimal(many).times(scannedQuantity(line.codes, read) ?? 1);
  const { taken, over } = matchReceipt(stillOpen(lines, counted), itemId, quantity, chosen);
  if (over.gt(zero)) {
    const inChosen = chosen.length === 0 || lines.some((one) => one.itemId === itemId && chosen.includes(one.orderId));
    return {
      outcome: 'over',
      itemId,
      quantity: quantity.toFixed(),
      said: inChosen ? `No open line wants ${quantity.eq(1) ? 'more' : `${quantity.toFixed()} more`} ${line.sku}.` : `${line.sku} is not on the chosen orders.`,
    };
  }
  const next = { ...counted };
  for (const { lineId, quantity: takes } of taken) {
    const at = lines.find((one) => one.lineId === lineId) as DeskLine;
    next[lineId] = {
      ...next[lineId],
      binId: next[lineId]?.binId ?? at.binId,
      quantity: decimal(next[lineId]?.quantity || 0)
        .plus(takes)
        .toFixed(),
      ...(gs1 && at.tracking !== 'none' ? { lots: withLot(next[lineId]?.lots ?? [], gs1, takes) } : {}),
    };
  }
  return { outcome: 'counted', counted: next, said: `${quantity.toFixed()} × ${line.sku} ${line.name}` };
}

/** The lots of a line with those of a GS1 code; the same lot again adds to its quantity. */
function withLot(lots: readonly LotEntry[], gs1: Gs1, quantity: Decimal): LotEntry[] {
  const code = gs1.serial ?? gs1.lot;
  if (code === undefined) return [...lots];
  const known = lots.find((lot) => lot.code === code);
  if (!known) return [...lots, { code, useBy: gs1.useBy ?? gs1.bestBefore ?? null, quantity: quantity.toFixed() }];
  return lots.map((lot) => (lot === known ? { ...lot, quantity: decimal(lot.quantity).plus(quantity).toFixed() } : lot));
}

/** Counts so many on the last line that wanted the item, beyond what was ordered: the person has said that it is right. */
export function takeExtra(lines: readonly DeskLine[], counted: Counted, chosen: readonly number[], itemId: number, quantity: string): Counted {
  const at = lines.filter((line) => line.itemId === itemId && (chosen.length === 0 || chosen.includes(line.orderId))).at(-1);
  if (!at) return counted;
  return {
    ...counted,
    [at.lineId]: {
      ...counted[at.lineId],
      binId: counted[at.lineId]?.binId ?? at.binId,
      quantity: decimal(counted[at.lineId]?.quantity || 0)
        .plus(quantity)
        .toFixed(),
    },
  };
}
