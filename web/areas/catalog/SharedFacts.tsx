import { Check } from '../../kit/Check';
import type { Family } from '@larder/contract/families';
import { Field } from '../../kit/Field';
import { ReferenceChoice } from '../../shared/ReferenceChoice';

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
  return (
    <>
      <Field label="Name" value={form.name} onChange={(name) => put({ name })} error={errorAt('name')} placeholder="Honey jar" autoFocus={form.name === ''} />
      <ReferenceChoice of="categories" value={form.categoryId} onChange={(categoryId) => put({ categoryId })} error={errorAt('categoryId')} />
      <ReferenceChoice of="units" value={form.unitId} onChange={(unitId) => put({ unitId: unitId ?? form.unitId })} error={errorAt('unitId')} />
      <ReferenceChoice of="taxes" value={form.taxCodeId} onChange={(taxCodeId) => put({ taxCodeId })} error={errorAt('taxCodeId')} />
      <Field label="Brand" value={form.brand} onChange={(brand) => put({ brand })} error={errorAt('brand')} />
      <Field label="Description" value={form.description} onChange={(description) => put({ description })} error={errorAt('description')} />
      <Check label="Customers may return them" checked={form.returnable} onChange={(checked) => put({ returnable: checked })} />
    </>
  );
}
