import { toBase, type Factor } from '../catalog/units';
import { decimal, quantityFault, quantityFaultSentence, quantityText, zero, type Decimal } from '../decimal';
import { lineAmount, pricedLine } from '../inbound/amount';
import type { FieldError } from '../refusal';
import { discountOf } from './pricing';
import { shipByPassed } from './shipBy';
import { directKept, wantedOfSite } from './straight';

/** A line of a confirmed order as it stands. Quantities are in the line's unit where nothing else is said. */
export interface StandingLine {
  id: number;
  itemId: number;
  siteId: number;
  sku: string;
  stocked: boolean;
  /** Of the item's base unit. */
  step: string;
  factor: Factor;
  /** 0: it was cancelled. */
  quantity: string;
  price: string;
  pricePer: string;
  discount: string;
  /** In base units. */
  picked: string;
  dispatched: string;
  /** To come straight from a supplier, and of that sent (which counts as picked), and on order. */
  direct: string;
  sent: string;
  onOrder: string;
  shipBy: string | null;
  promisedOn: string | null;
  /** Goods were moved for it, even if they were put back, or ordered straight from a supplier. */
  moved: boolean;
}

/** How a line is to be from now on. */
export interface LineAsked {
  lineId: number;
  /** 0 cancels it. */
  quantity: string;
  price: string;
  discount: string;
  /** Null: as the order. */
  shipBy: string | null;
  siteId: number | null;
  promisedOn: string | null;
}

/** What holds for the order as a whole, as it will be. */
export interface OrderAsked {
  siteId: number;
  shipBy: string;
  /** Per cent off all lines. */
  discount: string;
  today: string;
}

/** A line as it will be. */
export interface AmendedLine {
  id: number;
  itemId: number;
  stocked: boolean;
  siteId: number;
  /** It comes from another site than before. */
  changesSite: boolean;
  quantity: string;
  /** Base units: in all, what the site is to send beyond what was picked, and what comes straight from a supplier. */
  baseQuantity: string;
  wanted: Decimal;
  direct: string;
  price: string;
  discount: string;
  /** In cents. */
  amount: string;
  shipBy: string;
  promisedOn: string | null;
  /** Nothing of it is wanted: it is taken off the order, or, where goods were moved for it, stays there as cancelled. */
  end: 'none' | 'removed' | 'cancelled';
}

/** What is wrong with what is asked of the lines of a confirmed order, by field; empty when it can be had. */
export function amendFaults(was: readonly StandingLine[], asked: readonly LineAsked[], { siteId, today }: OrderAsked): FieldError[] {
  return asked.flatMap((line, index): FieldError[] => {
    const refuse = (field: string, sentence: string): FieldError[] => [{ field: `lines.${index}.${field}`, sentence }];
    const at = was.find(({ id }) => id === line.lineId);
    if (!at) return refuse('lineId', 'This order has no such line.');
    if (line.shipBy !== null && line.shipBy !== at.shipBy && line.shipBy < today) return refuse('shipBy', shipByPassed);
    if ((line.siteId ?? siteId) !== at.siteId && at.moved)
      return refuse('siteId', `Goods were picked for ${at.sku} where it comes from now. Add a line for what comes from elsewhere.`);
    const base = toBase(decimal(line.quantity), at.factor);
    const fault = quantityFault(base.toFixed(), at.step, true);
    if (fault) return refuse('quantity', quantityFaultSentence(fault, at.step));
    if (base.lt(at.picked)) return refuse('quantity', `${at.picked} of ${at.sku} are picked already; it can be no less.`);
    if (base.lt(decimal(at.picked).plus(at.onOrder)))
      return refuse('quantity', `${at.onOrder} of ${at.sku} are on order straight from a supplier; it can be no less until that is cancelled.`);
    const isPriced = decimal(line.price).eq(at.price) && decimal(line.discount).eq(at.discount);
    return !isPriced && decimal(at.dispatched).gt(zero)
      ? refuse('price', `${at.dispatched} of ${at.sku} have gone out at this price. Add a line for what goes at another.`)
      : [];
  });
}

/** The lines that were there as they will be; those that nothing is said of stay as they are. */
export function amendedLines(was: readonly StandingLine[], asked: readonly LineAsked[], order: OrderAsked): AmendedLine[] {
  return was.map((at) => {
    const line = asked.find(({ lineId }) => lineId === at.id);
    const { price, discount } = line ?? at;
    const quantity = quantityText(line?.quantity ?? at.quantity);
    const base = toBase(decimal(quantity), at.factor);
    const stands = { ...at, base: base.toFixed() };
    const direct = directKept(stands);
    const siteId = line ? (line.siteId ?? order.siteId) : at.siteId;
    const amount = lineAmount(pricedLine({ quantity, price, pricePer: at.pricePer, discount }, discountOf(decimal(discount), decimal(order.discount))));
    return {
      id: at.id,
      itemId: at.itemId,
      stocked: at.stocked,
      siteId,
      changesSite: siteId !== at.siteId,
      quantity,
      baseQuantity: base.toFixed(),
      wanted: wantedOfSite(stands, direct),
      direct: direct.toFixed(),
      price,
      discount,
      amount: amount.toFixed(2),
      shipBy: (line ? line.shipBy : at.shipBy) ?? order.shipBy,
      promisedOn: line ? line.promisedOn : at.promisedOn,
      end: base.gt(zero) ? 'none' : at.moved ? 'cancelled' : 'removed',
    };
  });
}

/** What changes of an order's lines, in words; empty when nothing does. */
export function amendWords(was: readonly StandingLine[], kept: readonly AmendedLine[], added: readonly { sku: string; quantity: string }[]): string {
  const said = kept.flatMap((line) => {
    const at = was.find(({ id }) => id === line.id);
    if (!at) return [];
    const [before, after] = [decimal(at.quantity), decimal(line.quantity)];
    const many = after.isZero() ? `no more ${at.sku}` : `${quantityText(after)} of ${at.sku} instead of ${quantityText(before)}`;
    const isPriced = decimal(line.price).eq(at.price) && decimal(line.discount).eq(at.discount);
    return [
      ...(before.eq(after) ? [] : [many]),
      ...(isPriced ? [] : [`${at.sku} at another price`]),
      ...(line.changesSite ? [`${at.sku} from another site`] : []),
      ...(at.shipBy !== null && at.shipBy !== line.shipBy ? [`${at.sku} by ${line.shipBy}`] : []),
    ];
  });
  return [...said, ...added.map(({ sku, quantity }) => `${quantityText(quantity)} of ${sku} added`)].join(', ');
}
