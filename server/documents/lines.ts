import { decimal, quantityFault, quantityFaultSentence, type Decimal } from '@larder/core/decimal';
import { lineAmount } from '@larder/core/inbound/amount';
import { Refusal, type FieldError } from '@larder/core/refusal';
import type { Act } from '../act';

export interface ItemFacts {
  id: number;
  sku: string;
  step: string;
  unit: string;
  tracking: string;
  taxCodeId: number | null;
  retired: boolean;
}

/** What lines need to know of their items, by id. */
export async function itemFacts({ tx }: Act, ids: readonly number[]): Promise<Map<number, ItemFacts>> {
  const rows = await tx.rows<ItemFacts>(
    `SELECT i.id, i.sku, trim_scale(u.step)::text AS step, u.code AS unit, i.tracking, i.tax_code_id AS "taxCodeId", i.retired_at IS NOT NULL AS retired FROM item i JOIN unit u ON u.id = i.unit_id WHERE i.id = ANY($1)`,
    [[...new Set(ids)]],
  );
  return new Map(rows.map((row) => [row.id, row]));
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
  const facts = await itemFacts(
    act,
    lines.map(({ itemId }) => itemId),
  );
  const errors = lines.flatMap((line, index): FieldError[] => {
    const item = facts.get(line.itemId);
    if (!item) return [{ field: `lines.${index}.itemId`, sentence: 'There is no such item.' }];
    if (item.retired) return [{ field: `lines.${index}.itemId`, sentence: `${item.sku} is retired.` }];
    const fault = quantityError(item, line.quantity, `lines.${index}.quantity`);
    return fault ? [fault] : [];
  });
  refuseErrors(errors);
  return lines.map((line, index) => {
    const item = facts.get(line.itemId) as ItemFacts;
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
