import { addDays, type Day } from '@larder/core/day';
import type { Tracking } from '@larder/core/stock/lots';

const serialsGiven = new Map<string, number>();

/** Lots or serials as a supplier would send them: a lot for each delivery, with eighteen months to its use-by day; serials that count on. */
export function lotsOf(tracking: Tracking, sku: string, quantity: number, today: Day): { code: string; useBy: string | null; quantity: string }[] {
  if (tracking === 'none') return [];
  if (tracking === 'lot') return [{ code: `${sku.slice(0, 2)}${today.slice(2).replaceAll('-', '')}`, useBy: addDays(today, 540), quantity: String(quantity) }];
  return Array.from({ length: quantity }, () => {
    const next = (serialsGiven.get(sku) ?? 0) + 1;
    serialsGiven.set(sku, next);
    return { code: `${sku}-${String(next).padStart(4, '0')}`, useBy: null, quantity: '1' };
  });
}

/** A demo begins anew: serials count from one. */
export const forgetSerials = (): void => serialsGiven.clear();
