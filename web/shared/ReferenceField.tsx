import { useWatch, type FieldValues } from 'react-hook-form';
import { fieldsOf } from '../kit/formFields';
import { inUse, useReferenceQuery } from './reference';

const labels = { categories: 'Category', units: 'Unit', taxes: 'Tax' };
interface Listed {
  id: number;
  name: string;
  retired: boolean;
}
const { Choice } = fieldsOf<FieldValues>();

/** A category, unit or tax of the business, chosen by name; a unit is always needed, the others may be none. */
export function ReferenceField({ of, name }: { of: keyof typeof labels; name: string }) {
  const { data: reference } = useReferenceQuery({});
  const has = useWatch<FieldValues, string>({ name }) as number | null;
  const options = inUse<Listed>(reference?.[of], has).map((one) => ({ value: String(one.id), label: one.name }));
  return <Choice label={labels[of]} name={name} ids {...(of === 'units' ? {} : { none: 'None' })} options={options} />;
}
