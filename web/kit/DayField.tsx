import { parseDay, type Lies } from '@larder/core/day';
import { useState } from 'react';
import { Field } from './Field';
import { shortDay } from './format';

/** A day typed the short way ("24/11", "today", "+7", "fri"); shown in full once it is understood. */
export function DayField({
  label,
  value,
  today,
  onChange,
  error,
  disabled,
  hideLabel,
  lies = 'ahead',
}: {
  label: string;
  value: string | null;
  today: string;
  onChange: (day: string | null) => void;
  error?: string | undefined;
  disabled?: boolean;
  hideLabel?: boolean;
  /** Whether a day without a year is one to come or one that has been. */
  lies?: Lies;
}) {
  const [typed, setTyped] = useState<string | null>(null);
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
  return (
    <Field
      label={label}
      value={typed ?? (value === null ? '' : shortDay(value, today))}
      onChange={setTyped}
      onBlur={commit}
      error={fault}
      disabled={disabled ?? false}
      hideLabel={hideLabel ?? false}
      placeholder="24/11, +7, fri"
    />
  );
}
