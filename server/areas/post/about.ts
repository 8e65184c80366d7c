import { amountText } from '@larder/core/books/currency';
import { dayInWords } from '@larder/core/day';
import { decimal, priceText, quantityText, zero } from '@larder/core/decimal';
import { askedLines } from '@larder/core/post/asked';
import type { LetterKind } from '@larder/core/post/template';
import { Refusal } from '@larder/core/refusal';
import { eq } from 'drizzle-orm';
import { seenAt, type Act } from '../../act';
import { company, party, type letter } from '../../db/schema/index';
import { letterheadOf, paperWordsOf } from '../../documents/letterhead';
import { purchase } from '../inbound/queries';
import { oneInvoice } from '../invoices/queries';
import { handOver, paperOfInvoice } from '../invoices/service';
import { sale, seenSale } from '../outbound/queries';
import { orderPaper, placeAsked } from './orderPaper';
import { salePaper } from './salePaper';

interface File {
  type: string;
  name: string;
  bytes: Uint8Array;
}

/** What a letter is about: whom it goes to, what its template may name, and the paper that goes with it. */
export interface About {
  kind: LetterKind;
  number: string;
  party: string;
  email: string;
  words: Record<string, string>;
  /** How the letter refers to it. */
  refers: Partial<Pick<typeof letter.$inferInsert, 'purchaseOrderId' | 'salesOrderId' | 'invoiceId'>>;
  paper: () => Promise<File>;
  /** Done once the letter is written. */
  sent: () => Promise<unknown>;
}

const nothingMore = () => Promise.resolve();
const pdf = (number: string, bytes: Uint8Array): File => ({ type: 'application/pdf', name: `${number}.pdf`, bytes });

async function partyAt({ tx: { db } }: Act, id: number): Promise<{ email: string; address: string }> {
  const [row] = await db.select({ email: party.email, address: party.address }).from(party).where(eq(party.id, id));
  if (!row) throw new Error(`there is no party ${id}`);
  return row;
}

async function ourName({ tx: { db } }: Act): Promise<string> {
  const [row] = await db.select({ name: company.name }).from(company);
  return row?.name ?? '';
}

/** A purchase order, to its supplier. */
export async function aboutPurchase(act: Act, id: number): Promise<About> {
  const order = await purchase(act, id);
  act.allow('inbound.order', order.siteId);
  const { email } = await partyAt(act, order.supplierId);
  return {
    kind: 'purchase order',
    number: order.number,
    party: order.supplier,
    email,
    words: {
      order: order.number,
      supplier: order.supplier,
      company: await ourName(act),
      site: placeAsked(order)[0] as string,
      day: order.expectedOn ? ` by ${dayInWords(order.expectedOn)}` : '',
      lines: [
        ...askedLines(order.lines).map(({ quantity, code, name, price }) => `${quantity} × ${code} ${name}, at ${price}`),
        ...order.charges.map(({ label, amount }) => `${label}, ${amount}`),
      ].join('\n'),
      total: `${order.total} ${order.currency}`,
      note: order.note,
      person: act.by.name,
    },
    refers: { purchaseOrderId: id },
    paper: () => paperOfPurchase(act, id),
    sent: nothingMore,
  };
}

export async function paperOfPurchase(act: Act, id: number): Promise<File> {
  const order = seenAt(act, await purchase(act, id));
  act.allow('costs.see', order.siteId);
  const { address } = await partyAt(act, order.supplierId);
  const head = { supplierAddress: address, ...(await paperWordsOf(act, 'purchase order')) };
  return pdf(order.number, await orderPaper(order, await letterheadOf(act), head));
}

/** A quote, or the confirmation of an order, to its customer. */
export async function aboutSale(act: Act, id: number): Promise<About> {
  const order = await sale(act, id);
  act.allow('outbound.sell', order.siteId);
  const { email } = await partyAt(act, order.customerId);
  const isQuote = order.confirmedAt === null;
  const lines = order.lines.filter((line) => decimal(line.baseQuantity).gt(zero));
  return {
    kind: isQuote ? 'quote' : 'confirmation',
    number: order.number,
    party: order.customer,
    email,
    words: {
      order: order.number,
      customer: order.customer,
      company: await ourName(act),
      day: isQuote ? (order.validUntil === null ? '' : `, at prices that hold until ${dayInWords(order.validUntil)}`) : ` by ${dayInWords(order.shipBy)}`,
      lines: lines
        .map((line) => `${quantityText(line.quantity)}${line.unit === 'each' ? '' : ` ${line.unit}`} × ${line.sku} ${line.name}, at ${priceText(line.price)}`)
        .join('\n'),
      total: `${amountText(order.currency, decimal(order.amount).plus(order.tax))} ${order.currency}`,
      reference: order.reference,
      note: order.note,
      person: act.by.name,
    },
    refers: { salesOrderId: id },
    paper: () => paperOfSale(act, id),
    sent: nothingMore,
  };
}

export async function paperOfSale(act: Act, id: number): Promise<File> {
  const order = seenSale(act, await sale(act, id));
  const { address } = await partyAt(act, order.customerId);
  const head = { address, ...(await paperWordsOf(act, order.confirmedAt === null ? 'quote' : 'confirmation')) };
  return pdf(order.number, await salePaper(order, await letterheadOf(act), head));
}

/** An invoice or credit note, to its customer; sent, it is handed over. */
export async function aboutInvoice(act: Act, id: number): Promise<About> {
  const one = await oneInvoice(act, id);
  return {
    kind: one.kind === 'credit' ? 'credit note' : 'invoice',
    number: one.number,
    party: one.party,
    email: one.email,
    words: {
      invoice: one.number,
      customer: one.party,
      company: await ourName(act),
      day: one.kind === 'credit' ? '' : ` by ${dayInWords(one.dueOn)}`,
      orders: one.orders,
      total: `${one.total} ${one.currency}`,
      reference: one.reference,
      person: act.by.name,
    },
    refers: { invoiceId: id },
    paper: () => paperOfInvoice(act, id),
    sent: () => handOver(act, id, true),
  };
}

/** Refuses to send a purchase order that was not placed, and an order that was cancelled. */
export async function refuseUnsendable(act: Act, { purchaseOrderId, salesOrderId }: About['refers']): Promise<void> {
  if (purchaseOrderId) {
    const order = await purchase(act, purchaseOrderId);
    if (order.placedAt === null) throw new Refusal(409, 'not-placed', `${order.number} is a draft; place it before it is sent.`);
  }
  if (salesOrderId) {
    const order = await sale(act, salesOrderId);
    if (order.state === 'cancelled') throw new Refusal(409, 'cancelled', `${order.number} is cancelled; there is nothing to send.`);
  }
}
