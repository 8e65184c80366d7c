// npm run verify [-- --database URL | --empty]: holds the ledger against every law, with a figure for each.
import { spawnSync } from 'node:child_process';
import { ensureDatabase, startPostgres } from './postgres.mjs';

const at = process.argv.indexOf('--database');
const server = at > 0 ? { url: () => process.argv[at + 1], stop: () => Promise.resolve() } : await startPostgres();
const url =
  at > 0 ? process.argv[at + 1] : (process.env.DATABASE_URL ?? ensureDatabase(server, process.argv.includes('--empty') ? 'larder_empty' : 'larder').ownerUrl);
const { status } = spawnSync(process.execPath, ['--import', 'tsx', 'server/ledger/audit.ts'], { stdio: 'inherit', env: { ...process.env, DATABASE_URL: url } });
await server.stop();
process.exit(status ?? 1);
