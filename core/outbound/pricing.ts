import type { Day } from '../day';
import { decimal, type Decimal } from '../decimal';
import type { PriceBreak } from '../inbound/terms';

/** A row of a price list: for an item, or for all of a category; from so many base units on; on which days (null: from the beginning, without end). */
export interface PriceRow {
  itemId: number | null;
  categoryId: number | null;
  /** Zero: for any quantity. */
  from: string;
  /** Of one base unit; null where a part is taken off the item's own sales price. */
  price: string | null;
  /** Per cent off the item's own sales price; null where the price is said. */
  percentOff: string | null;
  startsOn: Day | null;
  endsOn: Day | null;
}

/** An item as prices are found for it. */
export interface PricedItem {
  itemId: number;
  categoryId: number | null;
  /** Of one base unit; null when none was said. */
  salesPrice: string | null;
}

/** What an item costs a customer by quantity: as `priceOf` reads it. */
export interface Prices {
  price: string | null;
  breaks: readonly PriceBreak[];
}

/** Whether a row holds on a day. */
export const holdsOn = ({ startsOn, endsOn }: Pick<PriceRow, 'startsOn' | 'endsOn'>, day: Day): boolean =>
  (startsOn === null || startsOn <= day) && (endsOn === null || endsOn >= day);

/** What a row says one base unit costs, or null where it takes a part off a price that nobody said. At most six decimals. */
function priceBy({ price, percentOff }: Pick<PriceRow, 'price' | 'percentOff'>, salesPrice: string | null): Decimal | null {
  if (price !== null) return decimal(price);
  if (salesPrice === null || percentOff === null) return null;
  return decimal(salesPrice).times(decimal(100).minus(percentOff)).div(100).toDecimalPlaces(6);
}

/**
 * What one base unit costs when so many are sold on a day, by lists that are asked one after the other: rows of the item before rows of its category, and of these the one with the largest quantity
 * that is reached. Where no list says anything it is the item's own sales price, which may be null.
 */
export function priceFor(lists: readonly (readonly PriceRow[])[], item: PricedItem, quantity: Decimal, day: Day): Decimal | null {
  for (const rows of lists) {
    const holding = rows.filter((row) => holdsOn(row, day) && quantity.gte(row.from));
    for (const said of [holding.filter(({ itemId }) => itemId === item.itemId), holding.filter((row) => row.itemId === null && isOf(row, item))]) {
      const [most] = [...said].sort((a, b) => decimal(b.from).cmp(a.from));
      const price = most && priceBy(most, item.salesPrice);
      if (price) return price;
    }
  }
  return item.salesPrice === null ? null : decimal(item.salesPrice);
}

const isOf = ({ categoryId }: PriceRow, item: PricedItem): boolean => categoryId !== null && categoryId === item.categoryId;

/** A price of the company's currency in another, one of which is worth `rate` of it: with as many decimals as the price has, at least those of the currency (`places`). */
export const priceAt = (price: string, rate: string, places: number): string =>
  decimal(rate).eq(1)
    ? price
    : decimal(price)
        .div(rate)
        .toDecimalPlaces(Math.max(places, decimal(price).decimalPlaces()))
        .toFixed();

/** The same of all prices of an item. */
export const pricesAt = ({ price, breaks }: Prices, rate: string, places: number): Prices => ({
  price: price === null ? null : priceAt(price, rate, places),
  breaks: breaks.map((one) => ({ ...one, price: priceAt(one.price, rate, places) })),
});

/** All prices of an item on a day by these lists: what it costs to begin with, and each quantity from which it costs something else. */
export function pricesFor(lists: readonly (readonly PriceRow[])[], item: PricedItem, day: Day): Prices {
  const first = priceFor(lists, item, decimal(0), day);
  const froms = lists.flatMap((rows) =>
    rows.filter((row) => (row.itemId === item.itemId || isOf(row, item)) && decimal(row.from).gt(0)).map(({ from }) => from),
  );
  const breaks: PriceBreak[] = [];
  let last = first;
  for (const from of [...new Set(froms.map((each) => decimal(each).toFixed()))].sort((a, b) => decimal(a).cmp(b))) {
    const price = priceFor(lists, item, decimal(from), day);
    if (price === null || (last !== null && price.eq(last))) continue;
    breaks.push({ from, price: price.toFixed() });
    last = price;
  }
  return { price: first?.toFixed() ?? null, breaks };
}

/** Pairs of rows of one list, by their places, that say two things of the same: same item or category, same quantity, days in common. The later one comes second. */
export function clashingRows(rows: readonly Omit<PriceRow, 'price' | 'percentOff'>[]): [number, number][] {
  const alike = new Map<string, number[]>();
  for (const [index, { itemId, categoryId, from }] of rows.entries()) {
    const key = `${itemId ?? ''} ${itemId === null ? (categoryId ?? '') : ''} ${decimal(from).toFixed()}`;
    alike.set(key, [...(alike.get(key) ?? []), index]);
  }
  const meet = (a: (typeof rows)[number], b: (typeof rows)[number]) =>
    (a.endsOn === null || b.startsOn === null || b.startsOn <= a.endsOn) && (b.endsOn === null || a.startsOn === null || a.startsOn <= b.endsOn);
  return [...alike.values()].flatMap((same) =>
    same.flatMap((one, at) =>
      same.slice(at + 1).flatMap((other): [number, number][] => (meet(rows[one] as PriceRow, rows[other] as PriceRow) ? [[one, other]] : [])),
    ),
  );
}

/** Per cent that a line gives way in all, when so many per cent are taken off it and so many off the whole order. Exact. */
export const discountOf = (ofLine: Decimal, ofOrder: Decimal): Decimal =>
  decimal(100).minus(decimal(100).minus(ofLine).times(decimal(100).minus(ofOrder)).div(100));
