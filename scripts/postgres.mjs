import { execFileSync, spawnSync } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { chownSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join, resolve } from 'node:path';

const isRoot = process.getuid?.() === 0;
export const dataFolder = resolve(process.env.LARDER_DATA ?? '.data');

/** Installs Debian packages when this may be done; else says the one line to run. Returns whether they are there then. */
export function installDebian(packages, why) {
  const sudo = !isRoot && spawnSync('sudo', ['-n', 'true']).status === 0;
  if (!isRoot && !sudo) {
    console.error(`${why} Run this once, then try again:\n  sudo apt-get install -y ${packages.join(' ')}`);
    return false;
  }
  console.log(`${why} Installing ${packages.join(', ')}.`);
  // Another installation may be under way on this machine: its lock is waited for.
  const apt = (...args) =>
    spawnSync(sudo ? 'sudo' : 'apt-get', [...(sudo ? ['apt-get'] : []), '-o', 'DPkg::Lock::Timeout=300', ...args], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  apt('update');
  return apt('install', '-y', '--no-install-recommends', ...packages).status === 0;
}

/** The folder of PostgreSQL's programs, installed when missing. */
export function postgresBin() {
  const find = () => ['17', '16', '15'].map((version) => `/usr/lib/postgresql/${version}/bin`).find((folder) => existsSync(join(folder, 'initdb')));
  const found = find();
  if (found) return found;
  if (!installDebian(['postgresql'], 'PostgreSQL is missing.')) process.exit(1);
  return find();
}

/**
 * Starts the PostgreSQL of this folder on loopback, unless it runs already or DATABASE_URL names another server.
 * Returns its address without a database, and how to stop it again when it was started here.
 */
export async function startPostgres(name = 'postgres') {
  if (process.env.DATABASE_URL) return { url: (database) => withDatabase(process.env.DATABASE_URL, database), stop: () => {} };
  const bin = postgresBin();
  const folder = reachable(name);
  const as = isRoot ? (program, args) => ['runuser', ['-u', 'postgres', '--', join(bin, program), ...args]] : (program, args) => [join(bin, program), args];
  const run = (program, args) => execFileSync(...as(program, args), { stdio: ['ignore', 'ignore', 'inherit'], cwd: '/' });
  const secret = join(folder, 'password');
  const cluster = join(folder, 'cluster');
  if (!existsSync(join(cluster, 'PG_VERSION'))) {
    writeFileSync(secret, randomBytes(18).toString('base64url'), { mode: 0o600 });
    own(secret);
    run('initdb', ['-D', cluster, '-U', 'larder', '--pwfile', secret, '--auth=scram-sha-256', '-E', 'UTF8', '--locale=C.UTF-8']);
  }
  const running = spawnSync(...as('pg_ctl', ['status', '-D', cluster]), { stdio: 'ignore', cwd: '/' }).status === 0;
  if (!running) {
    const port = await freePort();
    run('pg_ctl', [
      'start',
      '-w',
      '-s',
      '-D',
      cluster,
      '-l',
      join(folder, 'log'),
      '-o',
      `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c max_connections=120 -c shared_buffers=256MB -c max_wal_size=2GB`,
    ]);
  }
  const port = readFileSync(join(cluster, 'postmaster.pid'), 'utf8').split('\n')[3];
  const address = `postgresql://larder:${readFileSync(secret, 'utf8')}@127.0.0.1:${port}/postgres`;
  return { url: (database) => withDatabase(address, database), stop: running ? () => {} : () => run('pg_ctl', ['stop', '-s', '-m', 'fast', '-D', cluster]) };
}

function withDatabase(address, database) {
  if (!database) return address;
  const url = new URL(address);
  url.pathname = `/${database}`;
  return url.toString();
}

/** A folder the server's own user can reach: below the data folder, or below /var/lib when only root may enter there. */
function reachable(name) {
  const near = join(dataFolder, name);
  mkdirSync(near, { recursive: true });
  if (!isRoot) return near;
  own(dataFolder);
  own(near);
  if (spawnSync('runuser', ['-u', 'postgres', '--', 'test', '-w', near]).status === 0) return near;
  const far = join('/var/lib/tidy-larder', createHash('sha256').update(near).digest('hex').slice(0, 12), name);
  mkdirSync(far, { recursive: true });
  own(join(far, '..'));
  own(far);
  return far;
}

function own(path) {
  if (!isRoot) return;
  const ids = ['-u', '-g'].map((flag) => Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8' })));
  chownSync(path, ids[0], ids[1]);
}

const freePort = () =>
  new Promise((done, failed) => {
    const probe = createServer().once('error', failed);
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => done(port));
    });
  });

/** Runs SQL on a database with PostgreSQL's own psql. */
export function psql(url, sql) {
  return execFileSync('psql', [url, '-qAtX', '-v', 'ON_ERROR_STOP=1', '-c', sql], { encoding: 'utf8' }).trim();
}

/** Makes the database when it is missing; with `fresh` drops it first. */
export function ensureDatabase(server, name, fresh = false) {
  if (fresh) psql(server.url(), `DROP DATABASE IF EXISTS "${name}" WITH (FORCE)`);
  if (psql(server.url(), `SELECT 1 FROM pg_database WHERE datname = '${name}'`) !== '1') psql(server.url(), `CREATE DATABASE "${name}"`);
  return server.url(name);
}
