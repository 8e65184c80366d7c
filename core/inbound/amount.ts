import { cumulativeShare, money, type Decimal } from '../decimal';

/** Quantity, unit factor and price as entered on a document line. */
export interface PricedLine {
  quantity: Decimal;
  price: Decimal;
  /** The price is for this many, usually 1. */
  pricePer: Decimal;
  /** Discount in per cent. */
  discount: Decimal;
}

/** round(quantity × price / per, less discount), in whole cents of the document's currency. */
export const lineAmount = (line: PricedLine): Decimal =>
  money(line.quantity.times(line.price).div(line.pricePer).times(line.discount.neg().plus(100)).div(100));

/**
 * Purchase cost, in company currency, of receiving `quantity` more of a line of which `received` came before (base units).
 * Cumulative, so that the receipts of a line add up to its amount; what is over the ordered quantity goes on at the same price.
 */
export function receiptValue(line: { amount: Decimal; baseQuantity: Decimal; rate: Decimal }, received: Decimal, quantity: Decimal): Decimal {
  const amount = money(line.amount.times(line.rate));
  return cumulativeShare(amount, line.baseQuantity, received.plus(quantity)).minus(cumulativeShare(amount, line.baseQuantity, received));
}
