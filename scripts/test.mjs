// npm test: core and server tests, then the journeys in a browser against a server with the demo, then the audit of what they left.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { createServer } from 'node:net';
import { ensureBuilt } from './build.mjs';
import { ensurePackages } from './packages.mjs';
import { ensureDatabase, installDebian, startPostgres } from './postgres.mjs';

ensurePackages();
const chromium = () => ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find(existsSync);
if (!chromium() && !installDebian(['chromium'], 'Chromium is missing: the journeys run in it.')) process.exit(1);
const readers = ['/usr/bin/pdftoppm', '/usr/bin/zbarimg'];
if (!readers.every(existsSync) && !installDebian(['poppler-utils', 'zbar-tools'], 'Printed labels are read back with these.'))
  console.log('Left out: printed labels are not read back, as poppler-utils and zbar-tools are not here.');
if (!existsSync('/usr/bin/hledger') && !installDebian(['hledger'], 'The exported journal is checked with it.'))
  console.log('Left out: the exported journal is not checked by hledger, as it is not here.');
const server = await startPostgres('postgres-test');
ensureBuilt();

const failed = [];
const run = (name, command, args, env = {}) => {
  console.log(`\n— ${name}`);
  if (spawnSync(command, args, { stdio: 'inherit', env: { ...process.env, ...env } }).status !== 0) failed.push(name);
};

run('core and server', 'npx', ['--no-install', 'jest'], {
  TEST_SERVER_URL: server.url('postgres'),
  NODE_OPTIONS: '--experimental-vm-modules --disable-warning=ExperimentalWarning',
});

const database = ensureDatabase(server, 'larder_journeys', true);
const port = await freePort();
const app = spawn(process.execPath, ['--import', 'tsx', 'server/main.ts'], {
  stdio: ['ignore', 'ignore', 'inherit'],
  env: { ...process.env, DATABASE_URL: database.appUrl, DATABASE_OWNER_URL: database.ownerUrl, PORT: String(port), NODE_ENV: 'production', LOG_LEVEL: 'warn' },
});
const base = `http://127.0.0.1:${port}`;
if (await answers(`${base}/api/health`, 240))
  run('journeys', 'npx', ['--no-install', 'playwright', 'test', '--config', 'e2e/playwright.config.ts'], { BASE_URL: base, CHROMIUM: chromium() });
else failed.push('the server did not start');
app.kill('SIGTERM');
await new Promise((done) => app.once('exit', done));
run('audit of what the journeys left', process.execPath, ['--import', 'tsx', 'server/ledger/audit.ts'], { DATABASE_URL: database.ownerUrl });
await server.stop();
console.log(failed.length === 0 ? '\nAll tests pass.' : `\nFailed: ${failed.join(', ')}.`);
process.exit(failed.length === 0 ? 0 : 1);

async function answers(url, seconds) {
  for (let second = 0; second < seconds; second += 1) {
    const well = await fetch(url).then(
      (answer) => answer.ok,
      () => false,
    );
    if (well) return true;
    await new Promise((later) => setTimeout(later, 1000));
  }
  return false;
}

function freePort() {
  return new Promise((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port: free } = probe.address();
      probe.close(() => done(free));
    });
  });
}
