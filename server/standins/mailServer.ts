import { sql } from 'drizzle-orm';
import type { AddressInfo } from 'node:net';
import type pg from 'pg';
import type { Logger } from 'pino';
import { SMTPServer } from 'smtp-server';
import { drizzleOn } from '../db/database';
import { delivered } from '../db/schema/index';

const mostBytes = 25 * 1024 * 1024;

/**
 * A small mail server on loopback that ships with the product, so that letters go somewhere before a real one is named by SMTP_URL:
 * it takes what is sent to it by SMTP and keeps it. Gives its address and what stops it.
 */
export async function startMailServer(pool: pg.Pool, log: Logger): Promise<{ url: string; stop: () => Promise<void> }> {
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: mostBytes,
    onData: (stream, session, done) => {
      const parts: Buffer[] = [];
      stream.on('data', (part: Buffer) => parts.push(part));
      stream.on('end', () => {
        if (stream.sizeExceeded) return done(Object.assign(new Error('The letter is larger than 25 MB.'), { responseCode: 552 }));
        const raw = Buffer.concat(parts);
        const messageId = /^message-id:\s*(<[^>]+>)/im.exec(raw.subarray(0, 16_384).toString('latin1'))?.[1] ?? '';
        const recipients = session.envelope.rcptTo.map(({ address }) => address);
        drizzleOn(pool)
          .insert(delivered)
          .values({ messageId, recipients, raw, at: sql`now()` })
          .then(() => done(null), done);
      });
    },
  });
  server.on('error', (error) => log.debug({ err: error }, 'a sender hung up'));
  await new Promise<void>((listening) => server.listen(0, '127.0.0.1', () => listening()));
  const { port } = server.server.address() as AddressInfo;
  return { url: `smtp://127.0.0.1:${port}`, stop: () => new Promise((stopped) => server.close(() => stopped())) };
}
