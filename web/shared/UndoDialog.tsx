import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Stack } from '../kit/layout';
import Dialog from '@mui/material/Dialog';
import DialogTitle from '@mui/material/DialogTitle';
import { useState } from 'react';
import { problemOf } from '../kit/problem';
import { Asking } from '../kit/Asking';
import { EffectPanel } from '../kit/EffectPanel';
import { useForm } from '../kit/form';
import { fieldsOf } from '../kit/formFields';
import { FormFrame } from '../kit/FormFrame';
import { Refused } from '../kit/states';
import { useForeseeUndoQuery, useUndoMutation } from './stock';
import type { Undoing } from './UndoButton';
import { useSay } from './say';

interface UndoForm {
  note: string;
}
const { Field } = fieldsOf<UndoForm>();

/** Shows what undoing a posting will change, and does it. */
export function UndoDialog({ movementId, what, close }: Undoing & { close: () => void }) {
  const [countedSince, setCounted] = useState(false);
  const { currentData, error } = useForeseeUndoQuery({ body: { movementId, countedSince } });
  const asked = problemOf(error);
  const counted = asked?.asks.includes('counted-since') && !countedSince ? asked : null;
  const [undo] = useUndoMutation();
  const say = useSay();
  const form = useForm({
    came: { note: '' },
    body: ({ note }: UndoForm) => ({ movementId, note, countedSince }),
    checkedBy: async () => (await import('@larder/contract/stock')).undo.body,
  });
  const go = async () => {
    if (!(await form.send((body) => undo({ body })))) return;
    say({ text: `Undone: ${what}.` });
    close();
  };
  return (
    <Dialog open onClose={close}>
      <FormFrame form={form} save={() => void go()}>
        <Stack pad sx={{ width: 440, maxWidth: '100%' }}>
          <DialogTitle>Undo {what}</DialogTitle>
          <p className="quiet">The posting stays in the trail, with what undoes it beside it.</p>
          {counted ? (
            <Asking question={counted.title} answers={[{ label: 'Undo it all the same', run: () => setCounted(true) }]} />
          ) : (
            <EffectPanel title="What this will change" effects={currentData?.effects} error={error} idle="One moment…" />
          )}
          <Field label="Why (may be left empty)" name="note" />
          <Refused error={form.refused} />
          <Box sx={{ display: 'flex', gap: 10, justifyContent: 'flex-end' }}>
            <Button onClick={close}>Leave it</Button>
            <Button variant="contained" disabled={!currentData || form.isBusy} onClick={() => void go()}>
              Undo it
            </Button>
          </Box>
        </Stack>
      </FormFrame>
    </Dialog>
  );
}
