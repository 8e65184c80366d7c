import { randomUUID } from 'node:crypto';
import { dayInWords } from '@larder/core/day';
import { askedLines } from '@larder/core/post/asked';
import { fillTemplate, firstOrderTemplate, refuseTemplate, type Template } from '@larder/core/post/template';
import { Refusal } from '@larder/core/refusal';
import type * as contract from '@larder/contract/post';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import type { PurchaseOrder } from '@larder/contract/inbound';
import MailComposer from 'nodemailer/lib/mail-composer';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { seenAt, type Act } from '../../act';
import { cause } from '../../jobs/outbox';
import { company, letter, letterTemplate, party, purchaseOrder } from '../../db/schema/index';
import { purchase } from '../inbound/queries';
import { orderPaper, placeAsked } from './orderPaper';

interface About {
  company: string;
  email: string;
  address: string;
}

async function about({ tx }: Act, order: PurchaseOrder): Promise<About> {
  const [row] = await tx.db
    .select({ company: company.name, email: party.email, address: party.address })
    .from(party)
    .innerJoin(company, sql`true`)
    .where(eq(party.id, order.supplierId));
  if (!row) throw new Error('the order has a supplier');
  return row;
}

async function template({ tx }: Act): Promise<Template> {
  const [own] = await tx.db
    .select({ subject: letterTemplate.subject, text: letterTemplate.text })
    .from(letterTemplate)
    .where(eq(letterTemplate.kind, 'purchase order'));
  return own ?? firstOrderTemplate;
}

/** The letter an order would be sent with: the template filled in. */
export async function orderLetter(act: Act, id: number): Promise<ResponseOf<typeof contract.orderLetter>> {
  const order = await purchase(act, id);
  act.allow('inbound.order', order.siteId);
  const { company: business, email } = await about(act, order);
  const own = await template(act);
  const lines = askedLines(order.lines);
  const filled = fillTemplate(own, {
    order: order.number,
    supplier: order.supplier,
    company: business,
    site: placeAsked(order)[0] as string,
    day: order.expectedOn ? ` by ${dayInWords(order.expectedOn)}` : '',
    lines: [
      ...lines.map(({ quantity, code, name, price }) => `${quantity} × ${code} ${name}, at ${price}`),
      ...order.charges.map(({ label, amount }) => `${label}, ${amount}`),
    ].join('\n'),
    total: `${order.total} ${order.currency}`,
    note: order.note,
    person: act.by.name,
  });
  return { number: order.number, supplier: order.supplier, to: email, ...filled, template: own };
}

export async function paperOfOrder(act: Act, id: number): Promise<{ type: string; name: string; bytes: Uint8Array }> {
  return paperOf(act, seenAt(act, await purchase(act, id)));
}

async function paperOf(act: Act, order: PurchaseOrder): Promise<{ type: string; name: string; bytes: Uint8Array }> {
  act.allow('costs.see', order.siteId);
  const { company: business, address } = await about(act, order);
  return { type: 'application/pdf', name: `${order.number}.pdf`, bytes: await orderPaper(order, { company: business, supplierAddress: address }) };
}

/** Writes the letter with the order attached; the job that sends it begins once this is done. An order that was not placed is not sent. */
export async function sendOrder(act: Act, id: number, form: BodyOf<typeof contract.sendOrder>): Promise<ResponseOf<typeof contract.sendOrder>> {
  const order = await purchase(act, id);
  act.allow('inbound.order', order.siteId);
  if (order.placedAt === null) throw new Refusal(409, 'not-placed', `${order.number} is a draft; place it before it is sent.`);
  const { company: business } = await about(act, order);
  const paper = await paperOf(act, order);
  const messageId = `<${randomUUID()}@tidy-larder.invalid>`;
  const sender = act.by.email;
  const raw = await new MailComposer({
    from: { name: `${act.by.name}, ${business}`, address: sender },
    to: form.to,
    subject: form.subject,
    text: form.text,
    date: act.now,
    messageId,
    attachments: [{ filename: paper.name, content: Buffer.from(paper.bytes), contentType: paper.type }],
  })
    .compile()
    .build();
  const [added] = await act.tx.db
    .insert(letter)
    .values({
      purchaseOrderId: id,
      messageId,
      sender,
      recipient: form.to,
      subject: form.subject,
      body: form.text,
      attached: [paper.name],
      raw,
      writtenAt: act.now.toISOString(),
      writtenBy: act.by.id,
      nextTryAt: act.now.toISOString(),
    })
    .returning({ id: letter.id });
  if (!added) throw new Error('the letter was written');
  await cause(act, 'sendLetter', { letterId: added.id }, String(added.id));
  return added;
}

/** Keeps the letter that orders of the whole business are sent with. */
export async function keepTemplate(act: Act, form: BodyOf<typeof contract.keepTemplate>): Promise<Template> {
  act.allow('inbound.order', null);
  refuseTemplate(form);
  await act.tx.db
    .insert(letterTemplate)
    .values({ kind: 'purchase order', ...form })
    .onConflictDoUpdate({ target: letterTemplate.kind, set: form });
  return form;
}

export async function sendAgain(act: Act, id: number): Promise<ResponseOf<typeof contract.sendAgain>> {
  const { tx, now } = act;
  const [of] = await tx.db
    .select({ siteId: purchaseOrder.siteId })
    .from(letter)
    .leftJoin(purchaseOrder, eq(purchaseOrder.id, letter.purchaseOrderId))
    .where(eq(letter.id, id));
  if (!of) throw new Refusal(404, 'not-found', 'There is no such letter.');
  act.allow('inbound.order', of.siteId);
  const [row] = await tx.db
    .update(letter)
    .set({ nextTryAt: now.toISOString(), tries: 0 })
    .where(and(eq(letter.id, id), isNull(letter.sentAt)))
    .returning({ id: letter.id });
  if (!row) throw new Refusal(409, 'sent-already', 'This letter was sent already.');
  await cause(act, 'sendLetter', { letterId: id }, String(id));
  return row;
}
