// npm start: installs what is missing, starts PostgreSQL on loopback, builds, migrates, loads the demo into an empty database, serves.
import { spawn } from 'node:child_process';
import { ensureBuilt } from './build.mjs';
import { ensurePackages } from './packages.mjs';
import { ensureDatabase, startPostgres } from './postgres.mjs';

const options = process.argv.slice(2);
const known = new Set(['--fresh', '--empty']);
const unknown = options.find((option) => !known.has(option));
if (unknown) {
  console.error(`${unknown} is not known. There are --fresh (start over) and --empty (a business with nothing but its first person).`);
  process.exit(1);
}

let child = null;
let asked = false;
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
  process.on(signal, () => {
    asked = true;
    child?.kill('SIGTERM');
  });

ensurePackages();
const server = await startPostgres().catch((error) => {
  console.error(error.message);
  process.exit(1);
});
const external = process.env.DATABASE_URL;
const { ownerUrl, appUrl } = external
  ? { ownerUrl: process.env.DATABASE_OWNER_URL ?? external, appUrl: external }
  : ensureDatabase(server, options.includes('--empty') ? 'larder_empty' : 'larder', options.includes('--fresh'));
ensureBuilt();
if (asked) await finish(0);
else {
  child = spawn(process.execPath, ['--enable-source-maps', 'server/dist/main.js', ...options.filter((option) => option === '--empty')], {
    stdio: ['inherit', 'inherit', 'inherit', 'ipc'],
    env: { NODE_ENV: 'production', ...process.env, DATABASE_URL: appUrl, DATABASE_OWNER_URL: ownerUrl },
  });
  child.on('exit', (code) => void finish(asked ? 0 : (code ?? 1)));
}

/** The database stops after the server. */
async function finish(code) {
  await server.stop();
  process.exit(code);
}
