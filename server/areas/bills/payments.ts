import { eq, sql } from 'drizzle-orm';
import { amountFault, amountText } from '@larder/core/books/currency';
import { settledBy } from '@larder/core/books/payment';
import { decimal, money, moneyLimit } from '@larder/core/decimal';
import { Refusal, refuseField } from '@larder/core/refusal';
import type * as contract from '@larder/contract/bills';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';
import { bill, payment } from '../../db/schema/index';
import { companyCurrency } from '../../ledger/company';
import { Entry, refuseBookDay, writeEntry } from '../../ledger/entry';
import { lock } from '../../ledger/lock';
import { formOf } from './queries';

/** Records a payment: the last one takes all that is owed. What differs because the rate has changed since the bill is an exchange difference. */
export async function pay(act: Act, id: number, form: BodyOf<typeof contract.pay>): Promise<ResponseOf<typeof contract.pay>> {
  await lock.bills(act, [id]);
  const { number, state, kind, rate, open, total, owed, settled: before, currency, billedOn } = await formOf(act, id);
  if (state === 'waiting' || state === 'undone') throw new Refusal(409, 'not-owed', `${number} is ${state}; there is nothing to pay.`);
  await refuseBookDay(act, form.paidOn, 'paidOn');
  if (form.paidOn < billedOn) throw refuseField(409, 'before-bill', 'paidOn', `${number} is of ${billedOn}; it cannot have been paid before.`);
  const odd = amountFault(form.amount, currency);
  if (odd) throw refuseField(422, 'not-valid', 'amount', odd);
  const sameRate = form.rate === undefined || decimal(form.rate).eq(rate);
  if (!sameRate && currency === (await companyCurrency(act)))
    throw refuseField(422, 'not-valid', 'rate', `${currency} is the business's own currency: its rate is 1.`);
  if (decimal(form.amount).gt(open) && !form.over)
    throw refuseField(409, 'over-payment', 'amount', `Only ${open} of ${number} is open. Pay ${form.amount} all the same?`, ['over']);
  const settled = settledBy(
    { total: decimal(total), owed: decimal(owed), rate: decimal(rate) },
    { paid: decimal(total).minus(open), settled: decimal(before) },
    decimal(form.amount),
  );
  const paid = sameRate ? settled : money(decimal(form.amount).times(form.rate ?? rate));
  if (paid.gte(moneyLimit) || settled.gte(moneyLimit)) throw refuseField(422, 'too-large', 'amount', 'This comes to more than any account can hold.');
  const sign = kind === 'credit' ? -1 : 1;
  const entry = await Entry.open(act);
  entry.add('payable', settled.times(sign));
  entry.add('bank', paid.times(-sign));
  entry.add('exchange-difference', paid.minus(settled).times(sign));
  if (act.tx.readOnly) return { ...entry.effects(), paymentId: null };
  const [added] = await act.tx.db
    .insert(payment)
    .values({
      billId: id,
      paidOn: form.paidOn,
      amount: amountText(currency, decimal(form.amount)),
      rate: form.rate ?? rate,
      settled: settled.toFixed(2),
      exchange: paid.minus(settled).toFixed(2),
      note: form.note,
      createdAt: act.now.toISOString(),
      createdBy: act.by.id,
    })
    .returning({ id: payment.id });
  const paymentId = added?.id as number;
  await writeEntry(act, { effectiveOn: form.paidOn, text: `${number} paid`, billId: id, paymentId }, entry);
  return { ...entry.effects(), paymentId };
}

export async function undoPayment(act: Act, id: number): Promise<contract.BookEffects> {
  const { db } = act.tx;
  const undone = sql<boolean>`${payment.undoneAt} is not null`;
  const [found] = await db
    .select({ billId: bill.id, number: bill.number, kind: bill.kind, undone, settled: payment.settled, exchange: payment.exchange })
    .from(payment)
    .innerJoin(bill, eq(bill.id, payment.billId))
    .where(eq(payment.id, id));
  if (!found) throw new Refusal(404, 'not-found', 'There is no such payment.');
  await lock.bills(act, [found.billId]);
  const [now] = await db.select({ undone }).from(payment).where(eq(payment.id, id));
  if (now?.undone) throw new Refusal(409, 'already-undone', `This payment of ${found.number} was undone already.`);
  const sign = found.kind === 'credit' ? 1 : -1;
  const entry = await Entry.open(act);
  entry.add('payable', decimal(found.settled).times(sign));
  entry.add('bank', decimal(found.settled).plus(found.exchange).times(-sign));
  entry.add('exchange-difference', decimal(found.exchange).times(sign));
  if (act.tx.readOnly) return entry.effects();
  await db.update(payment).set({ undoneAt: act.now.toISOString() }).where(eq(payment.id, id));
  await writeEntry(act, { effectiveOn: act.today, text: `${found.number}: payment undone`, billId: found.billId, paymentId: id }, entry);
  return entry.effects();
}
