import { isIP } from 'node:net';

/** What the server is told by its environment. */
export interface Settings {
  /** Of the role that serves, and of the one that owns the tables and migrates them. */
  databaseUrl: string;
  ownerUrl: string;
  host: string;
  port: number;
  /** How many proxies stand before it; their word on the address and on https is taken. */
  proxies: number;
  smtpUrl: string | null;
  /** Where people open it: links in letters and calendars begin with it. */
  publicUrl: string;
  empty: boolean;
}

/** Whether only this machine can reach the address. */
export const isLoopback = (host: string): boolean => host === 'localhost' || host === '::1' || /^127\./.test(host);

/** Reads the settings; throws a sentence that says which one does not fit. */
export function readSettings(env: NodeJS.ProcessEnv, options: readonly string[]): Settings {
  const databaseUrl = env.DATABASE_URL ?? '';
  if (databaseUrl === '') throw new Error('DATABASE_URL says which database to use; npm start sets it.');
  const port = Number(env.PORT ?? 4310);
  if (!Number.isInteger(port) || port < 0 || port > 65_535) throw new Error(`PORT is a number up to 65535, not “${env.PORT ?? ''}”.`);
  const proxies = Number(env.TRUST_PROXY ?? 0);
  if (!Number.isInteger(proxies) || proxies < 0 || proxies > 10)
    throw new Error(`TRUST_PROXY says how many proxies stand before this server, such as 1; not “${env.TRUST_PROXY ?? ''}”.`);
  const host = env.HOST ?? '127.0.0.1';
  if (host !== 'localhost' && isIP(host) === 0) throw new Error(`HOST is an address of this machine, such as 0.0.0.0; not “${host}”.`);
  if (!isLoopback(host) && proxies === 0)
    throw new Error(
      'HOST opens this server beyond this machine. Passwords must not travel in the clear: put a proxy with https before it and say so with TRUST_PROXY=1.',
    );
  const publicUrl = (env.PUBLIC_URL ?? `http://${host.includes(':') ? `[${host}]` : host}:${port}`).replace(/\/$/, '');
  if (!/^https?:$/.test(URL.canParse(publicUrl) ? new URL(publicUrl).protocol : ''))
    throw new Error(`PUBLIC_URL is the address people open, such as https://stock.larkmoor.example; not “${env.PUBLIC_URL ?? ''}”.`);
  return {
    databaseUrl,
    ownerUrl: env.DATABASE_OWNER_URL ?? databaseUrl,
    host,
    port,
    proxies,
    smtpUrl: env.SMTP_URL ?? null,
    publicUrl,
    empty: options.includes('--empty'),
  };
}
