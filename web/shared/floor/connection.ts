/** Whether the server can be reached from this device, as far as the last request told; while it cannot, it is tried again and again. */
let lostAt: number | null = null;
let trial: number | undefined;
const listeners = new Set<() => void>();
const onBack = new Set<() => void>();
/** The server is tried again after so many milliseconds. */
const pause = 3000;

function tell(next: number | null): void {
  if (next === lostAt) return;
  lostAt = next;
  for (const listener of listeners) listener();
}

async function tryAgain(): Promise<void> {
  window.clearTimeout(trial);
  trial = undefined;
  if (lostAt === null) return;
  const isBack = await fetch('/api/health', { signal: AbortSignal.timeout(5000) }).then(
    ({ ok }) => ok,
    () => false,
  );
  if (isBack) connection.back();
  else trial ??= window.setTimeout(() => void tryAgain(), pause);
}

export const connection = {
  /** Since when the server cannot be reached, as milliseconds since 1970; null while it can. */
  lostSince: (): number | null => lostAt,
  subscribe: (listener: () => void): (() => void) => {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  },
  /** Calls when the server was reached again. Gives what ends that. */
  whenBack: (run: () => void): (() => void) => {
    onBack.add(run);
    return () => void onBack.delete(run);
  },
  lost: (): void => {
    if (lostAt === null) tell(Date.now());
    trial ??= window.setTimeout(() => void tryAgain(), pause);
  },
  back: (): void => {
    if (lostAt === null) return;
    tell(null);
    for (const run of onBack) run();
  },
};
if (typeof window !== 'undefined') window.addEventListener('online', () => void tryAgain());
