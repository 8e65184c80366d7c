import { randomBytes } from 'node:crypto';
import type pg from 'pg';
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

const serving = 'larder_test_app';

/** The address of a database as the role that serves sees it. */
export function servingUrlOf(database: string): string {
  const url = new URL(urlOf(database));
  [url.username, url.password] = [serving, serving];
  return url.toString();
}

/** The role the application serves as in tests: it may no more than in earnest. */
export async function makeServingRole(server: pg.Pool): Promise<void> {
  const { rowCount } = await server.query('SELECT FROM pg_roles WHERE rolname = $1', [serving]);
  if (rowCount === 0) await server.query(`CREATE ROLE ${serving} LOGIN PASSWORD '${serving}'`);
}

/** A fresh, migrated database of one's own; `drop` takes it away again. */
export async function freshDatabase(): Promise<{ url: string; servingUrl: string; drop: () => Promise<void> }> {
  const name = `larder_test_${randomBytes(6).toString('hex')}`;
  const run = async (sql: string) => {
    const server = connect(serverUrl(), { max: 1, patient: true });
    await server.query(sql);
    await server.end();
  };
  await run(`CREATE DATABASE ${name} TEMPLATE ${templateName}`);
  return { url: urlOf(name), servingUrl: servingUrlOf(name), drop: () => run(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`) };
}
