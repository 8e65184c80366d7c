import { Choice } from '../kit/Field';
import { useReferenceQuery } from './reference';

const labels = { categories: 'Category', units: 'Unit', taxes: 'Tax' };

interface ReferenceChoiceProps {
  of: keyof typeof labels;
  value: number | null;
  onChange: (id: number | null) => void;
  error?: string | undefined;
}

/** A category, unit or tax of the business, chosen by name; a unit is always needed, the others may be none. */
export function ReferenceChoice({ of, value, onChange, error }: ReferenceChoiceProps) {
  const { data: reference } = useReferenceQuery({});
  return (
    <Choice
      label={labels[of]}
      value={String(value ?? '')}
      {...(of === 'units' ? {} : { none: 'None' })}
      onChange={(id) => onChange(Number(id) || null)}
      options={(reference?.[of] ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
      error={error}
    />
  );
}
