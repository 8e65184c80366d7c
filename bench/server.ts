import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createServer, type AddressInfo } from 'node:net';
import { scalePassword } from './scaleSet';

export interface RunningServer {
  base: string;
  cookie: string;
  /** The longest its event loop was held since this was last asked, in milliseconds. */
  held: () => Promise<number>;
  stop: () => Promise<void>;
}

/** A server as npm start runs it, on the scale set, with somebody signed in. */
export async function startServer(url: string, { args = [] }: { args?: string[] } = {}): Promise<RunningServer> {
  const probe = createServer().listen(0, '127.0.0.1');
  await once(probe, 'listening');
  const { port } = probe.address() as AddressInfo;
  probe.close();
  const child = spawn(process.execPath, ['--import', 'tsx', '--import', './bench/loopProbe.ts', 'server/dist/main.js', ...args], {
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    env: { ...process.env, DATABASE_URL: url, PORT: String(port), LOG_LEVEL: 'silent' },
  });
  const base = `http://127.0.0.1:${port}`;
  for (let tries = 0; tries < 400; tries += 1) {
    if (
      await fetch(`${base}/api/health`).then(
        (answer) => answer.ok,
        () => false,
      )
    )
      break;
    await new Promise((later) => setTimeout(later, 50));
  }
  const answer = await fetch(`${base}/api/people/sign-in`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: 'measure@scale.example', password: scalePassword }),
  });
  const cookie = (answer.headers.getSetCookie()[0] ?? '').split(';')[0] ?? '';
  return {
    base,
    cookie,
    held: async () => {
      child.send('held');
      const [said] = (await once(child, 'message')) as [{ held: number }];
      return said.held;
    },
    stop: async () => {
      child.kill('SIGTERM');
      await once(child, 'exit');
    },
  };
}

export const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? Number.NaN;

/** Asks a server as the person that is signed in on it; throws what it refuses. */
export const asker =
  ({ base, cookie }: Pick<RunningServer, 'base' | 'cookie'>) =>
  async <T>(method: string, path: string, body?: unknown): Promise<T> => {
    const headers = { Cookie: cookie, 'Content-Type': 'application/json', 'Idempotency-Key': randomUUID() };
    const answer = await fetch(`${base}${path}`, { method, headers, ...(body === undefined ? {} : { body: JSON.stringify(body) }) });
    if (!answer.ok) throw new Error(await answer.text());
    return (await answer.json()) as T;
  };
