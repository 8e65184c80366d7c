import Button from '@mui/material/Button';
import { lazy, Suspense, useState } from 'react';
import { useMay } from './may';

const UndoDialog = lazy(async () => ({ default: (await import('./UndoDialog')).UndoDialog }));

/** Undoes a posting after showing what that will change. Shown only to those who may. */
export function UndoButton(posting: Undoing) {
  const [open, setOpen] = useState(false);
  const may = useMay('undo');
  if (!may) return null;
  return (
    <>
      <Button size="small" onClick={() => setOpen(true)} aria-label={`Undo ${posting.what}`}>
        Undo
      </Button>
      {open ? <Undo {...posting} close={() => setOpen(false)} /> : null}
    </>
  );
}

/** A posting that is to be undone, and how it is called. */
export interface Undoing {
  movementId: number;
  what: string;
}

/** Asks whether a posting is to be undone; fetched when it is first asked. */
export const Undo = (asked: Undoing & { close: () => void }) => (
  <Suspense fallback={null}>
    <UndoDialog {...asked} />
  </Suspense>
);
