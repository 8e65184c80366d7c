import { useWatch } from 'react-hook-form';

/** A row of a list in the form around, as it stands. It is a copy, since a form changes its rows in place, which would not be seen as a change. */
export const useRow = <R extends object>(name: string): R | undefined =>
  useWatch({ name, compute: (now: unknown) => (now ? { ...(now as R) } : undefined) }) as R | undefined;
