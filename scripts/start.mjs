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
ensurePackages();
const server = await startPostgres();
const url = process.env.DATABASE_URL ?? ensureDatabase(server, options.includes('--empty') ? 'larder_empty' : 'larder', options.includes('--fresh'));
ensureBuilt();
const child = spawn(process.execPath, ['--import', 'tsx', 'server/main.ts', ...options.filter((option) => option === '--empty')], {
  stdio: 'inherit',
  env: { NODE_ENV: 'production', ...process.env, DATABASE_URL: url },
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill('SIGTERM'));
child.on('exit', (code) => {
  server.stop();
  process.exit(code ?? 0);
});
