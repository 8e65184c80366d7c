import Box from '@mui/material/Box';
import { due, shortDay } from './format';

interface DueProps {
  day: string | null;
  today: string;
  /** It is over its day and still open. */
  late: boolean;
  /** Said where there is no day. */
  none?: string;
}

/** When something is due, or how late it is; of what is done with, only the day it was due. */
export const Due = ({ day, today, late, none = '' }: DueProps) => (
  <Box component="span" className={late ? 'late' : ''} sx={{ whiteSpace: 'nowrap' }}>
    {day === null ? none : day < today && !late ? shortDay(day, today) : due(day, today)}
  </Box>
);
