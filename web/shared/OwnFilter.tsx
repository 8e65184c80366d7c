import { Check } from '../kit/Check';
import { useTyped, type Address } from '../kit/address';
import { Choice, Field } from '../kit/Field';
import { useAttributesQuery } from './items';

/** Holds a list to a value of an own attribute, and shows own attributes as its columns where it may have them. */
export function OwnFilter({ address, subject, asColumns = true }: { address: Address; subject: 'item' | 'unit'; asColumns?: boolean }) {
  const { data } = useAttributesQuery({});
  const own = (data?.rows ?? []).filter((row) => row.subject === subject);
  const typedValue = useTyped(address, 'value');
  if (own.length === 0) return null;
  const chosen = own.find(({ id }) => String(id) === address.get('attribute'));
  const columns = address.get('columns').split(',').filter(Boolean);
  const toggle = (id: string) => address.put('columns', (columns.includes(id) ? columns.filter((one) => one !== id) : [...columns, id]).join(','));
  const field = (name: string) => ({ value: address.get(name), onChange: (value: string) => address.put(name, value) });
  return (
    <>
      <Choice label="Own attribute" none="Any" {...field('attribute')} options={own.map(({ id, name }) => ({ value: String(id), label: name }))} />
      {chosen?.kind === 'choice' ? (
        <Choice label="Value" none="Anything" {...field('value')} options={chosen.choices.map((choice) => ({ value: choice, label: choice }))} />
      ) : null}
      {chosen && chosen.kind !== 'choice' ? <Field label="Value" {...typedValue} /> : null}
      {asColumns ? (
        <fieldset>
          <legend>Columns of your own</legend>
          {own.map(({ id, name }) => (
            <Check key={id} label={name} checked={columns.includes(String(id))} onChange={() => toggle(String(id))} />
          ))}
        </fieldset>
      ) : null}
    </>
  );
}
