import { randomUUID } from 'node:crypto';
import { askedLines, dayInWords } from '@larder/core/letters/asked';
import { fillTemplate, firstOrderTemplate, refuseTemplate, type Template } from '@larder/core/letters/template';
import { Refusal } from '@larder/core/refusal';
import type * as contract from '@larder/contract/post';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import type { PurchaseOrder } from '@larder/contract/inbound';
import MailComposer from 'nodemailer/lib/mail-composer';
import type { Act } from '../../act';
import { letter, letterTemplate } from '../../db/schema/index';
import { purchase } from '../inbound/queries';
import { orderPaper, placeAsked } from './orderPaper';

interface About {
  company: string;
  email: string;
  address: string;
}

async function about({ tx }: Act, order: PurchaseOrder): Promise<About> {
  const [row] = await tx.rows<About>('SELECT (SELECT name FROM company) AS company, email, address FROM party WHERE id = $1', [order.supplierId]);
  if (!row) throw new Error('the order has a supplier');
  return row;
}

async function template({ tx }: Act): Promise<Template> {
  const [own] = await tx.rows<Template>(`SELECT subject, text FROM letter_template WHERE kind = 'purchase order'`);
  return own ?? firstOrderTemplate;
}

/** The letter an order would be sent with: the template filled in. */
export async function orderLetter(act: Act, id: number): Promise<ResponseOf<typeof contract.orderLetter>> {
  const order = await purchase(act, id);
  const { company, email } = await about(act, order);
  const own = await template(act);
  const lines = askedLines(order.lines);
  const filled = fillTemplate(own, {
    order: order.number,
    supplier: order.supplier,
    company,
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
  const order = await purchase(act, id);
  const { company, address } = await about(act, order);
  return { type: 'application/pdf', name: `${order.number}.pdf`, bytes: await orderPaper(order, { company, supplierAddress: address }) };
}

/** Writes the letter with the order attached; the poster sends it once this is done. An order that was not placed is not sent. */
export async function sendOrder(act: Act, id: number, form: BodyOf<typeof contract.sendOrder>): Promise<ResponseOf<typeof contract.sendOrder>> {
  const order = await purchase(act, id);
  act.allow('inbound.order', order.siteId);
  if (order.placedAt === null) throw new Refusal(409, 'not-placed', `${order.number} is a draft; place it before it is sent.`);
  const { company } = await about(act, order);
  const paper = await paperOfOrder(act, id);
  const messageId = `<${randomUUID()}@tidy-larder.invalid>`;
  const sender = act.by.email;
  const raw = await new MailComposer({
    from: { name: `${act.by.name}, ${company}`, address: sender },
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
  return { id: added?.id as number };
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
  const [of] = await tx.rows<{ siteId: number | null }>(
    'SELECT o.site_id AS "siteId" FROM letter l LEFT JOIN purchase_order o ON o.id = l.purchase_order_id WHERE l.id = $1',
    [id],
  );
  if (!of) throw new Refusal(404, 'not-found', 'There is no such letter.');
  act.allow('inbound.order', of.siteId);
  const [row] = await tx.rows<{ id: number }>('UPDATE letter SET next_try_at = $2, tries = 0 WHERE id = $1 AND sent_at IS NULL RETURNING id', [
    id,
    now.toISOString(),
  ]);
  if (!row) throw new Refusal(409, 'sent-already', 'This letter was sent already.');
  return row;
}
