import { currencyFaults } from '@larder/core/books/currency';
import { refuseField } from '@larder/core/refusal';
import { desc, eq, and, ne } from 'drizzle-orm';
import { union } from 'drizzle-orm/pg-core';
import type { Act } from '../act';
import { bill, invoice, purchaseOrder, salesOrder } from '../db/schema/index';
import { plain } from '../db/text';
import { companyCurrency } from '../ledger/company';
import { refuseErrors } from './lines';

/** A currency, and how much of the company's one of it is. */
export interface Money {
  currency: string;
  rate: string;
}

/** In which currency an order is written, and at which rate: the company's own when none is said. Refuses by the field what cannot be, and another currency without a rate. */
export async function moneyOf(act: Act, { currency, rate }: { currency?: string | undefined; rate: string | null }): Promise<Money> {
  const own = await companyCurrency(act);
  const money = { currency: currency ?? own, rate: rate ?? '1' };
  refuseErrors(currencyFaults(money.currency, money.rate, own));
  if (rate === null && money.currency !== own) throw refuseField(422, 'not-valid', 'rate', `Say how much ${own} one ${money.currency} is.`);
  return money;
}

/** The rate at which a currency was used last, on an order, a bill or an invoice; null when it never was. */
export async function lastRate({ tx: { db } }: Act, currency: string): Promise<string | null> {
  const used = <T extends typeof salesOrder | typeof purchaseOrder | typeof bill | typeof invoice>(table: T) =>
    db
      .select({ rate: plain(table.rate), at: table.createdAt })
      .from(table as typeof salesOrder)
      .where(and(eq(table.currency, currency), ne(table.rate, '1')))
      .orderBy(desc(table.createdAt))
      .limit(1);
  const rates = await union(used(salesOrder), used(purchaseOrder), used(bill), used(invoice));
  return rates.sort((a, b) => (a.at < b.at ? 1 : -1))[0]?.rate ?? null;
}
