import { numberPart } from '../number';
import { decimal, greatest, priceText, quantityText, zero, type Decimal } from '../decimal';

/** Another price from so many base units on. */
export interface PriceBreak {
  from: string;
  price: string;
}

/** What a supplier asks for an item. Quantities and prices are of the base unit; a price of null is not agreed. */
export interface Terms {
  packSize: string;
  minimum: string;
  price: string | null;
  breaks: readonly PriceBreak[];
}

/** The price of one base unit when so many are ordered: the break reached last, else the agreed price, else null. */
export function priceOf({ price, breaks }: Pick<Terms, 'price' | 'breaks'>, quantity: Decimal): Decimal | null {
  const reached = [...breaks].sort((a, b) => decimal(b.from).cmp(a.from)).find(({ from }) => quantity.gte(from));
  if (reached) return decimal(reached.price);
  return price === null ? null : decimal(price);
}

/** The least quantity from `quantity` on that is allowed: at least the minimum, and whole packs. */
export function allowed({ packSize, minimum }: Pick<Terms, 'packSize' | 'minimum'>, quantity: Decimal): Decimal {
  const atLeast = greatest(quantity, decimal(minimum));
  return decimal(packSize).gt(zero) ? atLeast.div(packSize).ceil().times(packSize) : atLeast;
}

/** What the terms say about ordering so many, in one sentence, and the quantity it proposes; null when there is nothing to say. */
export function advice(terms: Terms, quantity: Decimal): { sentence: string; take: string } | null {
  const most = allowed(terms, quantity);
  if (quantity.lt(terms.minimum)) return { sentence: `They deliver at least ${quantityText(terms.minimum)}.`, take: quantityText(most) };
  if (most.gt(quantity)) return { sentence: `They pack ${quantityText(terms.packSize)} together.`, take: quantityText(most) };
  return cheaper(terms, quantity);
}

/** A break further on that makes more goods cost less in all. */
function cheaper(terms: Terms, quantity: Decimal): { sentence: string; take: string } | null {
  const each = priceOf(terms, quantity);
  if (each === null) return null;
  const whole = each.times(quantity);
  const better = terms.breaks
    .map(({ from, price }) => ({ take: allowed(terms, decimal(from)), price: decimal(price) }))
    .filter(({ take, price }) => take.gt(quantity) && price.times(take).lte(whole))
    .sort((a, b) => a.price.times(a.take).cmp(b.price.times(b.take)))[0];
  if (!better) return null;
  return {
    sentence: `${quantityText(better.take)} cost ${better.price.times(better.take).toFixed(2)} in all, no more than these.`,
    take: quantityText(better.take),
  };
}

const written = new RegExp(`^(${numberPart('quantity')})\\s*:\\s*(${numberPart('price')})$`);

/** Reads price breaks as they are typed, "100: 0.95; 500: 0.90", the smallest first; null when they cannot be read or a quantity stands twice. */
export function readBreaks(text: string): PriceBreak[] | null {
  const parts = text
    .split(/[;\n]/)
    .map((part) => part.trim())
    .filter((part) => part !== '');
  const breaks: PriceBreak[] = [];
  for (const part of parts) {
    const [, from, price] = written.exec(part) ?? [];
    if (from === undefined || price === undefined || decimal(from).lte(zero) || breaks.some((one) => decimal(one.from).eq(from))) return null;
    breaks.push({ from: quantityText(from), price: decimal(price).toFixed() });
  }
  return breaks.sort((a, b) => decimal(a.from).cmp(b.from));
}

/** Price breaks as they are typed and shown. */
export const breaksText = (breaks: readonly PriceBreak[]): string => breaks.map(({ from, price }) => `${quantityText(from)}: ${priceText(price)}`).join('; ');

/** Days until an order is there: the longest of its items', each by its own terms, else the supplier's. An order without items takes the supplier's. */
export const longestLead = (supplierDays: number, ofItems: readonly (number | null)[]): number =>
  ofItems.length === 0 ? supplierDays : Math.max(...ofItems.map((days) => days ?? supplierDays));
