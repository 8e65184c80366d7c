import { holderSorts, type HolderSort } from '@larder/core/stock/loans';
import { useState } from 'react';
import { useField } from '../../kit/formFields';
import { useDelayed } from '../../kit/delayed';
import { refusalOf } from '../../kit/draft';
import { Picker } from '../../kit/Picker';
import { usePartiesQuery } from '../../shared/reference';
import { useBecomeHolderMutation, useCreateHolderMutation } from './api';

/** What sort of holder somebody is, as it follows "as a". */
export const sortWords: Readonly<Record<HolderSort, string>> = { person: 'person', team: 'team', place: 'place of work' };

interface Holder {
  id: number;
  name: string;
}

/** Chooses who gets what is lent, by letters: a person, a team, a place of work or a customer. Who is not known yet is added on the spot. */
export function HolderPicker({ name: field, autoFocus = false }: { name: string; autoFocus?: boolean }) {
  const { error, ...form } = useField(field);
  const value = form.value as Holder | null;
  const [typed, setTyped] = useState('');
  const q = useDelayed(typed === value?.name ? '' : typed, 120);
  const { data: found, currentData } = usePartiesQuery({ query: { as: 'holder', q, limit: 50 } });
  const [create, creating] = useCreateHolderMutation();
  const [become] = useBecomeHolderMutation();
  const rows: Holder[] = (found?.rows ?? []).map(({ id, name }) => ({ id, name }));
  const name = q.trim();
  const isNew = currentData !== undefined && name.length > 1 && rows.every((row) => row.name.toLowerCase() !== name.toLowerCase());
  // Ids below zero stand for somebody who is not known yet.
  const fresh = isNew ? holderSorts.map((sort, index) => ({ id: -1 - index, name: `Add “${name}” as a ${sortWords[sort]}` })) : [];
  const choose = async (chosen: Holder | null) => {
    if (chosen === null) return form.onChange(null);
    const sort = chosen.id < 0 ? holderSorts[-1 - chosen.id] : undefined;
    const { data } = sort ? await create({ body: { name, sort } }) : await become({ params: { id: chosen.id } });
    if (data) form.onChange({ id: data.id, name: data.name });
  };
  return (
    <Picker
      label="Lent to"
      value={value}
      options={[...rows, ...fresh]}
      onType={setTyped}
      onChange={(chosen) => void choose(chosen)}
      error={error ?? refusalOf(creating).at('name')}
      nothing="Nobody fits."
      autoFocus={autoFocus}
      highlights={rows.length > 0}
      ref={form.ref}
    />
  );
}
