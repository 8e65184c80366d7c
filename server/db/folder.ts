import { join } from 'node:path';

/** The folder of the server. This is one below it, as a source and as built into server/dist. */
export const serverFolder = join(import.meta.dirname, '..');

/** Whether this runs as it was built, and not from its sources. */
export const isBuilt = import.meta.filename.endsWith('.js');
