import { zero, type Decimal, priceText, quantityText } from '../decimal';

/** What differs from the order, in words; empty when nothing does. Prices are for one, in the bill's currency. */
export function differenceInWords({ ordered, billed, quantity, open }: { ordered: Decimal; billed: Decimal; quantity: Decimal; open: Decimal }): string {
  const words: string[] = [];
  const each = billed.minus(ordered);
  if (!each.isZero()) {
    const way = each.gt(zero) ? 'more' : 'less';
    words.push(`${priceText(each.abs().toDecimalPlaces(6))} ${way} for each than ordered, ${each.times(quantity).abs().toFixed(2)} in all`);
  }
  if (quantity.lt(open)) words.push(`${quantityText(open.minus(quantity))} received and not billed yet`);
  if (quantity.gt(open)) words.push(`${quantityText(quantity.minus(open))} billed before they have come`);
  return words.join('; ');
}
