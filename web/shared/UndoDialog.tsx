import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Stack } from '../kit/layout';
import Dialog from '@mui/material/Dialog';
import DialogTitle from '@mui/material/DialogTitle';
import { useState } from 'react';
import { problemOf } from '../kit/problem';
import { Asking } from '../kit/Asking';
import { EffectPanel } from '../kit/EffectPanel';
import { Field } from '../kit/Field';
import { Refused } from '../kit/states';
import { useForeseeUndoQuery, useUndoMutation } from './stock';
import type { Undoing } from './UndoButton';

/** Shows what undoing a posting will change, and does it. */
export function UndoDialog({ movementId, what, close }: Undoing & { close: () => void }) {
  const [note, setNote] = useState('');
  const [countedSince, setCounted] = useState(false);
  const { currentData, error } = useForeseeUndoQuery({ body: { movementId, countedSince } });
  const asked = problemOf(error);
  const counted = asked?.asks.includes('counted-since') && !countedSince ? asked : null;
  const [undo, { isLoading, error: refused }] = useUndoMutation();
  const go = async () => {
    const result = await undo({ body: { movementId, note, countedSince } });
    if (!result.error) close();
  };
  return (
    <Dialog open onClose={close}>
      <Stack pad sx={{ width: 440, maxWidth: '100%' }}>
        <DialogTitle>Undo {what}</DialogTitle>
        <p className="quiet">The posting stays in the trail, with what undoes it beside it.</p>
        {counted ? (
          <Asking question={counted.title} answers={[{ label: 'Undo it all the same', run: () => setCounted(true) }]} />
        ) : (
          <EffectPanel title="What this will change" effects={currentData?.effects} error={error} idle="One moment…" />
        )}
        <Field label="Why (may be left empty)" value={note} onChange={setNote} />
        <Refused error={refused} />
        <Box sx={{ display: 'flex', gap: 10, justifyContent: 'flex-end' }}>
          <Button onClick={close}>Leave it</Button>
          <Button variant="contained" disabled={!currentData || isLoading} onClick={() => void go()}>
            Undo it
          </Button>
        </Box>
      </Stack>
    </Dialog>
  );
}
