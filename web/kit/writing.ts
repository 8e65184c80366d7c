import { useState } from 'react';
import equal from 'fast-deep-equal';
import { merged, type Clash, type RowKeys } from '@larder/core/merge';

interface State<F> {
  version: number | null;
  /** What was written on from, and what stands in the fields. */
  base: F;
  form: F;
  clashes: readonly Clash<F>[];
  saved: number | null;
}

export interface Writing<F> {
  form: F;
  put: (part: Partial<F>) => void;
  /** Whether something was typed that is not saved. */
  isTyped: boolean;
  /** Whether what stands in the fields was just saved. */
  isSaved: boolean;
  /** What others changed while it was changed here too. Until somebody says otherwise, what was typed here stands. */
  clashes: readonly Clash<F>[];
  /** Ends a clash: keeps what was typed here, or takes theirs. */
  decide: (clash: Clash<F>, takeTheirs: boolean) => void;
  /** Told what was sent and the version that it is now saved as. */
  kept: (sent: F, version: number) => void;
}

/**
 * A form written on from what came in. When another version of it comes in, what was typed stays: what only others changed is taken over,
 * and what both changed is a clash. A form that is not saved yet has no version.
 */
export function useWriting<F extends object>(came: F, version: number | null, rowKeys: RowKeys<F> = {}): Writing<F> {
  const [state, setState] = useState<State<F>>(() => ({ version, base: came, form: came, clashes: [], saved: null }));
  let now = state;
  if (state.version !== version) {
    now = broughtIn(state, came, version, rowKeys);
    setState(now);
  }
  const isTyped = !equal(now.form, now.base);
  return {
    form: now.form,
    isTyped,
    isSaved: now.saved !== null && now.saved === version && !isTyped,
    clashes: now.clashes,
    put: (part) => setState((was) => ({ ...was, form: { ...was.form, ...part }, clashes: was.clashes.filter(({ field }) => !(field in part)), saved: null })),
    decide: (clash, takeTheirs) =>
      setState((was) => ({
        ...was,
        form: takeTheirs ? { ...was.form, [clash.field]: clash.theirs } : was.form,
        clashes: was.clashes.filter(({ field }) => field !== clash.field),
      })),
    kept: (sent, savedAs) => setState((was) => ({ ...was, base: sent, clashes: [], saved: savedAs })),
  };
}

/** A clash that was not settled yet stays one, unless what is typed here and what they have is the same by now. */
function broughtIn<F extends object>(was: State<F>, came: F, version: number | null, rowKeys: RowKeys<F>): State<F> {
  const { form, clashes } = merged(was.base, was.form, came, rowKeys);
  const old = was.clashes.filter((clash) => !clashes.some(({ field }) => field === clash.field) && !equal(form[clash.field], came[clash.field]));
  return { ...was, version, base: came, form, clashes: [...old, ...clashes] };
}
