import { weekday } from '@larder/core/day';
import { eq } from 'drizzle-orm';
import type { Act } from '../act';
import { creditInvoice } from '../areas/invoices/credit';
import { createInvoices } from '../areas/invoices/service';
import { recordMoney } from '../areas/invoices/money';
import { handOver, invoices, oneInvoice } from '../areas/invoices/queries';
import { toInvoice } from '../areas/invoices/toInvoice';
import { company, paperWords } from '../db/schema/index';
import { dice } from './dice';

const all = { limit: 200 };
const friday = 5;

/** Invoices of the made-up business and what its customers pay, through the same services as people use. */
export class Invoicing {
  private readonly chance = dice(417);

  /** What stands on its papers. */
  async setUp({ tx: { db } }: Act): Promise<void> {
    await db
      .update(company)
      .set({
        address: 'The Old Granary, Weir Lane\nLarkmoor LM3',
        taxNumber: 'LB 417 2205 38',
        payTo: 'Please pay to Larkmoor Savings Bank, account 41 72 20 53, and name the number of the invoice.',
      })
      .where(eq(company.id, 1));
    await db.insert(paperWords).values({ kind: 'invoice', opening: 'Thank you for your order. This is what went out to you.', closing: '' });
  }

  /** On Fridays what went out is invoiced, and customers pay what is due; some of them late. */
  async day(act: Act): Promise<void> {
    if (weekday(act.today) !== friday) return;
    await this.paid(act);
    const { rows } = await toInvoice(act, all);
    if (rows.length === 0) return;
    const made = await createInvoices(act, { orderIds: rows.map(({ orderId }) => orderId), each: 'order', invoicedOn: act.today });
    for (const { id } of made.invoices) if (id !== null && this.chance.roll() < 0.9) await handOver(act, id, true);
    const [first] = made.invoices;
    if (first?.id && this.chance.roll() < 0.12) await this.credit(act, first.id);
  }

  private async paid(act: Act): Promise<void> {
    const { rows } = await invoices(act, { ...all, show: 'open' });
    for (const { id, open, dueOn, invoicedOn } of rows) {
      const isDue = dueOn <= act.today || this.chance.roll() < 0.15;
      if (Number(open) <= 0 || invoicedOn === act.today || !isDue || this.chance.roll() < 0.3) continue;
      await recordMoney(act, { paidOn: act.today, rate: null, note: '', parts: [{ invoiceId: id, amount: open }], over: false });
    }
  }

  /** Something came broken: one of a line is taken off. */
  private async credit(act: Act, id: number): Promise<void> {
    const { lines } = await oneInvoice(act, id);
    const [line] = lines;
    if (!line?.quantity) return;
    const amount = (Number(line.amount) / Number(line.quantity)).toFixed(2);
    if (Number(amount) > 0 && Number(amount) <= Number(line.amount))
      await creditInvoice(act, id, { invoicedOn: act.today, opening: 'One came broken.', closing: '', lines: [{ lineId: line.id, quantity: null, amount }] });
  }
}
