import { amountText, currencyPlaces } from '@larder/core/books/currency';
import { once, toBase, type Factor } from '@larder/core/catalog/units';
import { decimal, moneyLimit, quantityFault, quantityFaultSentence, type Decimal } from '@larder/core/decimal';
import { lineAmount, pricedLine } from '@larder/core/inbound/amount';
import { discountOf } from '@larder/core/outbound/pricing';
import { Refusal, type FieldError } from '@larder/core/refusal';
import type { Tracking } from '@larder/core/stock/lots';
import type { OrderLine } from '@larder/contract/values';
import type { z } from 'zod';
import { and, eq, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../act';
import { among, oneRow } from '../db/given';
import { jsonRows, type RowOf } from '../db/json';
import { prepared } from '../db/prepared';
import { item, itemUnit, place, unit } from '../db/schema/index';

const otherUnit = alias(unit, 'other_unit');

/** What lines need to know of their items. */
const itemFields = {
  id: item.id,
  sku: item.sku,
  step: sql<string>`trim_scale(${unit.step})::text`,
  unit: unit.code,
  unitId: unit.id,
  /** Units it is bought and sold in beside the base unit. */
  units: jsonRows({ unitId: itemUnit.unitId, unit: otherUnit.code, numerator: itemUnit.numerator, denominator: itemUnit.denominator }, (select) =>
    select.from(itemUnit).innerJoin(otherUnit, eq(otherUnit.id, itemUnit.unitId)).where(eq(itemUnit.itemId, item.id)),
  ),
  tracking: item.tracking,
  /** Lies in places of ours; what is not kept in stock is used as it comes. */
  stocked: sql<boolean>`${item.kind} = 'stocked'`,
  taxCodeId: item.taxCodeId,
  retired: sql<boolean>`${item.retiredAt} is not null`,
};
export type ItemFacts = RowOf<typeof itemFields>;

export interface BinFacts {
  siteId: number;
  sellable: boolean;
}

const readFacts = prepared(['items', 'bins'], (db, value) =>
  db
    .select({
      items: jsonRows(itemFields, (select) => select.from(item).innerJoin(unit, eq(unit.id, item.unitId)).where(among(item.id, value.items))),
      bins: jsonRows({ id: place.id, siteId: sql<number>`${place.siteId}`, sellable: place.sellable }, (select) =>
        select.from(place).where(and(eq(place.kind, 'bin'), among(place.id, value.bins))),
      ),
    })
    .from(oneRow),
);

/** What lines need to know of their items and bins, by id. */
export async function lineFacts(
  { tx }: Act,
  itemIds: readonly number[],
  binIds: readonly number[] = [],
): Promise<{ items: Map<number, ItemFacts>; bins: Map<number, BinFacts> }> {
  const [row] = await readFacts(tx, { items: [...new Set(itemIds)], bins: [...new Set(binIds)] });
  return { items: new Map((row?.items ?? []).map((one) => [one.id, one])), bins: new Map((row?.bins ?? []).map((one) => [one.id, one])) };
}

/** What is wrong with a line's quantity for its item, by field. */
export function quantityError(facts: ItemFacts, quantity: string, field: string, allowZero = false): FieldError | null {
  const fault = quantityFault(quantity, facts.step, allowZero);
  return fault ? { field, sentence: quantityFaultSentence(fault, facts.step) } : null;
}

/** Refuses lines of what is not kept in stock where only stock can be meant. */
export function refuseNotKept(lines: readonly { itemId: number }[], items: ReadonlyMap<number, ItemFacts>): void {
  refuseErrors(
    lines.flatMap(({ itemId }, index) => {
      const item = items.get(itemId);
      return item?.stocked === false
        ? [{ field: `lines.${index}.itemId`, sentence: `${item.sku} is not kept in stock: there is nothing of it to count.` }]
        : [];
    }),
  );
}

/** Throws with all errors at once, the first as the headline. */
export function refuseErrors(errors: readonly FieldError[]): void {
  if (errors[0]) throw new Refusal(422, 'not-valid', errors[0].sentence, errors);
}

export interface WrittenLine {
  position: number;
  itemId: number;
  sku: string;
  tracking: Tracking;
  /** Of the base unit. */
  step: string;
  quantity: string;
  unit: string;
  factorNumerator: number;
  factorDenominator: number;
  baseQuantity: string;
  price: string;
  pricePer: string;
  /** Per cent off this line. */
  discount: string;
  taxCodeId: number | null;
  amount: string;
  stocked: boolean;
}

/** The unit a line is written in, with how many base units it is; undefined when the item is neither bought nor sold in it. */
const unitOf = (item: ItemFacts, unitId: number | null): ({ unit: string } & Factor) | undefined =>
  unitId === null || unitId === item.unitId ? { unit: item.unit, ...once } : item.units.find((one) => one.unitId === unitId);

/** What holds for all lines of an order: the tax on everything (null: the item's), the currency, its rate, and per cent off all of it. */
export interface LineTerms {
  taxCodeId: number | null;
  currency: string;
  rate: string;
  discount?: string;
}

/** Lines of an order as they are written, checked against their items; the base quantity is what stock will move. */
export async function writtenLines(
  act: Act,
  lines: readonly (z.output<typeof OrderLine> & { discount?: string })[],
  { taxCodeId, currency, rate, discount: ofOrder = '0' }: LineTerms,
  list = 'lines',
): Promise<WrittenLine[]> {
  const { items } = await lineFacts(
    act,
    lines.map(({ itemId }) => itemId),
  );
  const errors = lines.flatMap((line, index): FieldError[] => {
    const item = items.get(line.itemId);
    if (!item) return [{ field: `${list}.${index}.itemId`, sentence: 'There is no such item.' }];
    if (item.retired) return [{ field: `${list}.${index}.itemId`, sentence: `${item.sku} is retired.` }];
    const unit = unitOf(item, line.unitId);
    if (!unit) return [{ field: `${list}.${index}.unitId`, sentence: `${item.sku} is neither bought nor sold in that unit.` }];
    const fault = quantityError(item, toBase(decimal(line.quantity), unit).toFixed(), `${list}.${index}.quantity`);
    return fault ? [fault] : [];
  });
  refuseErrors(errors);
  return lines.map((line, index) => {
    const item = items.get(line.itemId) as ItemFacts;
    const { unit, numerator, denominator } = unitOf(item, line.unitId) as { unit: string } & Factor;
    const discount = line.discount ?? '0';
    const amount = lineAmount(pricedLine({ ...line, discount }, discountOf(decimal(discount), decimal(ofOrder))), currencyPlaces(currency) ?? 2);
    return {
      position: index + 1,
      itemId: line.itemId,
      sku: item.sku,
      tracking: item.tracking,
      step: item.step,
      quantity: line.quantity,
      unit,
      factorNumerator: numerator,
      factorDenominator: denominator,
      baseQuantity: toBase(decimal(line.quantity), { numerator, denominator }).toFixed(),
      price: line.price,
      pricePer: line.pricePer,
      discount,
      taxCodeId: taxCodeId ?? item.taxCodeId,
      amount: heldAmount(amount, currency, rate, `${list}.${index}.price`),
      stocked: item.stocked,
    };
  });
}

/** Refuses an amount that no account can hold. */
function heldAmount(amount: Decimal, currency: string, rate: string, field: string): string {
  if (amount.gte(moneyLimit) || amount.times(rate).gte(moneyLimit))
    throw new Refusal(422, 'not-valid', 'The amount of this line is beyond all bounds.', [
      { field, sentence: 'Quantity times price is more than any account can hold.' },
    ]);
  return amountText(currency, amount);
}
