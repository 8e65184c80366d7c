import equal from 'fast-deep-equal';
import { useEffect, useState } from 'react';
import { useFormContext, useWatch, type FieldPath, type FieldPathValues, type FieldValues, type UseFormSetValue } from 'react-hook-form';

/** What is made of a row of a list in the form around; whoever asks is drawn anew only when that becomes another. */
export const useOfRow = <R extends object, T>(name: string, of: (row: R) => T): T | undefined =>
  useWatch({ name, compute: (now: unknown) => (now ? of(now as R) : undefined) }) as T | undefined;

/** A row of a list in the form around, as it stands. It is a copy, since a form changes its rows in place, which would not be seen as a change. */
export const useRow = <R extends object>(name: string): R | undefined => useOfRow(name, (row: R) => ({ ...row }));

/** Puts parts of the row of a form, each as if it had been typed. */
export function putInRow<F extends FieldValues, R extends object>(setValue: UseFormSetValue<F>, row: string, part: Partial<R>): void {
  for (const [key, value] of Object.entries(part)) setValue(`${row}.${key}` as FieldPath<F>, value as never, { shouldDirty: true });
}

/** Returns what puts parts of a row of the form around. */
export function usePut<R extends object>(row: string): (part: Partial<R>) => void {
  const { setValue } = useFormContext();
  return (part) => putInRow(setValue, row, part);
}

/** What fields of the form around hold once nobody has typed for `ms` milliseconds; whoever asks is drawn only then, not at each key. */
export function useSettled<F extends FieldValues, N extends readonly FieldPath<F>[] = readonly FieldPath<F>[]>(names: readonly [...N], ms: number) {
  const { getValues, watch } = useFormContext<F>();
  // A copy: a form changes what it holds in place.
  const [settled, setSettled] = useState(() => structuredClone(getValues(names)));
  const key = names.join(' ');
  useEffect(() => {
    const take = () => setSettled(structuredClone(getValues(key.split(' ') as unknown as readonly [...N])));
    let timer = setTimeout(take, ms);
    const { unsubscribe } = watch(() => {
      clearTimeout(timer);
      timer = setTimeout(take, ms);
    });
    return () => {
      clearTimeout(timer);
      unsubscribe();
    };
  }, [getValues, watch, key, ms]);
  return settled as FieldPathValues<F, N>;
}

/**
 * Of a list of which only some rows are sent: what a path to the nth row sent is in the form, as the row's place and what follows.
 * Null when the path is about something else than a row of `list`.
 */
export function sentRow<R>(path: string, list: string, rows: readonly R[], isSent: (row: R) => boolean): { at: number; part: string } | null {
  const [first, nth, ...part] = path.split('.');
  if (first !== list || nth === undefined) return null;
  const at = rows.indexOf(rows.filter(isSent)[Number(nth)] as R);
  return at < 0 ? null : { at, part: part.join('.') };
}

/** A version of what came in, where the server keeps none: it grows by one each time that something else comes in. */
export function useVersionOf(came: unknown): number {
  const [last, setLast] = useState({ came, version: 1 });
  if (equal(last.came, came)) return last.version;
  setLast({ came, version: last.version + 1 });
  return last.version + 1;
}
