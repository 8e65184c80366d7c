import Button from '@mui/material/Button';
import { createContext, use, useLayoutEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { createPortal } from 'react-dom';

interface Slots {
  hint: HTMLElement | null;
  actions: HTMLElement | null;
  setHint: (element: HTMLElement | null) => void;
  setActions: (element: HTMLElement | null) => void;
}

const SlotContext = createContext<Slots>({ hint: null, actions: null, setHint: () => undefined, setActions: () => undefined });
export const useSlot = () => use(SlotContext);

export function SlotProvider({ children }: { children: ReactNode }) {
  const [hint, setHint] = useState<HTMLElement | null>(null);
  const [actions, setActions] = useState<HTMLElement | null>(null);
  const slots = useMemo(() => ({ hint, actions, setHint, setActions }), [hint, actions]);
  return <SlotContext value={slots}>{children}</SlotContext>;
}

export interface NextStep {
  label: string;
  run: () => void;
  disabled?: boolean;
}

/** What a page puts at the bottom: a hint, lesser actions, and the one next step, which is also Ctrl Enter. */
export function BottomBar({ hint, next, children }: { hint?: string; next?: NextStep | undefined; children?: ReactNode }) {
  const slots = useSlot();
  const latest = useRef(next);
  // Before anybody sees the button: keys pressed at once count.
  useLayoutEffect(() => {
    latest.current = next;
  });
  useLayoutEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key !== 'Enter' || !event.ctrlKey || event.repeat || !latest.current || latest.current.disabled) return;
      event.preventDefault();
      latest.current.run();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
  return (
    <>
      {slots.hint ? createPortal(hint ?? '', slots.hint) : null}
      {slots.actions
        ? createPortal(
            <>
              {children}
              {next ? (
                <Button variant="contained" onClick={next.run} disabled={next.disabled}>
                  {next.label} <kbd>Ctrl Enter</kbd>
                </Button>
              ) : null}
            </>,
            slots.actions,
          )
        : null}
    </>
  );
}
