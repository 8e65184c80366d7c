import { spawnSync } from 'node:child_process';
import { ensureServerBuilt } from '../../scripts/build.mjs';

/** Before all tests: the server as it is started, for those that start one, and an empty, migrated database that each test file copies. TEST_SERVER_URL says on which server. */
export default function makeTemplate() {
  if (!process.env.TEST_SERVER_URL) return;
  ensureServerBuilt();
  const { status } = spawnSync(process.execPath, ['--import', 'tsx', 'server/testing/makeTemplate.ts'], { stdio: 'inherit' });
  if (status !== 0) throw new Error('the template database could not be made');
}
