import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { isDay } from '@larder/core/day';
import { useState } from 'react';
import type { Address } from '../kit/address';
import { DayField } from '../kit/DayField';
import { useMeQuery } from './me';

/** The day before today as of which things are looked at; undefined where they are looked at as they are now. */
export function useAsOf(address: Address): string | undefined {
  const { data: me } = useMeQuery({});
  const day = address.get('asOf');
  return isDay(day) && (me === undefined || day < me.company.today) ? day : undefined;
}

/** One switch for all that is shown: as it is now, or as it stood at the end of a day. It is kept in the address. */
export function AsOf({ address }: { address: Address }) {
  const { data: me } = useMeQuery({});
  const asOf = useAsOf(address);
  const today = me?.company.today ?? '';
  const [fault, setFault] = useState<string>();
  const look = (day: string | null) => {
    const ahead = day !== null && day > today;
    setFault(ahead ? 'Give today or a day before it.' : undefined);
    if (!ahead) address.put('asOf', day === today ? '' : (day ?? ''));
  };
  return (
    <Box component="span" sx={{ display: 'inline-flex', gap: 6, alignItems: 'center', alignSelf: 'center', '& .MuiFormControl-root': { width: 160, gap: 0 } }}>
      <DayField label="As of" hideLabel lies="behind" placeholder="As of today" value={asOf ?? null} today={today} error={fault} onChange={look} />
      {asOf === undefined ? null : <Button onClick={() => address.put('asOf', '')}>Back to now</Button>}
    </Box>
  );
}

/** The same day in the address of something else that is looked at. */
export const alsoAsOf = (asOf: string | undefined, sign: '?' | '&' = '?'): string => (asOf === undefined ? '' : `${sign}asOf=${asOf}`);
