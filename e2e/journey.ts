import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { basename } from 'node:path';
import { createInterface } from 'node:readline';
import { test as base } from '@playwright/test';

export { expect, type Page } from '@playwright/test';

interface Databases {
  appUrl: string;
  ownerUrl: string;
}

/** The databases that npm test made of the demo, one for each file of journeys by its name. */
const databases = JSON.parse(process.env.JOURNEY_DATABASES ?? '{}') as Partial<Record<string, Databases>>;

/** The server of the file whose journeys are under way; another file ends it and begins its own. */
class Serving {
  private file = '';
  private child: ChildProcess | null = null;
  private address = '';

  /** The address of the server of this file. */
  async of(file: string): Promise<string> {
    if (file !== this.file) {
      await this.stop();
      this.address = await this.start(file);
      this.file = file;
    }
    return this.address;
  }

  private async start(file: string): Promise<string> {
    const database = databases[file];
    if (!database) throw new Error(`There is no database for the journeys of ${file}: run them by npm test.`);
    const child = spawn(process.execPath, ['--import', 'tsx', 'server/main.ts'], {
      stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
      env: { ...process.env, DATABASE_URL: database.appUrl, DATABASE_OWNER_URL: database.ownerUrl, PORT: '0', NODE_ENV: 'production', LOG_LEVEL: 'warn' },
    });
    this.child = child;
    if (!child.stdout) throw new Error('the server says nothing');
    for await (const line of createInterface({ input: child.stdout })) {
      const [, address] = /is at (http\S+)/.exec(line) ?? [];
      if (address) return address;
    }
    throw new Error('the server did not start');
  }

  async stop(): Promise<void> {
    const child = this.child;
    this.child = null;
    this.file = '';
    if (!child || child.exitCode !== null) return;
    child.kill('SIGTERM');
    await once(child, 'exit');
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
