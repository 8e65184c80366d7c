import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogTitle from '@mui/material/DialogTitle';
import { useCallback, useEffect, useRef, useState, type ReactNode } from 'react';
import { FormProvider, type FieldValues } from 'react-hook-form';
import { useHotkeys } from 'react-hotkeys-hook';
import { useBlocker } from 'react-router';
import type { Problem } from '@larder/contract/values';
import { Foreseen, type Form } from './form';
import { forgetDraft, KeptDraft } from './KeptDraft';
import { Stack, Ways } from './layout';

interface FormFrameProps<F extends FieldValues, B> {
  form: Form<F, B>;
  /** What Ctrl S does. */
  save: () => void;
  /** What a preview of it says of its fields; what is said when it is sent comes first. */
  foreseen?: Problem | null;
  /** What is typed is no work to be lost, only how something is wanted now: nobody who leaves is asked. */
  fleeting?: boolean;
  /** Under which name what is typed is kept on this machine until it is saved: whose it is, and of what. */
  keptAt?: string | undefined;
  children: ReactNode;
}

/** Around the fields of a form: Ctrl S saves it, and whoever would leave it with something typed is asked. */
export function FormFrame<F extends FieldValues, B>({ form, save, foreseen = null, fleeting = false, keptAt, children }: FormFrameProps<F, B>) {
  // Of several forms on a page the one that something is typed in is saved.
  useHotkeys('mod+s', () => form.isTyped && save(), { enableOnFormTags: true, preventDefault: true });
  // What is around the fields stays the same, or all of them were drawn anew at each turn of the form: each of them listens to what it needs itself.
  const [formState] = useState(form.formState);
  const fieldOf = useRef(form.fieldOf);
  useEffect(() => {
    fieldOf.current = form.fieldOf;
  });
  const said = useCallback((name: string) => foreseen?.errors.find(({ field }) => isPartOf(fieldOf.current(field), name))?.sentence, [foreseen]);
  return (
    <FormProvider {...form} formState={formState}>
      {keptAt === undefined ? null : <KeptDraft form={form} at={keptAt} />}
      <Foreseen value={said}>{children}</Foreseen>
      {fleeting ? null : <Leaving form={form} keptAt={keptAt} />}
    </FormProvider>
  );
}

const isPartOf = (path: string, name: string): boolean => path === name || path.startsWith(`${name}.`);

/** The forms that are open on the page: a router asks one of them only, so it answers for all. */
const open = new Set<{ current: { wouldLose: () => boolean } }>();
const anyWouldLose = (): boolean => [...open].some(({ current }) => current.wouldLose());

function Leaving<F extends FieldValues, B>({ form, keptAt }: Pick<FormFrameProps<F, B>, 'form' | 'keptAt'>) {
  const { wouldLose, isTyped, isBusy } = form;
  const [asked] = useState(() => ({ current: { wouldLose } }));
  useEffect(() => {
    asked.current = { wouldLose };
  });
  useEffect(() => {
    open.add(asked);
    return () => void open.delete(asked);
  }, [asked]);
  const blocker = useBlocker(({ currentLocation, nextLocation }) => currentLocation.pathname !== nextLocation.pathname && anyWouldLose());
  useEffect(() => {
    if (!isTyped) return;
    const ask = (event: BeforeUnloadEvent) => {
      if (anyWouldLose()) event.preventDefault();
    };
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [isTyped]);
  // Whoever leaves while it is being saved goes on when it is.
  const isDone = blocker.state === 'blocked' && !isBusy && !wouldLose();
  useEffect(() => {
    if (isDone) blocker.proceed();
  }, [isDone, blocker]);
  if (blocker.state !== 'blocked' || isBusy || isDone) return null;
  return (
    <Dialog open onClose={() => blocker.reset()}>
      <Stack pad>
        <DialogTitle>Leave what you typed?</DialogTitle>
        <p>It is not saved yet.</p>
        <Ways>
          <Button
            onClick={() => {
              if (keptAt !== undefined) forgetDraft(keptAt);
              blocker.proceed();
            }}
          >
            Leave without saving
          </Button>
          <Button variant="contained" autoFocus onClick={() => blocker.reset()}>
            Stay here
          </Button>
        </Ways>
      </Stack>
    </Dialog>
  );
}
