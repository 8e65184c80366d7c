import CalendarIcon from '@mui/icons-material/CalendarMonthOutlined';
import IconButton from '@mui/material/IconButton';
import Popover from '@mui/material/Popover';
import { parseDay, type Lies } from '@larder/core/day';
import { lazy, Suspense, useImperativeHandle, useRef, useState, type Ref } from 'react';
import { Field } from './Field';
import { shortDay } from './format';

const Calendar = lazy(() => import('./Calendar'));

interface DayFieldProps {
  label: string;
  value: string | null;
  today: string;
  onChange: (day: string | null) => void;
  error?: string | undefined;
  disabled?: boolean;
  hideLabel?: boolean;
  /** Whether a day without a year is one to come or one that has been. */
  lies?: Lies;
  placeholder?: string;
  ref?: Ref<HTMLInputElement>;
}

/** A day typed the short way ("24/11", "today", "+7", "fri") and shown in full once it is understood, or chosen from a calendar beside it (Alt with arrow down). */
export function DayField({
  label,
  value,
  today,
  onChange,
  error,
  disabled = false,
  hideLabel = false,
  lies = 'ahead',
  placeholder = '24/11, +7, fri',
  ref,
}: DayFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const [isOpen, setOpen] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  useImperativeHandle(ref, () => field.current as HTMLInputElement);
  const understood = typed === null || typed.trim() === '' ? null : parseDay(typed, today, lies);
  const fault =
    typed !== null && typed.trim() !== '' && understood === null
      ? `Type a day such as 24/11, ${lies === 'ahead' ? 'today, +7' : 'yesterday, -3'} or fri.`
      : error;
  const commit = () => {
    if (typed === null) return;
    if (typed.trim() === '') onChange(null);
    else if (understood) onChange(understood);
    else return;
    setTyped(null);
  };
  const close = () => {
    setOpen(false);
    field.current?.focus();
  };
  return (
    <>
      <Field
        label={label}
        value={typed ?? (value === null ? '' : shortDay(value, today))}
        onChange={setTyped}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key !== 'ArrowDown' || !event.altKey) return;
          event.preventDefault();
          setOpen(true);
        }}
        error={fault}
        disabled={disabled}
        hideLabel={hideLabel}
        placeholder={placeholder}
        ref={field}
        end={
          <IconButton size="small" tabIndex={-1} disabled={disabled} aria-label="Calendar" onClick={() => setOpen(true)}>
            <CalendarIcon fontSize="small" />
          </IconButton>
        }
      />
      <Popover open={isOpen} anchorEl={field.current} onClose={close} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}>
        <Suspense fallback={<p className="pad quiet">One moment…</p>}>
          <Calendar
            value={understood ?? value}
            today={today}
            onChange={(day) => {
              setTyped(null);
              onChange(day);
              close();
            }}
          />
        </Suspense>
      </Popover>
    </>
  );
}
