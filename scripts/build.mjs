import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';

const newest = (folder) =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && !/(dist|node_modules)/.test(entry.parentPath))
    .reduce((latest, entry) => Math.max(latest, statSync(join(entry.parentPath, entry.name)).mtimeMs), 0);

/** Builds something when its sources changed since it was `made`. */
function ensure(what, folders, made, command, ...args) {
  const sources = Math.max(...folders.map(newest), statSync('package-lock.json').mtimeMs);
  if (existsSync(made) && statSync(made).mtimeMs > sources) return;
  console.log(`Building ${what}.`);
  const { status } = spawnSync(command, args, { stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}

/** Builds the server when its sources changed. */
export const ensureServerBuilt = () =>
  ensure('the server', ['server', 'contract', 'core', 'scripts'], 'server/dist/main.js', process.execPath, 'scripts/bundle.mjs');

/** Builds the pages and the server when their sources changed. */
export function ensureBuilt() {
  ensure('the pages', ['web', 'contract', 'core'], 'web/dist/index.html', 'npm', 'run', 'build', '--workspace', 'web', '--silent');
  ensureServerBuilt();
}
