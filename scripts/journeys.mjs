import { readdirSync } from 'node:fs';
import { basename } from 'node:path';
import { startApplication } from './application.mjs';
import { ensureDatabase } from './postgres.mjs';

/** The files of journeys, by name. */
export const journeyFiles = () =>
  readdirSync('e2e')
    .filter((file) => file.endsWith('.spec.ts'))
    .map((file) => basename(file, '.spec.ts'));

/** A fresh database for each file of journeys, copied from one with the demo in it. */
export async function makeJourneyDatabases(server) {
  const template = 'larder_journeys';
  // On an empty database the application loads the demo before it serves.
  const { stop } = await startApplication(ensureDatabase(server, template, true));
  await stop();
  return Object.fromEntries(journeyFiles().map((file) => [file, ensureDatabase(server, `larder_journey_${file}`, true, template)]));
}
