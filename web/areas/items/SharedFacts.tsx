import type { Family } from '@larder/contract/families';
import { Choice, Field } from '../../kit/Field';
import { useReferenceQuery } from '../setup/api';

/** What the members of a family share. A unit or tax not chosen yet is the first there is. */
export interface SharedForm extends Pick<Family, 'name' | 'description' | 'categoryId' | 'brand' | 'taxCodeId' | 'returnable'> {
  unitId: number;
}

interface SharedFactsProps {
  form: SharedForm;
  put: (part: Partial<SharedForm>) => void;
  errorAt: (field: string) => string | undefined;
}

/** The fields of what a family's members share. */
export function SharedFacts({ form, put, errorAt }: SharedFactsProps) {
  const { data: reference } = useReferenceQuery({});
  const options = (list: readonly { id: number; name: string }[] | undefined) => (list ?? []).map((one) => ({ value: String(one.id), label: one.name }));
  return (
    <>
      <Field label="Name" value={form.name} onChange={(name) => put({ name })} error={errorAt('name')} placeholder="Honey jar" autoFocus={form.name === ''} />
      <Choice
        label="Category"
        value={String(form.categoryId ?? '')}
        none="None"
        onChange={(value) => put({ categoryId: Number(value) || null })}
        options={options(reference?.categories)}
        error={errorAt('categoryId')}
      />
      <Choice
        label="Unit"
        value={String(form.unitId)}
        onChange={(value) => put({ unitId: Number(value) })}
        options={options(reference?.units)}
        error={errorAt('unitId')}
      />
      <Choice
        label="Tax"
        value={String(form.taxCodeId ?? '')}
        none="None"
        onChange={(value) => put({ taxCodeId: Number(value) || null })}
        options={options(reference?.taxes)}
        error={errorAt('taxCodeId')}
      />
      <Field label="Brand" value={form.brand} onChange={(brand) => put({ brand })} error={errorAt('brand')} />
      <Field label="Description" value={form.description} onChange={(description) => put({ description })} error={errorAt('description')} />
      <label style={{ alignSelf: 'end', minHeight: 36 }}>
        <input type="checkbox" checked={form.returnable} onChange={(event) => put({ returnable: event.target.checked })} /> Customers may return them
      </label>
    </>
  );
}
