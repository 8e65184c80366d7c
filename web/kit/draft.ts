import { useNavigate } from 'react-router';
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

/**
 * A document while it is written: `keep` saves it, `decide` saves it and then does what it was written for.
 * One that is new gets its own address as soon as it is there.
 */
export function useDraft<D extends { id: number }>(existing: D | null, save: () => Promise<{ data?: D }>, addressOf: (id: number) => string) {
  const navigate = useNavigate();
  const decide = async (decision: (saved: D) => Promise<unknown>): Promise<void> => {
    const { data: saved } = await save();
    if (!saved) return;
    await decision(saved);
    if (!existing) void navigate(addressOf(saved.id), { replace: true });
  };
  return { keep: () => decide(() => Promise.resolve()), decide };
}
