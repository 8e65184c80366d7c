import { AdapterDateFns } from '@mui/x-date-pickers/AdapterDateFns';
import { DateCalendar } from '@mui/x-date-pickers/DateCalendar';
import { LocalizationProvider } from '@mui/x-date-pickers/LocalizationProvider';
import { format, parse } from 'date-fns';
import { enGB } from 'date-fns/locale/en-GB';

const dayForm = 'yyyy-MM-dd';
const dateOf = (day: string) => parse(day, dayForm, new Date(0));

interface CalendarProps {
  value: string | null;
  today: string;
  onChange: (day: string) => void;
}

/** A month to choose a day from; today is marked, the arrow keys move by day and week. It is a file of its own, fetched when it is first opened. */
export default function Calendar({ value, today, onChange }: CalendarProps) {
  return (
    <LocalizationProvider dateAdapter={AdapterDateFns} adapterLocale={enGB}>
      <DateCalendar
        autoFocus
        value={value === null ? null : dateOf(value)}
        referenceDate={dateOf(today)}
        onChange={(date: Date | null, state) => date && state === 'finish' && onChange(format(date, dayForm))}
      />
    </LocalizationProvider>
  );
}
