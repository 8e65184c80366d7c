import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';

const newest = (folder) =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && !/(dist|node_modules)/.test(entry.parentPath))
    .reduce((latest, entry) => Math.max(latest, statSync(join(entry.parentPath, entry.name)).mtimeMs), 0);

/** Builds the pages when their sources changed since the last build. */
export function ensureBuilt() {
  const page = 'web/dist/index.html';
  const sources = Math.max(...['web', 'contract', 'core'].map(newest), statSync('package-lock.json').mtimeMs);
  if (existsSync(page) && statSync(page).mtimeMs > sources) return;
  console.log('Building the pages.');
  const { status } = spawnSync('npm', ['run', 'build', '--workspace', 'web', '--silent'], { stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}
