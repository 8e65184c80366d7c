import { decimal, money, priceText, sum } from '../decimal';
import type { Day } from '../day';

/** An order line as far as a letter tells of it. Quantity and price as entered; base quantities for what was called off. */
export interface OrderedLine {
  position: number;
  sku: string;
  supplierCode: string;
  name: string;
  quantity: string;
  baseQuantity: string;
  cancelled: string;
  unit: string;
  price: string;
  amount: string;
  expectedOn: Day | null;
}

export interface AskedLine {
  position: string;
  code: string;
  name: string;
  quantity: string;
  price: string;
  amount: string;
}

const months = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];

/** "21 November 2026". */
export const dayInWords = (day: Day): string => `${Number(day.slice(8))} ${months[Number(day.slice(5, 7)) - 1]} ${day.slice(0, 4)}`;

/** What is asked of the supplier, line by line, less what was called off; lines called off whole are left out. The amounts are in whole cents. */
export function askedLines(lines: readonly OrderedLine[]): { lines: AskedLine[]; total: string } {
  const asked = lines.flatMap((line) => {
    const share = decimal(line.baseQuantity).minus(line.cancelled).div(line.baseQuantity);
    if (share.lte(0)) return [];
    const quantity = decimal(line.quantity).times(share).toDecimalPlaces(4).toFixed();
    const amount = money(decimal(line.amount).times(share));
    const own = line.expectedOn ? `, by ${dayInWords(line.expectedOn)}` : '';
    return [{ line, quantity, amount, own }];
  });
  return {
    lines: asked.map(({ line, quantity, amount, own }) => ({
      position: String(line.position),
      code: line.supplierCode || line.sku,
      name: `${line.name}${own}`,
      quantity: `${quantity}${line.unit === 'each' ? '' : ` ${line.unit}`}`,
      price: priceText(line.price),
      amount: amount.toFixed(2),
    })),
    total: sum(asked.map(({ amount }) => amount)).toFixed(2),
  };
}
