import { and, eq, inArray, isNull, lte } from 'drizzle-orm';
import { createTransport } from 'nodemailer';
import type pg from 'pg';
import { drizzleOn } from '../../db/database';
import { letter } from '../../db/schema/index';

const mostTries = 5;
/** How long a mail server may keep us waiting, in milliseconds. */
const patience = { connectionTimeout: 10_000, greetingTimeout: 10_000, socketTimeout: 20_000 };
/** How long a letter is nobody else's while it is sent: longer than a mail server may keep us waiting. If we die in between, it is tried again after that. */
const claim = 120_000;
const pause = (tries: number): number => 30_000 * 2 ** tries;

/**
 * Sends letters that wait, one after the other, by SMTP; gives how many were sent. Each is claimed while it is sent, so that two
 * servers do not send the same one, and no connection is held meanwhile. What cannot be sent is tried again later, five times, and then waits for somebody to say so.
 */
export async function sendWaiting(pool: pg.Pool, smtpUrl: string, now: () => Date): Promise<number> {
  const transport = createTransport({ url: smtpUrl, ...patience });
  let sent = 0;
  try {
    for (;;) {
      const done = await sendNext(pool, transport, now());
      if (done === null) return sent;
      if (done) sent += 1;
    }
  } finally {
    transport.close();
  }
}

/** Whether the next letter could be sent; null when none waits. */
async function sendNext(pool: pg.Pool, transport: ReturnType<typeof createTransport>, now: Date): Promise<boolean | null> {
  const db = drizzleOn(pool);
  const next = db
    .select({ id: letter.id })
    .from(letter)
    .where(and(isNull(letter.sentAt), lte(letter.nextTryAt, now.toISOString())))
    .orderBy(letter.id)
    .limit(1)
    .for('update', { skipLocked: true });
  const { id, sender, recipient, raw, tries: tried } = letter;
  const [waiting] = await db
    .update(letter)
    .set({ nextTryAt: new Date(now.getTime() + claim).toISOString() })
    .where(inArray(letter.id, next))
    .returning({ id, sender, recipient, raw, tried });
  if (!waiting) return null;
  const fault = await transport.sendMail({ envelope: { from: waiting.sender, to: [waiting.recipient] }, raw: waiting.raw }).then(
    () => '',
    (error: Error) => error.message.slice(0, 300),
  );
  const tries = waiting.tried + 1;
  const nextTryAt = fault === '' || tries >= mostTries ? null : new Date(now.getTime() + pause(tries)).toISOString();
  await db
    .update(letter)
    .set({ sentAt: fault === '' ? now.toISOString() : null, fault, tries, nextTryAt })
    .where(eq(letter.id, waiting.id));
  return fault === '';
}
