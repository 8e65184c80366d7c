import { useField } from '../kit/formFields';
import { PartyPicker, type PickedParty } from './PartyPicker';

interface PartyFieldProps {
  name: string;
  as: 'supplier' | 'customer';
  label: string;
  autoFocus?: boolean;
  /** Told that another was chosen, where the next thing is typed elsewhere or goes by them. */
  chosen?: (party: PickedParty | null) => void;
}

/** A supplier or customer of a form, with the name to show. */
export function PartyField({ name, as, label, autoFocus = false, chosen }: PartyFieldProps) {
  const { error, ...field } = useField(name);
  const value = field.value as PickedParty | null;
  return (
    <PartyPicker
      as={as}
      label={label}
      value={value}
      onChange={(party) => {
        field.onChange(party);
        chosen?.(party);
      }}
      ref={field.ref}
      error={value === null ? error && `Choose the ${as}.` : error}
      autoFocus={autoFocus}
    />
  );
}
