import { useController } from 'react-hook-form';
import { sentenceIn } from '../kit/form';
import { PartyPicker } from './PartyPicker';

interface PartyFieldProps {
  name: string;
  as: 'supplier' | 'customer';
  label: string;
  autoFocus?: boolean;
  /** Told who was chosen, where the next thing is typed elsewhere. */
  chosen?: () => void;
}

/** A supplier or customer of a form, with the name to show. */
export function PartyField({ name, as, label, autoFocus = false, chosen }: PartyFieldProps) {
  const { field, fieldState } = useController({ name });
  const value = field.value as { id: number; name: string } | null;
  const error = sentenceIn(fieldState.error);
  return (
    <PartyPicker
      as={as}
      label={label}
      value={value}
      onChange={(party) => {
        field.onChange(party);
        if (party) chosen?.();
      }}
      ref={field.ref}
      error={value === null ? error && `Choose the ${as}.` : error}
      autoFocus={autoFocus}
    />
  );
}
