import { decimal, type Decimal } from '../decimal';
import { parseGs1, type Gs1 } from './gs1';
import { sameGtin } from './gtin';

/** A scanned code, read once for all the lines it may mean. */
export interface Scanned {
  code: string;
  gs1: Gs1 | null;
}

export const readScan = (code: string): Scanned => ({ code, gs1: parseGs1(code) });

/**
 * How many base units a scan stands for when it means an item with these codes, or null when it does not: one, the case the code is on, or as
 * many of either as a GS1 element string says. A GTIN is the same in its longer forms; capitals do not matter.
 */
export function scannedQuantity(codes: readonly { code: string; factor: string }[], { code, gs1 }: Scanned): Decimal | null {
  const wanted = sameGtin(gs1?.gtin ?? code).toLowerCase();
  const found = codes.find((one) => sameGtin(one.code).toLowerCase() === wanted);
  return found ? decimal(found.factor).times(gs1?.count ?? 1) : null;
}
