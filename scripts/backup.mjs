// npm run backup [-- FILE] [--empty]: everything of the business in one file, made while the server runs, and checked before it counts.
import { resolve } from 'node:path';
import { backUp } from './archive.mjs';
import { ensurePackages } from './packages.mjs';
import { say, withServer } from './serverOf.mjs';

ensurePackages();
const file = process.argv.slice(2).find((word) => !word.startsWith('--'));
await withServer(async ({ server, database }) => {
  const { path, rows, bytes } = await backUp(server, database, file === undefined ? undefined : resolve(file));
  say(`${path}: ${(bytes / 1e6).toFixed(1)} MB, ${rows.toLocaleString('en-GB')} rows, read back and held against every law.`);
});
