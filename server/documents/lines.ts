import { decimal, quantityFault, quantityFaultSentence, type Decimal } from '@larder/core/decimal';
import { lineAmount } from '@larder/core/inbound/amount';
import { Refusal, type FieldError } from '@larder/core/refusal';
import type { Tracking } from '@larder/core/stock/lots';
import type { Act } from '../act';

export interface ItemFacts {
  id: number;
  sku: string;
  step: string;
  unit: string;
  tracking: Tracking;
  kind: string;
  taxCodeId: number | null;
  retired: boolean;
}

export interface BinFacts {
  siteId: number;
  sellable: boolean;
}

const factsSql = `SELECT
  (SELECT coalesce(json_agg(json_build_object('id', i.id, 'sku', i.sku, 'step', trim_scale(u.step)::text, 'unit', u.code, 'tracking', i.tracking, 'kind', i.kind, 'taxCodeId', i.tax_code_id, 'retired', i.retired_at IS NOT NULL)), '[]')
    FROM item i JOIN unit u ON u.id = i.unit_id WHERE i.id = ANY($1)) AS items,
  (SELECT coalesce(json_agg(json_build_object('id', id, 'siteId', site_id, 'sellable', sellable)), '[]') FROM place WHERE kind = 'bin' AND id = ANY($2)) AS bins`;

/** What lines need to know of their items and bins, by id. */
export async function lineFacts(
  { tx }: Act,
  itemIds: readonly number[],
  binIds: readonly number[] = [],
): Promise<{ items: Map<number, ItemFacts>; bins: Map<number, BinFacts> }> {
  const [row] = await tx.rows<{ items: ItemFacts[]; bins: (BinFacts & { id: number })[] }>(factsSql, [[...new Set(itemIds)], [...new Set(binIds)]]);
  return { items: new Map((row?.items ?? []).map((one) => [one.id, one])), bins: new Map((row?.bins ?? []).map((one) => [one.id, one])) };
}

/** What is wrong with a line's quantity for its item, by field. */
export function quantityError(facts: ItemFacts, quantity: string, field: string, allowZero = false): FieldError | null {
  const fault = quantityFault(quantity, facts.step, allowZero);
  return fault ? { field, sentence: quantityFaultSentence(fault, facts.step) } : null;
}

/** Throws with all errors at once, the first as the headline. */
export function refuseErrors(errors: readonly FieldError[]): void {
  if (errors[0]) throw new Refusal(422, 'not-valid', errors[0].sentence, errors);
}

export interface WrittenLine {
  position: number;
  itemId: number;
  quantity: string;
  unit: string;
  baseQuantity: string;
  price: string;
  taxCodeId: number | null;
  amount: string;
}

/** Lines of an order as they are written, checked against their items. Quantities are in the base unit. */
export async function writtenLines(act: Act, lines: readonly { itemId: number; quantity: string; price: string }[]): Promise<WrittenLine[]> {
  const { items } = await lineFacts(
    act,
    lines.map(({ itemId }) => itemId),
  );
  const errors = lines.flatMap((line, index): FieldError[] => {
    const item = items.get(line.itemId);
    if (!item) return [{ field: `lines.${index}.itemId`, sentence: 'There is no such item.' }];
    if (item.retired) return [{ field: `lines.${index}.itemId`, sentence: `${item.sku} is retired.` }];
    const fault = quantityError(item, line.quantity, `lines.${index}.quantity`);
    return fault ? [fault] : [];
  });
  refuseErrors(errors);
  return lines.map((line, index) => {
    const item = items.get(line.itemId) as ItemFacts;
    const amount = lineAmount({ quantity: decimal(line.quantity), price: decimal(line.price), pricePer: decimal(1), discount: decimal(0) });
    return {
      position: index + 1,
      itemId: line.itemId,
      quantity: line.quantity,
      unit: item.unit,
      baseQuantity: line.quantity,
      price: line.price,
      taxCodeId: item.taxCodeId,
      amount: amountText(amount, index),
    };
  });
}

/** Refuses an amount that no account can hold. */
function amountText(amount: Decimal, index: number): string {
  if (amount.gte('1e15'))
    throw new Refusal(422, 'not-valid', 'The amount of this line is beyond all bounds.', [
      { field: `lines.${index}.price`, sentence: 'Quantity times price is too large.' },
    ]);
  return amount.toFixed(2);
}
