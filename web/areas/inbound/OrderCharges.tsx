import { memo } from 'react';
import Button from '@mui/material/Button';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { fieldsOf } from '../../kit/formFields';
import { Card, Fields, Stack } from '../../kit/layout';
import { inUse, useReferenceQuery } from '../../shared/reference';
import type { DraftForm } from './draftForm';

const { Choice, Field } = fieldsOf<DraftForm>();

/** What an order costs beside its goods, while it is written. */
export interface DraftCharge {
  label: string;
  amount: string;
  taxCodeId: number | null;
}

/** Charges of an order: carriage, packing, tooling. They go on to its worksheet and its bill. */
export const OrderCharges = memo(function OrderCharges() {
  const { control } = useFormContext<DraftForm>();
  const { fields, append, remove } = useFieldArray({ control, name: 'charges' });
  const { data: reference } = useReferenceQuery({});
  const taxes = inUse(reference?.taxes).map(({ id, name, rate }) => ({ value: String(id), label: `${name}, ${rate} %` }));
  return (
    <Card aria-label="Charges">
      {fields.length > 0 ? (
        <Stack pad>
          {fields.map(({ id }, index) => (
            <Fields key={id} sx={{ alignItems: 'end' }}>
              <Field label="Charge for" name={`charges.${index}.label`} placeholder="carriage, packing…" />
              <Field label="Amount" name={`charges.${index}.amount`} />
              <Choice label="Tax" none="No tax" name={`charges.${index}.taxCodeId`} ids options={taxes} />
              <span>
                <Button onClick={() => remove(index)}>Remove the charge</Button>
              </span>
            </Fields>
          ))}
        </Stack>
      ) : null}
      <p className="pad">
        <Button
          size="small"
          onClick={() => append({ label: '', amount: '', taxCodeId: reference?.taxes[0]?.id ?? null }, { focusName: `charges.${fields.length}.label` })}
        >
          Add a charge
        </Button>{' '}
        <span className="quiet">{fields.length === 0 ? 'carriage, packing, tooling: whatever the supplier asks beside the goods' : ''}</span>
      </p>
    </Card>
  );
});
