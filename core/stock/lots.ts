import { decimal, least, sum, zero, type Decimal } from '../decimal';
import type { FieldError } from '../refusal';
import { twiceAt } from '../twice';

export type Tracking = 'none' | 'lot' | 'serial';

/** A lot with how many, or a serial. */
export interface LotEntry {
  code: string;
  useBy: string | null;
  quantity: string;
  /** Our own tag on a serial unit. */
  tag?: string | undefined;
}

/**
 * What is wrong with the lots or serials given for so many of an item, by field: a serial is one unit each and as many as the quantity;
 * lots add up to it; what is not tracked has none; none is given twice.
 */
export function lotFaults(tracking: Tracking, sku: string, quantity: Decimal, lots: readonly LotEntry[], field: string): FieldError[] {
  if (tracking === 'none') return lots.length > 0 ? [{ field, sentence: `${sku} is kept without lots or serials.` }] : [];
  const twice = twiceAt(lots, ({ code }) => code);
  if (twice >= 0) return [{ field: `${field}.${twice}.code`, sentence: `${lots[twice]?.code ?? ''} is given twice.` }];
  const given = tracking === 'serial' ? decimal(lots.length) : sum(lots.map((lot) => decimal(lot.quantity)));
  const odd = tracking === 'serial' ? lots.findIndex((lot) => !decimal(lot.quantity).eq(1)) : -1;
  if (odd >= 0) return [{ field: `${field}.${odd}.quantity`, sentence: 'A serial is one unit.' }];
  const tagged = tracking === 'serial' ? twiceAt(lots, ({ tag }) => tag) : lots.findIndex(({ tag }) => tag !== undefined);
  if (tagged >= 0)
    return [
      {
        field: `${field}.${tagged}.tag`,
        sentence: tracking === 'serial' ? `The tag ${lots[tagged]?.tag ?? ''} is given twice.` : 'Only a serial unit has a tag.',
      },
    ];
  const missing = quantity.minus(given);
  if (missing.isZero()) return [];
  const what = tracking === 'serial' ? (missing.abs().eq(1) ? 'serial' : 'serials') : `in lots`;
  return [
    { field, sentence: missing.gt(0) ? `${missing.toFixed()} ${what} of ${sku} still missing.` : `${missing.abs().toFixed()} ${what} of ${sku} too many.` },
  ];
}

export interface LotQuantity {
  lotId: number | null;
  quantity: Decimal;
}

/** Takes a quantity from lots in their order. What they do not hold is left without a lot, for the ledger to refuse by its balance. */
export function takeLots(lots: readonly LotQuantity[], quantity: Decimal): LotQuantity[] {
  const taken: LotQuantity[] = [];
  let left = quantity;
  for (const lot of lots) {
    const takes = least(left, lot.quantity);
    if (takes.gt(zero)) taken.push({ lotId: lot.lotId, quantity: takes });
    left = left.minus(takes);
  }
  return left.gt(zero) ? [...taken, { lotId: null, quantity: left }] : taken;
}
