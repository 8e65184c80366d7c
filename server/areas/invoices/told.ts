import { amountText } from '@larder/core/books/currency';
import { decimal, priceText, quantityText, zero } from '@larder/core/decimal';
import type * as contract from '@larder/contract/invoices';
import { eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { item, lot, movementLine, salesLine, salesOrder, unit } from '../../db/schema/index';
import { plain } from '../../db/text';
import type { Worked, WorkedLine } from './work';

/** What lots or serials went out with lines of movements. */
export const lotsOf = async ({ tx: { db } }: Act, movementLineIds: readonly number[]): Promise<Map<number, string>> => {
  const rows = await db
    .select({ id: movementLine.id, code: lot.code })
    .from(movementLine)
    .innerJoin(lot, eq(lot.id, movementLine.lotId))
    .where(among(movementLine.id, movementLineIds));
  return new Map(rows.map(({ id, code }) => [id, code]));
};

/** Lines as they are worked out, told like those of an issued invoice. */
export async function told(act: Act, lines: readonly WorkedLine[], currency: string): Promise<contract.InvoiceLine[]> {
  const ordered = await orderedLines(
    act,
    lines.flatMap(({ salesLineId }) => (salesLineId === null ? [] : [salesLineId])),
  );
  const lots = await lotsOf(
    act,
    lines.flatMap(({ covers }) => covers.map(({ movementLineId }) => movementLineId)),
  );
  return lines.map((line) => {
    const quantity = line.quantity === null ? null : quantityText(line.quantity);
    return {
      kind: line.kind,
      salesLineId: line.salesLineId,
      shipmentId: line.shipmentId,
      text: line.text,
      quantity,
      lots: [...new Set(line.covers.flatMap(({ movementLineId }) => lots.get(movementLineId) ?? []))],
      taxCodeId: line.taxCodeId,
      taxRate: quantityText(line.taxRate),
      amount: amountText(currency, line.amount),
      ...saidAsOrdered(
        ordered.find(({ id }) => id === line.salesLineId),
        quantity,
      ),
    };
  });
}

/** An invoice as it is foreseen or was issued. */
export const posted = (
  id: number | null,
  number: string | null,
  { currency, net, tax, taxes, entry, dueOn }: Pick<Worked, 'currency' | 'net' | 'tax' | 'taxes' | 'entry' | 'dueOn'>,
  lines: contract.InvoiceLine[],
): contract.InvoicePosted => ({
  id,
  number,
  dueOn,
  lines,
  currency,
  net: amountText(currency, net),
  tax: amountText(currency, tax),
  total: amountText(currency, net.plus(tax)),
  taxes: taxes.map(({ rate, base, tax: part }) => ({ rate, base: amountText(currency, base), tax: amountText(currency, part) })),
  ...entry.effects(),
});

const orderedFields = {
  id: salesLine.id,
  order: salesOrder.number,
  position: salesLine.position,
  sku: item.sku,
  unit: unit.code,
  quantity: plain(salesLine.quantity),
  orderedIn: salesLine.unit,
  baseQuantity: plain(salesLine.baseQuantity),
  price: plain(salesLine.price),
  pricePer: plain(salesLine.pricePer),
  discount: plain(salesLine.discount),
  ofOrder: plain(salesOrder.discount),
};

/** Order lines as a line of an invoice tells of them. */
export const orderedLines = ({ tx: { db } }: Act, ids: readonly number[]) =>
  db
    .select(orderedFields)
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .where(among(salesLine.id, ids));
type OrderedLine = Awaited<ReturnType<typeof orderedLines>>[number];

/** How many in the unit that was ordered, what one costs, and what is taken off it, in words. */
export function saidAsOrdered(
  at: OrderedLine | undefined,
  quantity: string | null,
): Pick<contract.InvoiceLine, 'asOrdered' | 'price' | 'discount' | 'order' | 'sku' | 'unit'> {
  if (!at) return { asOrdered: '', price: '', discount: '', order: '', sku: '', unit: '' };
  const many = quantity === null ? zero : decimal(quantity).times(at.quantity).div(at.baseQuantity);
  const inUnit = at.orderedIn === 'each' ? '' : ` ${at.orderedIn}`;
  const per = decimal(at.pricePer).eq(1) ? '' : ` for ${quantityText(at.pricePer)}`;
  return {
    order: at.order,
    sku: at.sku,
    unit: at.unit,
    asOrdered: quantity === null ? '' : `${quantityText(many)}${inUnit}`,
    price: `${priceText(at.price)}${per}`,
    discount: [at.discount, at.ofOrder]
      .filter((one) => !decimal(one).isZero())
      .map((one) => `${quantityText(one)} %`)
      .join(' and '),
  };
}
