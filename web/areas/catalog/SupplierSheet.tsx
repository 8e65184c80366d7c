import Button from '@mui/material/Button';
import type { ItemForm } from '@larder/contract/catalog';
import { breaksText, readBreaks } from '@larder/core/inbound/terms';
import { useState } from 'react';
import { useController, useFieldArray, useFormContext, useWatch } from 'react-hook-form';
import { Field as PlainField } from '../../kit/Field';
import { sentenceIn } from '../../kit/form';
import { fieldsOf, orNone, useReadOnly, wholeOrNone } from '../../kit/formFields';
import { Card, Fields, Stack, inRow } from '../../kit/layout';
import { PartyPicker } from '../../shared/PartyPicker';
import type { Written } from './written';

const { Field } = fieldsOf<Written>();

/** Supplier's terms while they are written, with the supplier's name to show. */
export type SupplierRow = ItemForm['suppliers'][number] & { supplier: string };
const bare: SupplierRow = { supplierId: 0, supplier: '', code: '', packSize: '1', minimum: '0', price: null, leadDays: null, breaks: [] };

/** Who supplies an item, under which code, in which pack; the first is asked first when it runs low. */
export function SupplierSheet() {
  const { control } = useFormContext<Written>();
  const { fields, append, remove } = useFieldArray({ control, name: 'suppliers' });
  const isRead = useReadOnly();
  return (
    <Card aria-label="Suppliers">
      <h2>
        Suppliers<span>the first is asked first when it runs low</span>
      </h2>
      <Stack pad>
        {fields.map(({ id }, index) => (
          <Fields key={id} sx={inRow('minmax(180px, 2fr) repeat(5, minmax(56px, 0.7fr)) minmax(110px, 1.4fr) auto')}>
            <SupplierField index={index} />
            <Field label="Their code" name={`suppliers.${index}.code`} />
            <Field label="Pack size" name={`suppliers.${index}.packSize`} />
            <Field label="Minimum order" name={`suppliers.${index}.minimum`} />
            <Field label="Price" name={`suppliers.${index}.price`} read={orNone} />
            <Field label="Days" placeholder="usual" name={`suppliers.${index}.leadDays`} read={wholeOrNone} />
            <BreaksField index={index} />
            {isRead ? null : <Button onClick={() => remove(index)}>Remove</Button>}
          </Fields>
        ))}
        {fields.length === 0 ? <p className="quiet">Nobody supplies it yet.</p> : null}
        {isRead ? null : (
          <span>
            <Button size="small" onClick={() => append(bare, { focusName: `suppliers.${fields.length}.supplierId` })}>
              Add a supplier
            </Button>
          </span>
        )}
      </Stack>
    </Card>
  );
}

function SupplierField({ index }: { index: number }) {
  const { control, setValue } = useFormContext<Written>();
  const { field, fieldState } = useController({ control, name: `suppliers.${index}.supplierId` });
  const name = useWatch({ control, name: `suppliers.${index}.supplier` });
  const error = sentenceIn(fieldState.error);
  return (
    <PartyPicker
      as="supplier"
      label="Supplier"
      value={field.value === 0 ? null : { id: field.value, name }}
      onChange={(party) => {
        field.onChange(party?.id ?? 0);
        setValue(`suppliers.${index}.supplier`, party?.name ?? '');
      }}
      ref={field.ref}
      disabled={useReadOnly()}
      error={field.value === 0 ? error && 'Choose the supplier.' : error}
    />
  );
}

/** Other prices from so many on, as they are typed; what cannot be read yet is kept as typed and said. */
function BreaksField({ index }: { index: number }) {
  const { control } = useFormContext<Written>();
  const { field, fieldState } = useController({ control, name: `suppliers.${index}.breaks` });
  const [text, setText] = useState(breaksText(field.value));
  const error = sentenceIn(fieldState.error);
  return (
    <PlainField
      label="Price breaks"
      placeholder="100: 0.95; 500: 0.90"
      value={text}
      onChange={(typed) => {
        setText(typed);
        field.onChange(readBreaks(typed) ?? [{ from: typed, price: '' }]);
      }}
      ref={field.ref}
      disabled={useReadOnly()}
      error={readBreaks(text) === null && error ? 'Write them like 100: 0.95; 500: 0.90.' : error}
    />
  );
}
