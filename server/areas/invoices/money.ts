import { amountFault, amountText } from '@larder/core/books/currency';
import { settledBy } from '@larder/core/books/payment';
import type * as contract from '@larder/contract/invoices';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import type { BookEffects } from '@larder/contract/bills';
import { decimal, money, moneyLimit, sum, zero, type Decimal } from '@larder/core/decimal';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, insertRows } from '../../db/given';
import { invoice, moneyIn, moneyPart } from '../../db/schema/index';
import { refuseErrors } from '../../documents/lines';
import { companyCurrency } from '../../ledger/company';
import { Entry, refuseBookDay, writeEntry } from '../../ledger/entry';
import { lock } from '../../ledger/lock';
import { creditedNow, paidNow } from './standing';

type Form = BodyOf<typeof contract.recordMoney>;

/** Invoices as payments see them: what they come to, less credit notes, and what was paid of them. */
const standing = ({ tx: { db } }: Act, ids: readonly number[]) =>
  db
    .select({
      id: invoice.id,
      number: invoice.number,
      kind: invoice.kind,
      partyId: invoice.partyId,
      invoicedOn: invoice.invoicedOn,
      currency: invoice.currency,
      rate: invoice.rate,
      total: sql<string>`${invoice.net} + ${invoice.tax} - ${creditedNow.total}`,
      owed: sql<string>`${invoice.owed} - ${creditedNow.owed}`,
      paid: paidNow.paid,
      settled: paidNow.settled,
    })
    .from(invoice)
    .innerJoinLateral(creditedNow, sql`true`)
    .innerJoinLateral(paidNow, sql`true`)
    .where(among(invoice.id, ids));
type Standing = Awaited<ReturnType<typeof standing>>[number];
const openOf = ({ total, paid }: Standing): Decimal => decimal(total).minus(paid);

/** Records money of a customer: the payment that pays an invoice takes all that is owed of it. What differs because the rate has changed since is an exchange difference. */
export async function recordMoney(act: Act, form: Form): Promise<ResponseOf<typeof contract.recordMoney>> {
  const ids = form.parts.map(({ invoiceId }) => invoiceId);
  await lock.invoices(act, ids);
  const rows = await standing(act, ids);
  await refuseBookDay(act, form.paidOn, 'paidOn');
  refuseErrors(partFaults(form, rows));
  const [first] = rows as [Standing];
  const over = form.parts.findIndex(({ invoiceId, amount }) => decimal(amount).gt(openOf(of(rows, invoiceId))) && decimal(amount).gt(zero));
  if (over >= 0 && !form.over) {
    const row = of(rows, form.parts[over]?.invoiceId ?? 0);
    throw refuseField(
      409,
      'over-payment',
      `parts.${over}.amount`,
      `Only ${amountText(row.currency, openOf(row))} of ${row.number} is open. Record ${form.parts[over]?.amount ?? ''} all the same?`,
      ['over'],
    );
  }
  const ownCurrency = await companyCurrency(act);
  if (form.rate !== null && !decimal(form.rate).eq(1) && first.currency === ownCurrency)
    throw refuseField(422, 'not-valid', 'rate', `${first.currency} is the business's own currency: its rate is 1.`);
  const parts = form.parts.map(({ invoiceId, amount }) => partOf(of(rows, invoiceId), decimal(amount), form.rate));
  if (parts.some(({ settled, paid }) => settled.abs().gte(moneyLimit) || paid.abs().gte(moneyLimit)))
    throw refuseField(422, 'too-large', 'parts.0.amount', 'This comes to more than any account can hold.');
  const entry = await Entry.open(act);
  for (const { settled, paid } of parts) {
    entry.add('receivable', settled.neg());
    entry.add('bank', paid);
    entry.add('exchange-difference', settled.minus(paid));
  }
  if (act.tx.readOnly) return { ...entry.effects(), moneyId: null };
  const total = sum(form.parts.map(({ amount }) => decimal(amount)));
  const [added] = await act.tx.db
    .insert(moneyIn)
    .values({
      partyId: first.partyId,
      paidOn: form.paidOn,
      currency: first.currency,
      amount: amountText(first.currency, total),
      rate: form.rate ?? first.rate,
      note: form.note,
      createdAt: act.now.toISOString(),
      createdBy: act.by.id,
    })
    .returning({ id: moneyIn.id });
  const moneyId = added?.id as number;
  await insertRows(
    act.tx,
    moneyPart,
    parts.map(({ invoiceId, amount, settled, paid }) => ({
      moneyId,
      invoiceId,
      amount: amountText(first.currency, amount),
      settled: settled.toFixed(2),
      exchange: settled.minus(paid).toFixed(2),
    })),
  );
  const numbers = rows.map(({ number }) => number).join(', ');
  await writeEntry(act, { effectiveOn: form.paidOn, text: `${numbers} ${total.lt(zero) ? 'paid back' : 'paid'}`.slice(0, 200), moneyId }, entry);
  return { ...entry.effects(), moneyId };
}

const of = (rows: readonly Standing[], id: number): Standing => rows.find((row) => row.id === id) as Standing;

/** What a part of a payment takes off what is owed, and what it is worth that day, in company currency. */
function partOf(row: Standing, amount: Decimal, rate: string | null): { invoiceId: number; amount: Decimal; settled: Decimal; paid: Decimal } {
  const owed = { total: decimal(row.total), owed: decimal(row.owed), rate: decimal(row.rate) };
  const settled = settledBy(owed, { paid: decimal(row.paid), settled: decimal(row.settled) }, amount);
  return { invoiceId: row.id, amount, settled, paid: rate === null ? settled : money(amount.times(rate)) };
}

/** What is wrong with what money is for, by field: invoices of one customer in one currency, each once, none before it was issued; back comes only what was paid too much. */
function partFaults({ parts, paidOn }: Form, rows: readonly Standing[]): FieldError[] {
  const [first] = rows;
  return parts.flatMap(({ invoiceId, amount }, index): FieldError[] => {
    const refuse = (field: string, sentence: string): FieldError[] => [{ field: field === 'paidOn' ? field : `parts.${index}.${field}`, sentence }];
    const row = rows.find(({ id }) => id === invoiceId);
    if (!row || !first) return refuse('invoiceId', 'There is no such invoice.');
    if (row.kind === 'credit') return refuse('invoiceId', `${row.number} is a credit note: what it comes to is off its invoice already.`);
    if (parts.findIndex((one) => one.invoiceId === invoiceId) < index) return refuse('invoiceId', `${row.number} is named twice; say once how much is for it.`);
    if (row.partyId !== first.partyId || row.currency !== first.currency)
      return refuse('invoiceId', `${row.number} and ${first.number} are of different customers or in different currencies.`);
    if (paidOn < row.invoicedOn) return refuse('paidOn', `${row.number} is of ${row.invoicedOn}; it cannot have been paid before.`);
    const odd = amountFault(amount, row.currency);
    if (odd) return refuse('amount', odd);
    const tooMuch = openOf(row).neg();
    if (decimal(amount).lt(zero) && decimal(amount).neg().gt(tooMuch))
      return refuse(
        'amount',
        tooMuch.lte(zero) ? `Nothing too much was paid of ${row.number}.` : `Only ${amountText(row.currency, tooMuch)} too much was paid of ${row.number}.`,
      );
    return [];
  });
}

/** Undoes a payment: everything that it posted is turned round. */
export async function undoMoney(act: Act, id: number): Promise<BookEffects> {
  const { db } = act.tx;
  const parts = await db.select().from(moneyPart).where(eq(moneyPart.moneyId, id)).orderBy(moneyPart.invoiceId);
  await lock.invoices(
    act,
    parts.map(({ invoiceId }) => invoiceId),
  );
  // Read after its invoices are locked: whoever else undoes it waits for those.
  const [found] = await db.select().from(moneyIn).where(eq(moneyIn.id, id));
  if (!found) throw new Refusal(404, 'not-found', 'There is no such payment.');
  if (found.undoneAt !== null) throw new Refusal(409, 'already-undone', 'This payment was undone already.');
  const rows = await standing(
    act,
    parts.map(({ invoiceId }) => invoiceId),
  );
  const bare = rows.find((row) => decimal(row.paid).lt(parts.find(({ invoiceId }) => invoiceId === row.id)?.amount ?? 0));
  if (bare) throw new Refusal(409, 'rests-on-it', `Money of ${bare.number} was paid back or moved since. Undo that first.`);
  const entry = await Entry.open(act);
  for (const { settled, exchange } of parts) {
    entry.add('receivable', decimal(settled));
    entry.add('bank', decimal(exchange).minus(settled));
    entry.add('exchange-difference', decimal(exchange).neg());
  }
  if (act.tx.readOnly) return entry.effects();
  await db.update(moneyIn).set({ undoneAt: act.now.toISOString() }).where(eq(moneyIn.id, id));
  await writeEntry(act, { effectiveOn: act.today, text: `${rows.map(({ number }) => number).join(', ')}: payment undone`.slice(0, 200), moneyId: id }, entry);
  return entry.effects();
}
