import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { Problem } from '@larder/contract/values';
import { useState } from 'react';
import { DayField } from '../../kit/DayField';
import { Field } from '../../kit/Field';
import { useMeQuery } from '../../shared/me';
import type { Asked, Counting } from './useCounting';

/** Which lot or serial something is that was found: one that no record knows is made. */
export function NewLot({ asked, counting }: { asked: Asked; counting: Counting }) {
  const [code, setCode] = useState('');
  const [useBy, setUseBy] = useState<string | null>(null);
  const [fault, setFault] = useState<Problem | null>(null);
  const { data: me } = useMeQuery({});
  const isLot = asked.tracking === 'lot';
  const at = (field: string) => fault?.errors.find((one) => one.field === field)?.sentence;
  const name = async () => setFault(await counting.name(code.trim(), useBy));
  return (
    <Box
      role="group"
      aria-label={`Which ${asked.tracking} of ${asked.sku}`}
      sx={{ display: 'flex', gap: 12, alignItems: 'start', flexWrap: 'wrap', paddingBottom: 8 }}
    >
      <Box sx={{ width: 180 }}>
        <Field
          autoFocus
          label={`${isLot ? 'Lot' : 'Serial'} of ${asked.sku}`}
          value={code}
          onChange={setCode}
          onKeyDown={({ key }) => key === 'Enter' && void name()}
          error={at('code') ?? (fault && !at('useBy') ? fault.title : undefined)}
        />
      </Box>
      {isLot ? (
        <Box sx={{ width: 170 }}>
          <DayField lies="ahead" label="Use by, if it has one" value={useBy} onChange={setUseBy} today={me?.company.today ?? ''} error={at('useBy')} />
        </Box>
      ) : null}
      <Button disabled={code.trim() === ''} onClick={() => void name()}>
        Count it
      </Button>
      <Button onClick={() => counting.ask(null)}>Never mind</Button>
    </Box>
  );
}
