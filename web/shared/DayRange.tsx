import Box from '@mui/material/Box';
import type { Address } from '../kit/address';
import { DayField } from '../kit/DayField';
import { useMeQuery } from './me';

/** The days that a report is held to, kept in the address. */
export function DayRange({ address }: { address: Address }) {
  const { data: me } = useMeQuery({});
  const today = me?.company.today ?? '';
  return (
    <>
      <Box sx={{ width: 140 }}>
        <DayField label="From" lies="behind" value={address.get('from') || null} today={today} onChange={(day) => address.put('from', day ?? '')} />
      </Box>
      <Box sx={{ width: 140 }}>
        <DayField label="to" lies="behind" value={address.get('to') || null} today={today} onChange={(day) => address.put('to', day ?? '')} />
      </Box>
    </>
  );
}

/** The same as it is asked. */
export const daysOf = (address: Address) => ({ from: address.get('from') || undefined, to: address.get('to') || undefined });
