import { randomUUID } from 'node:crypto';
import MailComposer from 'nodemailer/lib/mail-composer';
import type { Tx } from '../db/database';
import { letter } from '../db/schema/index';
import { cause } from '../jobs/outbox';

/** Whom of our own people something is told. */
export interface Told {
  id: number;
  name: string;
  email: string;
  /** The name of the business. */
  business: string;
}

/**
 * Writes a letter of the application to one of our own people, about something and with the place where one acts on it. It is sent once this is kept. Answers its id.
 * It comes from their own address, so that no mail server takes it for somebody else's.
 */
export async function tellPerson(
  { tx, now }: { tx: Tx; now: Date },
  { id, email, business }: Told,
  { subject, text, leadsTo }: { subject: string; text: string; leadsTo: string },
): Promise<number> {
  const messageId = `<${randomUUID()}@tidy-larder.invalid>`;
  const from = { name: `Tidy Larder, ${business}`, address: email };
  const raw = await new MailComposer({ from, to: email, subject, text, date: now, messageId }).compile().build();
  const at = now.toISOString();
  const [added] = await tx.db
    .insert(letter)
    .values({
      messageId,
      sender: email,
      recipient: email,
      subject,
      body: text,
      attached: [],
      raw,
      writtenAt: at,
      writtenBy: null,
      forId: id,
      leadsTo,
      nextTryAt: at,
    })
    .returning({ id: letter.id });
  if (!added) throw new Error('the letter was written');
  await cause({ tx }, 'sendLetter', { letterId: added.id }, String(added.id));
  return added.id;
}
