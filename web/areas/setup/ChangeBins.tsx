import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import { useState } from 'react';
import { Field } from '../../kit/Field';
import { count } from '../../kit/format';

interface ChangeBinsProps {
  chosen: readonly number[];
  change: (part: { zone?: string; sellable?: boolean; retired?: boolean; walkFrom?: number }) => void;
  busy: boolean;
}

export function ChangeBins({ chosen, change, busy }: ChangeBinsProps) {
  const [zone, setZone] = useState('');
  const [walkFrom, setWalkFrom] = useState('');
  if (chosen.length === 0) return null;
  return (
    <Card aria-label="Change the chosen bins">
      <h2>Change {count(chosen.length, 'bin')}</h2>
      <Stack pad>
        <Fields sx={{ gridTemplateColumns: '1fr auto', alignItems: 'end' }}>
          <Field label="Zone of the chosen" value={zone} onChange={setZone} />
          <Button disabled={busy} onClick={() => change({ zone })}>
            Set
          </Button>
          <Field label="Walk to them from place" value={walkFrom} onChange={setWalkFrom} placeholder="1" />
          <Button disabled={busy || !/^\d{1,6}$/.test(walkFrom)} onClick={() => change({ walkFrom: Number(walkFrom) })}>
            Set
          </Button>
        </Fields>
        <Box component="span" sx={{ display: 'flex', flexWrap: 'wrap', gap: 8 }}>
          <Button size="small" disabled={busy} onClick={() => change({ sellable: false })}>
            For quarantine
          </Button>
          <Button size="small" disabled={busy} onClick={() => change({ sellable: true })}>
            For sale
          </Button>
          <Button size="small" disabled={busy} onClick={() => change({ retired: true })}>
            Retire
          </Button>
          <Button size="small" disabled={busy} onClick={() => change({ retired: false })}>
            Take back
          </Button>
        </Box>
      </Stack>
    </Card>
  );
}
