import type { Decimal } from '../decimal';

/** Why goods cannot leave a bin: it holds fewer than that. */
export const holdsFewer = (bin: string, there: Decimal, sku: string, asked: Decimal): string =>
  `${bin} holds ${there.toFixed()} of ${sku}, not ${asked.toFixed()}.`;
