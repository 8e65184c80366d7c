import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { createInterface } from 'node:readline';

/** Starts the application as npm start runs it, on this database and a free port. Resolves once it serves: its address, and how to stop it; throws when it ends before. */
export async function startApplication({ appUrl, ownerUrl }) {
  const child = spawn(process.execPath, ['--enable-source-maps', 'server/dist/main.js'], {
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    env: { ...process.env, DATABASE_URL: appUrl, DATABASE_OWNER_URL: ownerUrl, PORT: '0', NODE_ENV: 'production', LOG_LEVEL: 'warn' },
  });
  const stop = async () => {
    if (child.exitCode !== null || child.signalCode !== null) return;
    child.kill('SIGTERM');
    await once(child, 'exit');
  };
  for await (const line of createInterface({ input: child.stdout })) {
    const [, address] = /is at (http\S+)/.exec(line) ?? [];
    if (address) return { address, stop };
  }
  throw new Error('The application ended before it served.');
}
