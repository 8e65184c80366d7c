import { problemOf } from './problem';

interface Write {
  error?: unknown;
  isLoading: boolean;
}

/** What was refused by the last of several writes, and what to say beside each field. */
export function refusalOf(...writes: readonly Write[]) {
  const refused = writes.find(({ error }) => error)?.error;
  const problem = problemOf(refused);
  return {
    refused,
    problem,
    busy: writes.some(({ isLoading }) => isLoading),
    /** The sentence for a field, or for any part of it. */
    at: (field: string): string | undefined => problem?.errors.find((one) => one.field === field || one.field.startsWith(`${field}.`))?.sentence,
  };
}
