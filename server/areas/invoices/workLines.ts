import { amountFault, currencyPlaces, moneyIn } from '@larder/core/books/currency';
import { decimal, sum, zero, type Decimal } from '@larder/core/decimal';
import { invoicedAmount, openParts } from '@larder/core/outbound/invoicing';
import type { FieldError } from '@larder/core/refusal';
import { and, eq, isNotNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { account, invoice, invoiceLine, item, itemAccount, salesLine } from '../../db/schema/index';
import { refuseErrors } from '../../documents/lines';
import type { Entry } from '../../ledger/entry';
import { openFreight, type WentOut } from './wentOut';
import type { Form, WorkedLine } from './work';

export type BareLine = Omit<WorkedLine, 'company' | 'taxRate'>;

/** What has been invoiced of order lines so far by quantity: how much they came to, in their currency. */
async function invoicedSoFar({ tx: { db } }: Act, salesLineIds: readonly number[]): Promise<Map<number, Decimal>> {
  const rows = await db
    .select({
      id: sql<number>`${invoiceLine.salesLineId}`,
      amount: sql<string>`sum(case ${invoice.kind} when 'credit' then -1 else 1 end * ${invoiceLine.amount})`,
    })
    .from(invoiceLine)
    .innerJoin(invoice, eq(invoice.id, invoiceLine.invoiceId))
    .where(and(among(invoiceLine.salesLineId, salesLineIds), isNotNull(invoiceLine.quantity)))
    .groupBy(invoiceLine.salesLineId);
  return new Map(rows.map(({ id, amount }) => [id, decimal(amount)]));
}

/** A line for each order line that something went out of. */
export async function goodsLines(act: Act, { texts }: Form, currency: string, gone: readonly WentOut[]): Promise<BareLine[]> {
  const parts = openParts(gone);
  const ids = parts.map(({ salesLineId }) => salesLineId);
  const rows = await act.tx.db
    .select({
      id: salesLine.id,
      sku: item.sku,
      name: item.name,
      amount: salesLine.amount,
      baseQuantity: salesLine.baseQuantity,
      invoiced: salesLine.invoiced,
      taxCodeId: salesLine.taxCodeId,
      accountId: itemAccount.sales,
    })
    .from(salesLine)
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .innerJoin(itemAccount, eq(itemAccount.itemId, item.id))
    .where(among(salesLine.id, ids))
    .orderBy(salesLine.orderId, salesLine.position);
  const soFar = await invoicedSoFar(act, ids);
  return rows.map((row) => {
    const part = parts.find(({ salesLineId }) => salesLineId === row.id) as (typeof parts)[number];
    const had = { quantity: decimal(row.invoiced), amount: soFar.get(row.id) ?? zero };
    const whole = { amount: decimal(row.amount), baseQuantity: decimal(row.baseQuantity) };
    return {
      kind: 'goods',
      salesLineId: row.id,
      shipmentId: null,
      text: texts.find(({ salesLineId }) => salesLineId === row.id)?.text ?? row.name,
      quantity: part.quantity,
      amount: invoicedAmount(whole, had, part.quantity, currencyPlaces(currency) ?? 2),
      accountId: row.accountId,
      taxCodeId: row.taxCodeId,
      covers: part.covers,
    };
  });
}

/** The tax that most of the goods bear: what is charged for bringing them is taxed alike. */
export function mostTaxed(goods: readonly { taxCodeId: number | null; amount: Decimal }[]): number | null {
  const codes = [...new Set(goods.map(({ taxCodeId }) => taxCodeId))];
  const worth = (code: number | null) => sum(goods.filter(({ taxCodeId }) => taxCodeId === code).map(({ amount }) => amount));
  return codes.reduce<number | null>((most, code) => (most === null || worth(code).gt(worth(most)) ? code : most), null);
}

/** What is charged for shipments that went with these dispatches: as the form says, else as it was said when they went. */
export async function freightLines(
  act: Act,
  form: Form,
  { currency, rate, gone, entry, usualTax }: { currency: string; rate: string; gone: readonly WentOut[]; entry: Entry; usualTax: number | null },
): Promise<BareLine[]> {
  const all = await openFreight(
    act,
    gone.map(({ orderId }) => orderId),
  );
  const open = all.filter(({ movementId }) => gone.some((one) => one.movementId === movementId));
  const asked =
    form.freight ??
    open.flatMap(({ shipmentId, charged }) => {
      const amount = moneyIn(currency, decimal(charged).div(rate));
      return amount.isZero() ? [] : [{ shipmentId, amount: amount.toFixed(), taxCodeId: usualTax }];
    });
  refuseErrors(
    asked.flatMap(({ shipmentId, amount }, index): FieldError[] => {
      const odd = amountFault(amount, currency);
      if (odd) return [{ field: `freight.${index}.amount`, sentence: odd }];
      const twice = asked.findIndex((one) => one.shipmentId === shipmentId) < index;
      if (!twice && open.some((one) => one.shipmentId === shipmentId)) return [];
      return [{ field: `freight.${index}.shipmentId`, sentence: 'This shipment did not go with these dispatches, or was charged already.' }];
    }),
  );
  return asked.map(({ shipmentId, amount, taxCodeId }) => ({
    kind: 'freight',
    salesLineId: null,
    shipmentId,
    text: `Freight, ${open.find((one) => one.shipmentId === shipmentId)?.number ?? ''}`,
    quantity: null,
    amount: decimal(amount),
    accountId: entry.idOf('freight-income'),
    taxCodeId,
    covers: [],
  }));
}

/** What else is charged, in words. */
export async function otherLines({ tx }: Act, { others }: Form, currency: string, entry: Entry): Promise<BareLine[]> {
  const incomes = await tx.db.select({ id: account.id }).from(account).where(eq(account.type, 'income'));
  refuseErrors(
    others.flatMap(({ amount, accountId }, index): FieldError[] => {
      const odd = amountFault(amount, currency);
      if (odd) return [{ field: `others.${index}.amount`, sentence: odd }];
      return accountId === null || incomes.some(({ id }) => id === accountId)
        ? []
        : [{ field: `others.${index}.accountId`, sentence: 'Choose an account of income.' }];
    }),
  );
  return others.map(({ text, amount, accountId, taxCodeId }) => ({
    kind: 'other',
    salesLineId: null,
    shipmentId: null,
    text,
    quantity: null,
    amount: decimal(amount),
    accountId: accountId ?? entry.idOf('sales'),
    taxCodeId,
    covers: [],
  }));
}
