import { decimal, zero } from '@larder/core/decimal';
import { lineAmount } from '@larder/core/inbound/amount';
import { isNumber, readNumber } from '@larder/core/number';
import { discountOf } from '@larder/core/outbound/pricing';
import type { ItemRow } from '@larder/contract/catalog';
import { plainPrice } from '../kit/format';

/** A line while it is written. */
export interface DraftLine {
  itemId: number;
  sku: string;
  name: string;
  unit: string;
  /** Null: the base unit. */
  unitId: number | null;
  /** How many base units one of the line's unit is. */
  factor: string;
  units: ItemRow['units'];
  /** The name of the base unit, where the line may be counted in it too. */
  baseUnit?: string;
  quantity: string;
  price: string;
  /** The price is for so many of the line's unit. */
  pricePer: string;
  /** Per cent off it, where lines have that. */
  discount?: string;
  /** Typed by somebody, and not what was proposed. */
  ownPrice?: boolean;
  /** A day of its own, when it is bought for another than its order. */
  expectedOn?: string | null;
  /** A day of its own, when it ships by another than its order. */
  shipBy?: string | null;
  /** A site of its own, when it comes from another than its order. */
  siteId?: number | null;
  /** The day that is promised for what it is short of. */
  promisedOn?: string | null;
  /** So many base units of it come straight from a supplier. */
  direct?: string;
  /** So many base units of it another site is asked to send as it is confirmed. */
  bring?: { siteId: number; site: string; quantity: string } | null;
  /** What the customer asked for, when this is sold in its place. */
  asked?: { itemId: number; sku: string; name: string } | null;
}

/** A saved line, as far as it is written on. */
interface SavedLine {
  itemId: number;
  sku: string;
  name: string;
  unit: string;
  unitId: number | null;
  quantity: string;
  baseQuantity: string;
  price: string;
  pricePer: string;
}

/** Lines as they were saved, ready to be written on. */
export const writtenLines = (lines: readonly SavedLine[]): DraftLine[] =>
  lines.map(({ itemId, sku, name, unit, unitId, quantity, baseQuantity, price, pricePer }) => ({
    itemId,
    sku,
    name,
    unit,
    unitId,
    factor: decimal(baseQuantity).div(quantity).toFixed(),
    units: [],
    quantity,
    price: plainPrice(price),
    pricePer,
    ownPrice: true,
  }));

/** Tells the lines of a document apart: an item stands once in each of its units, from each site. */
export const lineKey = ({ itemId, unitId, siteId }: Pick<DraftLine, 'itemId' | 'unitId' | 'siteId'>): string => `${itemId} ${unitId ?? ''} ${siteId ?? ''}`;

/** How many base units a line is, or null while it cannot be reckoned. */
export const baseQuantity = (line: DraftLine): string | null =>
  isNumber(line.quantity, 'quantity') ? decimal(line.quantity).times(line.factor).toDecimalPlaces(4).toFixed() : null;

/** What is sent of lines. */
export const sentLines = (lines: readonly DraftLine[]) =>
  lines.map(({ itemId, unitId, quantity, price, pricePer }) => ({ itemId, unitId, quantity: quantity.trim(), price: price.trim(), pricePer }));

/** Amount of a line as it stands, less what is taken off it and so many per cent off its order, in a currency of so many `places`; null while it cannot be reckoned. */
export function draftAmount(line: DraftLine, places = 2, ofOrder = '0'): string | null {
  const [quantity, price] = [readNumber(line.quantity, 'quantity'), readNumber(line.price, 'price')];
  if (quantity === null || price === null) return null;
  const discount = discountOf(readNumber(line.discount ?? '0', 'percent') ?? zero, readNumber(ofOrder, 'percent') ?? zero);
  return lineAmount({ quantity, price, pricePer: decimal(line.pricePer), discount }, places).toFixed(places);
}
