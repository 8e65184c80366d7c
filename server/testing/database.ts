import { randomBytes } from 'node:crypto';
import { connect } from '../db/database';

export const templateName = 'larder_template';

export function serverUrl(): string {
  const url = process.env.TEST_SERVER_URL;
  if (!url) throw new Error('TEST_SERVER_URL says where the test databases are; npm test sets it.');
  return url;
}

export function urlOf(database: string): string {
  const url = new URL(serverUrl());
  url.pathname = `/${database}`;
  return url.toString();
}

/** A fresh, migrated database of one's own; `drop` takes it away again. */
export async function freshDatabase(): Promise<{ url: string; drop: () => Promise<void> }> {
  const name = `larder_test_${randomBytes(6).toString('hex')}`;
  const run = async (sql: string) => {
    const server = connect(serverUrl(), { max: 1, patient: true });
    await server.query(sql);
    await server.end();
  };
  await run(`CREATE DATABASE ${name} TEMPLATE ${templateName}`);
  return { url: urlOf(name), drop: () => run(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`) };
}
