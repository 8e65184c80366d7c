import { itemKinds } from '@larder/core/catalog/kind';
import type { Family } from '@larder/contract/families';
import { fieldsOf } from '../../kit/formFields';
import { OwnAccounts } from '../../shared/OwnAccounts';
import { ReferenceField } from '../../shared/ReferenceField';
import { kindNames } from './kindNames';

/** What the members of a family share. */
export type SharedForm = Pick<
  Family,
  | 'name'
  | 'description'
  | 'categoryId'
  | 'unitId'
  | 'brand'
  | 'taxCodeId'
  | 'returnable'
  | 'kind'
  | 'maker'
  | 'inventoryAccountId'
  | 'costAccountId'
  | 'salesAccountId'
>;

const { Check, Choice, Field } = fieldsOf<SharedForm>();

/** What a family is like that is not there yet. */
export const noFamily = (unitId: number, taxCodeId: number | null): SharedForm => ({
  name: '',
  description: '',
  categoryId: null,
  unitId,
  brand: '',
  taxCodeId,
  returnable: true,
  kind: 'stocked',
  maker: '',
  inventoryAccountId: null,
  costAccountId: null,
  salesAccountId: null,
});

/** The fields of what a family's members share. */
export const SharedFacts = ({ isNew = false }: { isNew?: boolean }) => (
  <>
    <Field label="Name" name="name" placeholder="Honey jar" autoFocus={isNew} />
    <ReferenceField of="categories" name="categoryId" />
    <Choice label="Kind" name="kind" options={itemKinds.map((value) => ({ value, label: kindNames[value] }))} />
    <ReferenceField of="units" name="unitId" />
    <ReferenceField of="taxes" name="taxCodeId" />
    <Field label="Brand" name="brand" />
    <Field label="Maker" name="maker" />
    <Field label="Description" name="description" />
    <OwnAccounts />
    <Check label="Customers may return them" name="returnable" />
  </>
);
