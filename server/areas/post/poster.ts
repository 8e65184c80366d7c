import { and, eq, isNull } from 'drizzle-orm';
import { createTransport } from 'nodemailer';
import type pg from 'pg';
import { drizzleOn } from '../../db/database';
import { letter } from '../../db/schema/index';
import { pauseAfter, type Caused } from '../../jobs/jobs';
import type { Task } from '../../jobs/worker';

/** How long a mail server may keep us waiting, in milliseconds. */
const patience = { connectionTimeout: 10_000, greetingTimeout: 10_000, socketTimeout: 20_000 };

/**
 * Sends a letter by SMTP; no connection to the database is held meanwhile. What cannot be sent says why and fails, so that it is tried again later;
 * after the last time it waits for somebody to say so. What was sent already is not sent again.
 */
export function poster(pool: pg.Pool, smtpUrl: string, now: () => Date): Task<Caused['sendLetter']> {
  const transport = createTransport({ url: smtpUrl, ...patience });
  return async ({ letterId }, { attempts, max_attempts: most }) => {
    const db = drizzleOn(pool);
    const { sender, recipient, raw } = letter;
    const [waiting] = await db
      .select({ sender, recipient, raw })
      .from(letter)
      .where(and(eq(letter.id, letterId), isNull(letter.sentAt)));
    if (!waiting) return;
    const fault = await transport.sendMail({ envelope: { from: waiting.sender, to: [waiting.recipient] }, raw: waiting.raw }).then(
      () => '',
      (error: Error) => error.message.slice(0, 300),
    );
    const sentAt = fault === '' ? now().toISOString() : null;
    const nextTryAt = fault === '' || attempts >= most ? null : new Date(now().getTime() + pauseAfter(attempts)).toISOString();
    await db.update(letter).set({ sentAt, fault, tries: attempts, nextTryAt }).where(eq(letter.id, letterId));
    if (fault !== '') throw new Error(fault);
  };
}
