import { costMethodNames } from '@larder/core/costing/method';
import { isStocked, itemKinds } from '@larder/core/catalog/kind';
import { trackings, type ItemForm } from '@larder/contract/catalog';
import { useFormContext, useWatch } from 'react-hook-form';
import { fieldsOf, orNone } from '../../kit/formFields';
import { Card } from '../../kit/layout';
import { ReferenceField } from '../../shared/ReferenceField';
import { kindNames } from './kindNames';
import type { Written } from './written';

const { Choice, Field } = fieldsOf<Written>();
const costMethodWords = { average: 'Moving average', fifo: 'First in, first out', specific: 'Each serial its own' };
const trackingNames = { none: 'None', lot: 'By lot, with use-by', serial: 'By serial, each unit' };

/** What an item is, what it is bought and sold for, and how it is followed. */
export function ItemFacts({ isNew }: { isNew: boolean }) {
  const { control, setValue } = useFormContext<Written>();
  const kind = useWatch({ control, name: 'kind' });
  /** What is not kept in stock is followed in no way. */
  const turn = (chosen: string) => {
    if (isStocked(chosen as ItemForm['kind'])) return;
    setValue('tracking', 'none', { shouldDirty: true });
    setValue('costMethod', 'average', { shouldDirty: true });
  };
  return (
    <Card pad fields aria-label="Facts">
      <Field label="SKU" name="sku" autoFocus={isNew} />
      <Field label="Name" name="name" />
      <ReferenceField of="categories" name="categoryId" />
      <Choice label="Kind" name="kind" chosen={turn} options={itemKinds.map((value) => ({ value, label: kindNames[value] }))} />
      <ReferenceField of="units" name="unitId" />
      <Field label="Sales price" name="salesPrice" read={orNone} />
      <Field label="Purchase price" name="purchasePrice" read={orNone} />
      <ReferenceField of="taxes" name="taxCodeId" />
      {isStocked(kind) ? (
        <>
          <Choice label="Tracking" name="tracking" options={trackings.map((value) => ({ value, label: trackingNames[value] }))} />
          <Choice label="Cost" name="costMethod" options={costMethodNames.map((value) => ({ value, label: costMethodWords[value] }))} />
        </>
      ) : null}
    </Card>
  );
}
