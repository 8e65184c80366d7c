import { decimal, priceText, quantityText } from '../decimal';
import { dayInWords, type Day } from '../day';

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
  /** The price is for so many of the unit. */
  pricePer: string;
  /** What the line comes to, less what was called off. */
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

/** What is asked of the supplier, line by line, less what was called off; lines called off whole are left out. */
export const askedLines = (lines: readonly OrderedLine[]): AskedLine[] =>
  lines.flatMap((line) => {
    const left = decimal(line.baseQuantity).minus(line.cancelled);
    if (left.lte(0)) return [];
    const quantity = quantityText(decimal(line.quantity).times(left).div(line.baseQuantity));
    return [
      {
        position: String(line.position),
        code: line.supplierCode || line.sku,
        name: `${line.name}${line.expectedOn ? `, by ${dayInWords(line.expectedOn)}` : ''}`,
        quantity: `${quantity}${line.unit === 'each' ? '' : ` ${line.unit}`}`,
        price: `${priceText(line.price)}${line.pricePer === '1' ? '' : ` for ${quantityText(line.pricePer)}`}`,
        amount: line.amount,
      },
    ];
  });
