import type { Problem } from '@larder/contract/values';

/** What is said when no answer came. */
export const lost: Problem = {
  type: 'connection-lost',
  status: 0,
  errors: [],
  asks: [],
  title: 'The connection was lost, so it is not known whether this was done. Do the same again: it will not be done twice.',
};

/** What went wrong, of whatever kind: what the server said, or that this screen failed; null when nothing did. */
export const problemOf = (error: unknown): Problem | null =>
  error && typeof error === 'object' && 'title' in error ? (error as Problem) : error ? { ...lost, title: 'Something went wrong on this screen.' } : null;
