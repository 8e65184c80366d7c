import { useState } from 'react';
import { useDelayed } from '../../kit/delayed';
import { Picker } from '../../kit/Picker';
import { usePartiesQuery } from './api';

interface PartyPickerProps {
  as: 'supplier' | 'customer';
  label: string;
  value: { id: number; name: string } | null;
  onChange: (party: { id: number; name: string } | null) => void;
  error?: string | undefined;
  autoFocus?: boolean;
}

/** Chooses a supplier or customer by letters; the server finds them, however many there are. */
export function PartyPicker({ as, value, ...rest }: PartyPickerProps) {
  const [typed, setTyped] = useState('');
  const q = useDelayed(typed === value?.name ? '' : typed, 120);
  const { data } = usePartiesQuery({ query: { as, q, limit: 50 } });
  return <Picker {...rest} value={value} options={data?.rows ?? []} onType={setTyped} />;
}
