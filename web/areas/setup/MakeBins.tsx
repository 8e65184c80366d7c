import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card, Stack } from '../../kit/layout';
import { useState } from 'react';
import { binCodes } from '@larder/core/setup/bins';
import { refusalOf } from '../../kit/draft';
import { Choice, Field } from '../../kit/Field';
import { count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { useCreateBinsMutation } from './api';

export function MakeBins({ siteId, taken }: { siteId: number; taken: readonly string[] }) {
  const [pattern, setPattern] = useState('');
  const [zone, setZone] = useState('');
  const [use, setUse] = useState('sale');
  const [create, creating] = useCreateBinsMutation();
  const { refused, busy } = refusalOf(creating);
  const { codes, fault } = readPattern(pattern);
  const known = codes.filter((code) => taken.includes(code.toLowerCase()));
  const fresh = codes.filter((code) => !taken.includes(code.toLowerCase()));
  const make = async () => {
    if (!(await create({ body: { siteId, codes: fresh, sellable: use === 'sale', zone } })).error) setPattern('');
  };
  return (
    <Card aria-label="Make bins">
      <h2>Make bins</h2>
      <Stack pad>
        <Refused error={refused} />
        <Field label="Pattern" value={pattern} onChange={setPattern} placeholder="B-{01..06}-{1..4}" error={fault} />
        <Field label="Zone" value={zone} onChange={setZone} placeholder="when the site has several" />
        <Choice
          label="For"
          value={use}
          onChange={setUse}
          options={[
            { value: 'sale', label: 'sale' },
            { value: 'quarantine', label: 'quarantine' },
          ]}
        />
        {codes.length > 0 ? (
          <Box component="p" className="code quiet" sx={{ whiteSpace: 'normal' }}>
            {codes.slice(0, 8).join(', ')}
            {codes.length > 8 ? ` … ${codes.at(-1) ?? ''}` : ''}
          </Box>
        ) : null}
        {known.length > 0 ? (
          <p className="quiet">{count(known.length, 'of them is there already and left as it is', 'of them are there already and left as they are')}.</p>
        ) : null}
        <Button disabled={busy || fresh.length === 0} onClick={() => void make()}>
          Make {count(fresh.length, 'bin')}
        </Button>
      </Stack>
    </Card>
  );
}

function readPattern(pattern: string): { codes: string[]; fault: string | undefined } {
  try {
    return { codes: pattern.trim() === '' ? [] : binCodes(pattern), fault: undefined };
  } catch (error) {
    return { codes: [], fault: error instanceof RangeError ? error.message : 'This pattern cannot be read.' };
  }
}
