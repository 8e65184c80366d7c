import { decimal } from '@larder/core/decimal';
import type { SalesOrder } from '@larder/contract/outbound';
import { shortDay } from '../../kit/format';

type Coming = SalesOrder['lines'][number]['coming'];

/** How many of a line's base units can go out now: what is on the bench, or, of what is not kept in stock, what has not gone yet. */
export const goesOut = (line: Pick<SalesOrder['lines'][number], 'stocked' | 'picked' | 'dispatched' | 'baseQuantity' | 'direct' | 'sent'>): string =>
  decimal(line.stocked ? line.picked : decimal(line.baseQuantity).minus(line.direct).plus(line.sent))
    .minus(line.dispatched)
    .toFixed();

/** Splits a line's quantity into what is here, what is coming with a date, and what nobody knows of yet. For drawing. */
export function coverParts(wanted: number, short: number, coming: Coming): { here: number; coming: number; unknown: number } {
  const dated = coming.filter(({ expectedOn }) => expectedOn !== null).reduce((sum, one) => sum + Number(one.quantity), 0);
  const comes = Math.min(short, dated);
  return { here: wanted - short, coming: comes, unknown: short - comes };
}

/** The same in words: "4 now, 6 from PO-1020 on Thu 26 Nov". */
export function coverWords(parts: ReturnType<typeof coverParts>, coming: Coming, wholeOn: string | null | undefined, today: string): string {
  const short = parts.coming + parts.unknown;
  if (short === 0) return 'all on the shelf';
  const next = coming.find(({ expectedOn }) => expectedOn !== null);
  const here = parts.here > 0 ? `${parts.here} now, ` : '';
  const from = next?.expectedOn ? ` from ${next.orderNumber} on ${shortDay(next.expectedOn, today)}${next.expectedOn < today ? ', late' : ''}` : '';
  const soon = parts.coming > 0 ? `${parts.coming}${from}` : '';
  const nobody = parts.unknown > 0 ? `${soon ? ', ' : ''}${parts.unknown} short with no date yet` : '';
  const whole = wholeOn && parts.unknown === 0 && next?.expectedOn !== wholeOn ? `, all by ${shortDay(wholeOn, today)}` : '';
  return here + soon + nobody + whole;
}
