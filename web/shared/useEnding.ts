import { problemOf } from '../kit/problem';
import { useSay } from './say';

export type Ending = 'cancel' | 'close' | 'reopen';

/**
 * Cancels an order or the rest of it, says so with the way back, and opens it again.
 * `decide` sends the decision on the order as it was at a version; each decision makes the next one.
 */
export function useEnding(number: string, version: number, decide: (decision: Ending, version: number) => PromiseLike<{ error?: unknown }>) {
  const say = useSay();
  const reopen = async (at: number) => {
    const { error } = await decide('reopen', at);
    say({ text: error ? (problemOf(error)?.title ?? `${number} could not be opened again.`) : `${number} is open again.` });
  };
  const end = async (decision: 'cancel' | 'close') => {
    const { error } = await decide(decision, version);
    if (error) return;
    say({
      text: decision === 'cancel' ? `${number} is cancelled.` : `The rest of ${number} is cancelled.`,
      undo: { run: () => void reopen(version + 1) },
    });
  };
  return { end: (decision: 'cancel' | 'close') => void end(decision), reopen: () => void reopen(version) };
}

/** Whether an order in this state was cancelled, or its rest, and may be opened again. */
export const wasCancelled = (state: string): boolean => state === 'cancelled' || state === 'rest cancelled';
