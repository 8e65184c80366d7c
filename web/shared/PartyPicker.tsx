import { useState, type Ref } from 'react';
import { refusalOf } from '../kit/draft';
import { useDelayed } from '../kit/delayed';
import { Picker } from '../kit/Picker';
import { useMay } from './may';
import { useCreatePartyMutation, usePartiesQuery } from './reference';

/** A supplier or customer that is chosen; of a customer what they pay in, where that is another currency than the business's. */
export interface PickedParty {
  id: number;
  name: string;
  salesCurrency?: string | null;
}

interface PartyPickerProps {
  as: 'supplier' | 'customer';
  label: string;
  value: PickedParty | null;
  onChange: (party: PickedParty | null) => void;
  error?: string | undefined;
  autoFocus?: boolean;
  disabled?: boolean;
  ref?: Ref<HTMLInputElement>;
}

/** Stands for somebody who is not known yet. */
const unknown = 0;

/** Chooses a supplier or customer by letters; the server finds them, however many there are. Who is not known yet is added on the spot. */
export function PartyPicker({ as, value, onChange, error, ...rest }: PartyPickerProps) {
  const [typed, setTyped] = useState('');
  const q = useDelayed(typed === value?.name ? '' : typed, 120);
  const { data: found, currentData } = usePartiesQuery({ query: { as, q, limit: 50 } });
  const [create, creating] = useCreatePartyMutation();
  const rows = found?.rows ?? [];
  const name = q.trim();
  const fresh = currentData !== undefined && name.length > 1 && rows.every((row) => row.name.toLowerCase() !== name.toLowerCase());
  const mayAdd = useMay('items.edit');
  const options: PickedParty[] = fresh && mayAdd ? [...rows, { id: unknown, name: `Add “${name}” as a ${as}` }] : rows;
  const choose = async (party: PickedParty | null) => {
    if (party?.id !== unknown) return onChange(party);
    const { data } = await create({ body: as === 'supplier' ? { name, isSupplier: true } : { name, isCustomer: true } });
    if (data) onChange({ id: data.id, name: data.name });
  };
  return (
    <Picker
      {...rest}
      value={value}
      options={options}
      onType={setTyped}
      onChange={(party) => void choose(party)}
      error={error ?? refusalOf(creating).at('name')}
      nothing={`No ${as} fits.`}
      // Nobody is added by Enter after a slip of the finger: the arrow or the pointer has to choose it.
      highlights={rows.length > 0}
    />
  );
}
