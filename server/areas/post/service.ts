import { randomUUID } from 'node:crypto';
import { fillTemplate, firstTemplates, refuseTemplate, type LetterKind, type Template } from '@larder/core/post/template';
import { Refusal } from '@larder/core/refusal';
import type * as contract from '@larder/contract/post';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import MailComposer from 'nodemailer/lib/mail-composer';
import { and, eq, isNull } from 'drizzle-orm';
import type { Act } from '../../act';
import { cause } from '../../jobs/outbox';
import { letter, letterTemplate } from '../../db/schema/index';
import { refuseUnsendable, type About } from './about';
import { aboutLetter } from './queries';

export { poster } from './poster';

/** The words that letters of a kind are sent with. */
export async function template({ tx }: Act, kind: LetterKind): Promise<Template> {
  const [own] = await tx.db.select({ subject: letterTemplate.subject, text: letterTemplate.text }).from(letterTemplate).where(eq(letterTemplate.kind, kind));
  return own ?? firstTemplates[kind];
}

/** The letter that something would be sent with: the template filled in. */
export async function letterOf(act: Act, { kind, number, party, email, words }: About): Promise<ResponseOf<typeof contract.orderLetter>> {
  const own = await template(act, kind);
  return { kind, number, party, to: email, ...fillTemplate(own, words), template: own };
}

/** Writes the letter with the paper attached; the job that sends it begins once this is done. */
export async function send(act: Act, about: About, form: BodyOf<typeof contract.sendOrder>): Promise<ResponseOf<typeof contract.sendOrder>> {
  await refuseUnsendable(act, about.refers);
  const paper = await about.paper();
  const messageId = `<${randomUUID()}@tidy-larder.invalid>`;
  const sender = act.by.email;
  const raw = await new MailComposer({
    from: { name: `${act.by.name}, ${about.words['company'] ?? ''}`, address: sender },
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
      ...about.refers,
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
  await about.sent();
  await cause(act, 'sendLetter', { letterId: added.id }, String(added.id));
  return added;
}

/** Keeps the words that letters of a kind are sent with, for the whole business. */
export async function keepTemplate(act: Act, kind: LetterKind, form: Template): Promise<Template> {
  refuseTemplate(form, kind);
  await act.tx.db
    .insert(letterTemplate)
    .values({ kind, ...form })
    .onConflictDoUpdate({ target: letterTemplate.kind, set: form });
  return form;
}

const rightFor = { purchase: 'inbound.order', sale: 'outbound.sell', invoice: 'books.invoice', notice: 'setup.edit', lot: 'outbound.sell' } as const;

/** Tries again to send a letter about something of a kind. */
export async function sendAgain(act: Act, id: number, kind: keyof typeof rightFor): Promise<ResponseOf<typeof contract.sendAgain>> {
  const of = await aboutLetter(act, id);
  if (of.kind !== kind) throw new Refusal(404, 'not-found', 'There is no such letter.');
  act.allow(rightFor[kind], of.siteId);
  const { tx, now } = act;
  const [row] = await tx.db
    .update(letter)
    .set({ nextTryAt: now.toISOString(), tries: 0 })
    .where(and(eq(letter.id, id), isNull(letter.sentAt)))
    .returning({ id: letter.id });
  if (!row) throw new Refusal(409, 'sent-already', 'This letter was sent already.');
  await cause(act, 'sendLetter', { letterId: id }, String(id));
  return row;
}
