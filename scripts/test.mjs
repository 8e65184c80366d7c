// npm test: core and server tests, then the journeys in a browser against servers with the demo, then the audit of what they left.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync } from 'node:fs';
import { ensureBuilt } from './build.mjs';
import { makeJourneyDatabases } from './journeys.mjs';
import { ensurePackages } from './packages.mjs';
import { installDebian, startPostgres } from './postgres.mjs';

ensurePackages();
const chromium = () => ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find(existsSync);
if (!chromium() && !installDebian(['chromium'], 'Chromium is missing: the journeys run in it.')) process.exit(1);
const readers = ['/usr/bin/pdftoppm', '/usr/bin/zbarimg'];
if (!readers.every(existsSync) && !installDebian(['poppler-utils', 'zbar-tools'], 'Printed labels are read back with these.'))
  console.log('Left out: printed labels are not read back, as poppler-utils and zbar-tools are not here.');
if (!existsSync('/usr/bin/hledger') && !installDebian(['hledger'], 'The exported journal is checked with it.'))
  console.log('Left out: the exported journal is not checked by hledger, as it is not here.');
const server = await startPostgres('postgres-test', { lasting: false });
ensureBuilt();

const failed = [];
async function run(name, command, args, env = {}) {
  console.log(`\n— ${name}`);
  const [code] = await once(spawn(command, args, { stdio: 'inherit', env: { ...process.env, ...env } }), 'exit');
  if (code !== 0) failed.push(name);
}

// The demo is loaded for the journeys meanwhile, in what the tests leave of the processors.
const [databases] = await Promise.all([
  makeJourneyDatabases(server),
  run('core and server', 'npx', ['--no-install', 'jest'], {
    TEST_SERVER_URL: server.url('postgres'),
    NODE_OPTIONS: '--experimental-vm-modules --disable-warning=ExperimentalWarning',
  }),
]);
await run('journeys', 'npx', ['--no-install', 'playwright', 'test', '--config', 'e2e/playwright.config.ts'], {
  JOURNEY_DATABASES: JSON.stringify(databases),
  CHROMIUM: chromium(),
});
await run('audit of what the journeys left', process.execPath, ['--import', 'tsx', 'server/ledger/audit.ts'], {
  AUDIT_DATABASES: JSON.stringify(Object.fromEntries(Object.entries(databases).map(([file, { ownerUrl }]) => [file, ownerUrl]))),
});
await server.stop();
console.log(failed.length === 0 ? '\nAll tests pass.' : `\nFailed: ${failed.join(', ')}.`);
process.exit(failed.length === 0 ? 0 : 1);
