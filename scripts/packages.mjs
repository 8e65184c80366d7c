import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';

/**
 * Installs the node packages when they are missing or the lock file changed. By `npm install`: `npm ci` refuses a lock file that lacks
 * another platform's binaries, and some registries do not hold them all.
 */
export function ensurePackages() {
  const stamp = 'node_modules/.larder-lock';
  const lock = () => readFileSync('package-lock.json', 'utf8');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock()) return;
  console.log('Installing node packages.');
  const { status } = spawnSync('npm', ['install', '--loglevel=error'], { stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
  writeFileSync(stamp, lock());
}
