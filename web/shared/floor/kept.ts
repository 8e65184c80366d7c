import type { MovedHere } from '@larder/core/floor/held';
import type { Message } from '../say';

/** The answer to what is kept on this device, to be sent when there is a connection. */
export interface Kept {
  kept: string;
}
export type OrKept<T> = T | Kept;

export const isKept = (answer: unknown): answer is Kept => typeof answer === 'object' && answer !== null && 'kept' in answer;

/** How something is told while it waits on this device. */
export interface KeptAs {
  /** What it does, in a few words. */
  words: string;
  /** Where it is looked at, and put right if it is refused. */
  to: string;
  /** Goods that it moves, as far as it is known which. */
  moves?: readonly MovedHere[];
  /** What is sent later, where that is not what is sent at once. */
  body?: unknown;
}

/** What is said once something was posted, or kept; what waits is taken back where it is shown. */
export const doneOrKept = (answer: OrKept<{ movementId: number | null }>, text: string, what: string): Message =>
  isKept(answer)
    ? { text: `${text} Kept on this phone until there is a connection.`, made: { to: '/kept', name: 'What waits' } }
    : { text, undo: { movementId: answer.movementId, what } };
