import { createTransport } from 'nodemailer';
import type pg from 'pg';

const mostTries = 5;
/** How long a mail server may keep us waiting, in milliseconds. */
const patience = { connectionTimeout: 10_000, greetingTimeout: 10_000, socketTimeout: 20_000 };
/** How long a letter is nobody else's while it is sent: longer than a mail server may keep us waiting. If we die in between, it is tried again after that. */
const claim = 120_000;
const pause = (tries: number): number => 30_000 * 2 ** tries;

interface Waiting {
  id: number;
  sender: string;
  recipient: string;
  raw: Buffer;
  tries: number;
}

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
  const { rows } = await pool.query<Waiting>(
    `UPDATE letter SET next_try_at = $2 WHERE id = (SELECT id FROM letter WHERE sent_at IS NULL AND next_try_at <= $1 ORDER BY id LIMIT 1 FOR UPDATE SKIP LOCKED)
     RETURNING id, sender, recipient, raw, tries`,
    [now.toISOString(), new Date(now.getTime() + claim).toISOString()],
  );
  const [letter] = rows;
  if (!letter) return null;
  const fault = await transport.sendMail({ envelope: { from: letter.sender, to: [letter.recipient] }, raw: letter.raw }).then(
    () => '',
    (error: Error) => error.message.slice(0, 300),
  );
  const tries = letter.tries + 1;
  const next = fault === '' || tries >= mostTries ? null : new Date(now.getTime() + pause(tries)).toISOString();
  await pool.query('UPDATE letter SET sent_at = $2, fault = $3, tries = $4, next_try_at = $5 WHERE id = $1', [
    letter.id,
    fault === '' ? now.toISOString() : null,
    fault,
    tries,
    next,
  ]);
  return fault === '';
}
