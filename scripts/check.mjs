// npm run check: types, lint, format, import rules, unused code. All are run; any that fails makes the whole fail.
import { spawnSync } from 'node:child_process';
import { ensurePackages } from './packages.mjs';

ensurePackages();
const checks = [
  ['types', 'tsc', '-p', '.'],
  ['lint', 'eslint', '.', '--max-warnings', '0', '--cache'],
  ['format', 'prettier', '--check', '--log-level', 'warn', '.'],
  ['import rules', 'depcruise', 'core', 'contract', 'server', 'web', '--config', '.dependency-cruiser.cjs', '--output-type', 'err'],
  ['unused code', 'knip'],
];
const failed = checks.filter(([name, command, ...args]) => {
  console.log(`— ${name}`);
  return spawnSync('npx', ['--no-install', command, ...args], { stdio: 'inherit' }).status !== 0;
});
console.log(failed.length === 0 ? 'All checks pass.' : `Failed: ${failed.map(([name]) => name).join(', ')}.`);
process.exit(failed.length === 0 ? 0 : 1);
