import { execFile } from 'node:child_process';
import { Buffer } from 'node:buffer';
import { createHash, randomBytes } from 'node:crypto';
import { createReadStream, createWriteStream, existsSync, mkdirSync, openSync, readFileSync, readSync, closeSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { dataFolder, ensureDatabase, postgresBin, psql, withPassword } from './postgres.mjs';

/**
 * A backup is one file: a line of JSON that says what it is, then PostgreSQL's own archive of the whole database, which holds pictures,
 * letters and papers as well. The line has the archive's length and SHA-256, so that what is cut off or changed is known.
 */
const kind = 'tidy-larder-backup';
const version = 1;
const lineLength = 1024;

/** The newest change of tables this version knows, by its moment. */
const newestKnown = () => Math.max(...JSON.parse(readFileSync('server/db/migrations/meta/_journal.json', 'utf8')).entries.map(({ when }) => when));
const newestIn = (url) => Number(psql(url, 'SELECT coalesce(max(created_at), 0) FROM drizzle.__drizzle_migrations'));
const rowsIn = (url) =>
  Number(
    psql(
      url,
      `SELECT coalesce(sum((xpath('/row/n/text()', query_to_xml(format('SELECT count(*) AS n FROM %I.%I', schemaname, tablename), false, true, '')))[1]::text::bigint), 0) FROM pg_tables WHERE schemaname = 'public'`,
    ),
  );

/** Runs a program to its end, while everything else goes on. */
const execute = (program, args, env) =>
  new Promise((done) =>
    execFile(program, args, { env, cwd: process.cwd(), maxBuffer: 1e8 }, (error, stdout, stderr) => done({ failed: error !== null, stdout, stderr })),
  );

async function run(program, args, url, what) {
  const { env, parts } = withPassword(url);
  const { failed, stderr } = await execute(join(postgresBin(), program), [...parts, ...args], env);
  if (failed) throw new Error(`${what}: ${/error: (.*)/.exec(stderr)?.[1] ?? 'PostgreSQL gave no reason'}.`);
}

async function shaOf(path, from = 0) {
  const sha = createHash('sha256');
  await pipeline(createReadStream(path, { start: from }), sha);
  return sha.digest('hex');
}

/** Makes a backup of a database, restores it beside, holds that against every law, and only then gives the file its name. */
export async function backUp(
  server,
  database,
  path = join(dataFolder, 'backups', `larder-${new Date().toISOString().slice(0, 19).replace(/[:T]/g, '-')}.backup`),
) {
  if (existsSync(path)) throw new Error(`${path} is there already; a backup is never written over another.`);
  if (psql(server.url(), `SELECT 1 FROM pg_database WHERE datname = '${database}'`) !== '1') throw new Error('There is no business here to back up yet.');
  mkdirSync(dirname(path), { recursive: true });
  const [archive, unfinished] = [`${path}.archive`, `${path}.unfinished`];
  try {
    await run('pg_dump', ['-Fc', '-Z', '6', '--no-owner', '--no-privileges', '-f', archive], server.url(database), 'The business could not be read');
    const about = {
      kind,
      version,
      madeAt: new Date().toISOString(),
      newest: newestIn(server.url(database)),
      bytes: statSync(archive).size,
      sha256: await shaOf(archive),
    };
    const line = JSON.stringify(about);
    const out = createWriteStream(unfinished, { mode: 0o600 });
    out.write(`${line.padEnd(lineLength - 1)}\n`);
    await pipeline(createReadStream(archive), out);
    const rows = await tried(server, unfinished);
    renameSync(unfinished, path);
    return { path, rows, bytes: statSync(path).size };
  } finally {
    for (const left of [archive, unfinished]) rmSync(left, { force: true });
  }
}

/** Restores a backup into a database of its own, which is dropped again; gives how many rows it had. Throws when a law is broken. */
async function tried(server, path) {
  const name = `larder_try_${randomBytes(4).toString('hex')}`;
  try {
    await fill(server, name, path);
    await audit(server.ownerUrl(name));
    return rowsIn(server.url(name));
  } finally {
    psql(server.url(), `DROP DATABASE IF EXISTS "${name}" WITH (FORCE)`);
  }
}

/** Brings what was put back up to this version, and holds it against every law. */
async function audit(url) {
  const { failed, stdout } = await execute(process.execPath, ['--import', 'tsx', 'server/ledger/audit.ts'], {
    ...process.env,
    NODE_OPTIONS: '',
    AUDIT_RESTORED: '1',
    DATABASE_URL: url,
  });
  if (failed) throw new Error(`What the backup holds breaks a law: ${/^BROKEN +\d+ +(.*)/m.exec(stdout)?.[1] ?? 'it could not be read'}.`);
}

/** What a backup says of itself. Refuses, with a sentence, what is none, newer than this version, cut off or changed. */
async function aboutBackup(path) {
  if (!existsSync(path)) throw new Error(`There is no file ${path}.`);
  const head = Buffer.alloc(lineLength);
  const file = openSync(path, 'r');
  const read = readSync(file, head, 0, lineLength, 0);
  closeSync(file);
  const about = readLine(head.subarray(0, read).toString('utf8'));
  if (about?.kind !== kind) throw new Error(`${path} is no backup of Tidy Larder.`);
  if (about.version > version || about.newest > newestKnown()) throw new Error(`${path} was made by a newer Tidy Larder than this one. Restore it with that.`);
  const bytes = statSync(path).size - lineLength;
  if (bytes < about.bytes) throw new Error(`${path} is cut off: ${about.bytes - bytes} bytes are missing.`);
  if (bytes > about.bytes || (await shaOf(path, lineLength)) !== about.sha256) throw new Error(`${path} was changed after it was made.`);
  return about;
}

function readLine(text) {
  try {
    return JSON.parse(text);
  } catch {
    return null; // what does not begin with such a line is no backup, and is told so
  }
}

async function fill(server, name, path) {
  const archive = join(dirname(path), `.${randomBytes(6).toString('hex')}.archive`);
  try {
    await pipeline(createReadStream(path, { start: lineLength }), createWriteStream(archive, { mode: 0o600 }));
    ensureDatabase(server, name);
    await run('pg_restore', ['--no-owner', '--no-privileges', '--exit-on-error', '-j', '2', archive], server.url(name), 'The backup could not be put back');
    ensureDatabase(server, name); // what was put back belongs to the role that migrates
  } finally {
    rmSync(archive, { force: true });
  }
}

/**
 * Puts a backup into the database: beside it first, held against every law, and then in its place. A business that is there already is
 * only replaced when told to, and never while a server is using it.
 */
export async function restore(server, database, path, replace) {
  const about = await aboutBackup(path);
  const there = psql(server.url(), `SELECT 1 FROM pg_database WHERE datname = '${database}'`) === '1';
  if (
    there &&
    !replace &&
    psql(server.url(database), `SELECT to_regclass('public.company') IS NOT NULL`) === 't' &&
    psql(server.url(database), 'SELECT count(*) FROM company') !== '0'
  )
    throw new Error('There is a business here already. Nothing was changed; add --replace to put the backup in its place.');
  if (there && psql(server.url(), `SELECT count(*) FROM pg_stat_activity WHERE datname = '${database}'`) !== '0')
    throw new Error('A server is using this business. Stop it first (Ctrl+C where npm start runs).');
  const beside = `${database}_restored`;
  psql(server.url(), `DROP DATABASE IF EXISTS "${beside}" WITH (FORCE)`);
  try {
    await fill(server, beside, path);
    await audit(server.ownerUrl(beside));
  } catch (error) {
    psql(server.url(), `DROP DATABASE IF EXISTS "${beside}" WITH (FORCE)`);
    throw error;
  }
  if (there) psql(server.url(), `DROP DATABASE "${database}"`);
  psql(server.url(), `ALTER DATABASE "${beside}" RENAME TO "${database}"`);
  return about;
}
