import type { Logger } from 'pino';

/** Does `work` now and again and again with a pause between, never twice at once; what goes wrong is logged and tried again. Gives what stops it, once the work under way has ended. */
export function every(pauseMs: number, what: string, log: Logger, work: () => Promise<unknown>): () => Promise<void> {
  let under: Promise<unknown> | null = null;
  const turn = () => {
    under ??= work()
      .catch((error: Error) => log.warn({ err: error }, `${what} failed`))
      .finally(() => (under = null));
  };
  turn();
  const timer = setInterval(turn, pauseMs);
  return async () => {
    clearInterval(timer);
    await under;
  };
}
