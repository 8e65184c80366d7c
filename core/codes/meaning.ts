import { decimal, type Decimal } from '../decimal';
import { parseGs1, type Gs1 } from './gs1';
import { sameGtin } from './gtin';

/** A scanned code, read once for all the lines it may mean. */
export interface Scanned {
  /** In the form codes are compared in. */
  wanted: string;
  gs1: Gs1 | null;
}

export function readScan(code: string): Scanned {
  const gs1 = parseGs1(code);
  const said = gs1?.gtin ?? code;
  return { wanted: comparedBy(said), gs1 };
}

/** What a code is compared by: a GTIN is the same in its longer forms; capitals do not matter. */
export const comparedBy = (code: string): string => sameGtin(code).toLowerCase();

/**
 * How many base units a scan stands for when it means an item with these codes, or null when it does not: one, the case the code is on, or as
 * many of either as a GS1 element string says.
 */
export function scannedQuantity(codes: readonly { code: string; factor: string }[], { wanted, gs1 }: Scanned): Decimal | null {
  const found = codes.find(({ code }) => comparedBy(code) === wanted);
  return found ? decimal(found.factor).times(gs1?.count ?? 1) : null;
}
