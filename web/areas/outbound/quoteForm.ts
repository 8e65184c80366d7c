import { currencyPlaces } from '@larder/core/books/currency';
import { decimal, least, sum } from '@larder/core/decimal';
import { taxOf } from '@larder/core/outbound/tax';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { customerItems } from '@larder/contract/customers';
import type { SalesOrder } from '@larder/contract/outbound';
import { baseQuantity, draftAmount, sentLines, writtenLines, type DraftLine } from '../../shared/draftLines';

/** A quote while it is written. */
export interface QuoteForm {
  customer: { id: number; name: string } | null;
  siteId: number;
  /** Undefined until somebody types a day: then it is the day that the business proposes. */
  shipBy: string | undefined;
  validUntil: string | undefined;
  reference: string;
  /** Empty: to the customer's own address. */
  shipTo: string;
  currency: string;
  /** How much of the company's currency one of it is; empty in the company's own. */
  rate: string;
  /** Per cent off all lines; empty: nothing. */
  discount: string;
  /** It goes out whole or not at all. */
  whole: boolean;
  note: string;
  lines: DraftLine[];
}

/** What a quote begins with: the order itself; or, for a new one, the order it is copied from without its days and number. */
export const quoteForm = (
  like: SalesOrder | undefined,
  isCopy: boolean,
  { siteId, currency }: { siteId: number; currency: string },
  {
    customer,
    again = [],
  }: { customer?: { id: number; name: string; salesCurrency?: string | null } | undefined; again?: readonly BoughtItem[] | undefined } = {},
): QuoteForm => ({
  customer: like ? { id: like.customerId, name: like.customer } : customer ? { id: customer.id, name: customer.name } : null,
  siteId: like?.siteId ?? siteId,
  shipBy: isCopy ? undefined : like?.shipBy,
  validUntil: isCopy ? undefined : (like?.validUntil ?? undefined),
  reference: isCopy ? '' : (like?.reference ?? ''),
  shipTo: like?.shipTo ?? '',
  currency: like?.currency ?? customer?.salesCurrency ?? currency,
  rate: like && like.currency !== currency ? like.rate : '',
  discount: orNothing(like?.discount),
  whole: like?.whole ?? false,
  note: isCopy ? '' : (like?.note ?? ''),
  lines: like ? linesLike(like, isCopy) : again.map(lineAgain),
});

/** An item as a customer ordered it last. */
export type BoughtItem = ResponseOf<typeof customerItems>['rows'][number];

/** So many of it as the last time, at what it costs today. */
const lineAgain = ({ itemId, sku, name, lastUnit, lastUnitId, factor, lastQuantity }: BoughtItem): DraftLine => ({
  itemId,
  sku,
  name,
  unit: lastUnit,
  unitId: lastUnitId,
  factor: decimal(factor.numerator).div(factor.denominator).toFixed(),
  units: [],
  quantity: lastQuantity,
  price: '0',
  pricePer: '1',
  discount: '',
});

/** Lines as those of an order, those that were cancelled left out. */
function linesLike(like: SalesOrder, isCopy: boolean): DraftLine[] {
  const standing = like.lines.filter(({ quantity }) => Number(quantity) > 0);
  return writtenLines(standing).map((line, at) => {
    const was = standing[at] as (typeof standing)[number];
    return {
      ...line,
      discount: orNothing(was.discount),
      ...(!isCopy && was.shipBy !== like.shipBy ? { shipBy: was.shipBy } : {}),
      ...(was.siteId === like.siteId ? {} : { siteId: was.siteId }),
      asked: was.asked,
      ...(isCopy
        ? { ownPrice: false }
        : {
            promisedOn: was.promisedOn,
            direct: was.direct,
            bring: was.bringFrom && { siteId: was.bringFrom.id, site: was.bringFrom.name, quantity: was.bring },
          }),
    };
  });
}

const orNothing = (percent: string | undefined): string => (percent === undefined || Number(percent) === 0 ? '' : percent);

/** The days that the business proposes for a quote, until somebody types others. */
export interface ProposedDays {
  shipBy: string;
  validUntil: string;
}

/** What is sent of lines that are sold. */
export const sentSaleLines = (lines: readonly DraftLine[]) =>
  sentLines(lines).map((line, at) => ({
    ...line,
    discount: lines[at]?.discount?.trim() || '0',
    shipBy: lines[at]?.shipBy ?? null,
    siteId: lines[at]?.siteId ?? null,
    promisedOn: lines[at]?.promisedOn ?? null,
    direct: straightOf(lines[at]),
    askedItemId: lines[at]?.asked?.itemId ?? null,
    bring: broughtOf(lines[at]),
    bringFromId: Number(broughtOf(lines[at])) > 0 ? (lines[at]?.bring?.siteId ?? null) : null,
  }));

/** How many base units of a line come straight from a supplier: no more than are ordered. */
export function straightOf(line: DraftLine | undefined): string {
  const base = line ? baseQuantity(line) : null;
  return base === null ? '0' : least(decimal(line?.direct ?? '0'), decimal(base)).toFixed();
}

/** How many base units of a line are brought from another site: no more than are ordered and do not come straight from a supplier. */
export function broughtOf(line: DraftLine | undefined): string {
  const base = line ? baseQuantity(line) : null;
  return base === null ? '0' : least(decimal(line?.bring?.quantity ?? '0'), decimal(base).minus(straightOf(line))).toFixed();
}

/** What is sent of a quote. */
export const sentQuote = (
  { customer, siteId, shipBy, validUntil, reference, shipTo, currency, rate, discount, whole, note, lines }: QuoteForm,
  { own, ...proposed }: ProposedDays & { own: string },
) => ({
  customerId: customer?.id ?? 0,
  siteId,
  shipBy: shipBy ?? proposed.shipBy,
  validUntil: validUntil ?? proposed.validUntil,
  reference,
  shipTo,
  currency,
  rate: currency === own ? null : rate.trim() || null,
  discount: discount.trim() || '0',
  whole,
  note,
  lines: sentSaleLines(lines),
});

/** What a quote comes to, sum by sum, in its currency; what cannot be reckoned yet counts for nothing. `rateOf` is the tax on an item, per cent. */
export function quoteSums(
  { lines, discount, currency }: Pick<QuoteForm, 'lines' | 'discount' | 'currency'>,
  rateOf: (itemId: number) => string,
): (readonly [string, string])[] {
  const places = currencyPlaces(currency) ?? 2;
  const amounts = lines.map((line) => ({ amount: decimal(draftAmount(line, places, discount.trim() || '0') ?? '0'), rate: decimal(rateOf(line.itemId)) }));
  const goods = sum(lines.map((line) => decimal(draftAmount(line, places) ?? '0')));
  const net = sum(amounts.map(({ amount }) => amount));
  const tax = taxOf(amounts, places);
  return [
    ['Goods', goods.toFixed(places)],
    ...(goods.eq(net) ? [] : [[`${discount.trim()} % off`, net.minus(goods).toFixed(places)] as const]),
    ['Tax', tax.toFixed(places)],
    ['In all', net.plus(tax).toFixed(places)],
  ];
}
