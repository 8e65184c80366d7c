// npm run bench [-- stock past live making work search first-load typing scanning selling posting waiting importing]:
// measures on the scale set, each figure against its limit. The scale set is made once, in a server of its own, and kept.
import { spawnSync } from 'node:child_process';
import { ensureBuilt } from './build.mjs';
import { ensurePackages } from './packages.mjs';
import { ensureDatabase, postgresBin, startPostgres } from './postgres.mjs';

ensurePackages();
ensureBuilt();
const server = await startPostgres('postgres-bench');
const url = ensureDatabase(server, 'larder_scale', process.argv.includes('--fresh')).url;
const { status } = spawnSync(process.execPath, ['--import', 'tsx', 'bench/run.ts', ...process.argv.slice(2)], {
  stdio: 'inherit',
  env: {
    ...process.env,
    DATABASE_URL: url,
    IMPORT_URL: ensureDatabase(server, 'larder_import', true).url,
    PGBENCH: `${postgresBin()}/pgbench`,
    NODE_ENV: 'production',
  },
});
await server.stop();
process.exit(status ?? 1);
