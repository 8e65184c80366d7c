import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { readdirSync } from 'node:fs';
import { basename } from 'node:path';
import { createInterface } from 'node:readline';
import { ensureDatabase } from './postgres.mjs';

/** The files of journeys, by name. */
export const journeyFiles = () =>
  readdirSync('e2e')
    .filter((file) => file.endsWith('.spec.ts'))
    .map((file) => basename(file, '.spec.ts'));

/** A fresh database for each file of journeys, copied from one with the demo in it. */
export async function makeJourneyDatabases(server) {
  const template = 'larder_journeys';
  await loadDemo(ensureDatabase(server, template, true));
  return Object.fromEntries(journeyFiles().map((file) => [file, ensureDatabase(server, `larder_journey_${file}`, true, template)]));
}

/** Starts the application on an empty database, which loads the demo, and stops it as soon as it serves. */
async function loadDemo({ appUrl, ownerUrl }) {
  const app = spawn(process.execPath, ['--import', 'tsx', 'server/main.ts'], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { ...process.env, DATABASE_URL: appUrl, DATABASE_OWNER_URL: ownerUrl, PORT: '0', NODE_ENV: 'production', LOG_LEVEL: 'warn' },
  });
  let serves = false;
  for await (const line of createInterface({ input: app.stdout })) if (/ is at http/.test(line) && (serves = true)) app.kill('SIGTERM');
  if (app.exitCode === null && app.signalCode === null) await once(app, 'exit');
  if (!serves) throw new Error('The server did not start: the demo could not be loaded.');
}
