import Button from '@mui/material/Button';
import { useEffect, useRef, useState } from 'react';
import type { FieldValues } from 'react-hook-form';
import type { Form } from './form';
import { moment } from './format';
import { Notice } from './Notice';

interface KeptDraftProps<F extends FieldValues, B> {
  form: Form<F, B>;
  /** Under which name it is kept on this machine: whose it is, and of what. */
  at: string;
}

/** What was typed, what had come in when it was, and when. */
interface Draft<F> {
  typed: F;
  came: F;
  when: string;
}

/** Milliseconds without a key, after which what was typed is kept. */
const rest = 400;

const placeOf = (at: string): string => `draft ${at}`;

/** Forgets what is kept under this name: whoever typed it does not want it. */
export const forgetDraft = (at: string): void => localStorage.removeItem(placeOf(at));

const read = <F,>(at: string): Draft<F> | null => JSON.parse(localStorage.getItem(at) ?? 'null') as Draft<F> | null;

/**
 * Keeps what is typed and not saved yet on this machine, so that a window that is closed, a session that ends or an empty battery loses nothing; and offers it when the same is written on again.
 * What was saved, or left on purpose, is forgotten.
 */
export function KeptDraft<F extends FieldValues, B>({ form, at }: KeptDraftProps<F, B>) {
  const place = placeOf(at);
  const [found, setFound] = useState(() => read<F>(place));
  const { wouldLose, isTyped, stood, getValues, watch } = form;
  const latest = useRef({ wouldLose });
  useEffect(() => {
    latest.current = { wouldLose };
  });
  // What is found waits for an answer; until then nothing is kept in its place.
  const isKeeping = found === null;
  useEffect(() => {
    if (!isKeeping) return;
    let timer: ReturnType<typeof setTimeout>;
    const keep = () => {
      if (!latest.current.wouldLose()) return localStorage.removeItem(place);
      localStorage.setItem(place, JSON.stringify({ typed: getValues(), came: stood(), when: new Date().toISOString() }));
    };
    const { unsubscribe } = watch(() => {
      clearTimeout(timer);
      timer = setTimeout(keep, rest);
    });
    // A window that is closed has no time to wait.
    window.addEventListener('pagehide', keep);
    return () => {
      clearTimeout(timer);
      window.removeEventListener('pagehide', keep);
      unsubscribe();
      if (!latest.current.wouldLose()) localStorage.removeItem(place);
    };
  }, [isKeeping, place, watch, getValues, stood]);
  useEffect(() => {
    if (isKeeping && !isTyped) localStorage.removeItem(place);
  }, [isKeeping, isTyped, place]);
  if (found === null) return null;
  const answer = (take: boolean) => {
    if (take) form.takeUp(found.came, found.typed);
    else forgetDraft(at);
    setFound(null);
  };
  return (
    <Notice role="status" aria-label="What was not saved">
      <span>You were writing this {moment(found.when)}, and it was not saved.</span>
      <Button size="small" onClick={() => answer(true)}>
        Go on with it
      </Button>
      <Button size="small" onClick={() => answer(false)}>
        Throw it away
      </Button>
    </Notice>
  );
}
