import { basename } from 'node:path';
import { test as base } from '@playwright/test';
import { startApplication, type Application, type Databases } from '../scripts/application.mjs';

export { expect, type Page } from '@playwright/test';

/** The databases that npm test made of the demo, one for each file of journeys by its name. */
const databases = JSON.parse(process.env.JOURNEY_DATABASES ?? '{}') as Partial<Record<string, Databases>>;

/** The application of the file whose journeys are under way; another file ends it and begins its own. */
class Serving {
  private file = '';
  private application: Application | null = null;

  /** The address of the application of this file. */
  async of(file: string): Promise<string> {
    if (!this.application || file !== this.file) {
      await this.stop();
      const database = databases[file];
      if (!database) throw new Error(`There is no database for the journeys of ${file}: run them by npm test.`);
      this.application = await startApplication(database);
      this.file = file;
    }
    return this.application.address;
  }

  async stop(): Promise<void> {
    await this.application?.stop();
    this.application = null;
  }
}

/** A journey in a browser, against a server that only the journeys of its file use. */
export const test = base.extend<object, { serving: Serving }>({
  serving: [
    async ({}, use) => {
      const serving = new Serving();
      await use(serving);
      await serving.stop();
    },
    { scope: 'worker' },
  ],
  baseURL: async ({ serving }, use, { file }) => use(await serving.of(basename(file, '.spec.ts'))),
});
