import Button from '@mui/material/Button';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { fieldsOf } from '../../kit/formFields';
import { Card, Fields, inRow } from '../../kit/layout';
import { useAccountsQuery } from '../../shared/accounts';
import { useMay } from '../../shared/may';
import { inUse, useReferenceQuery } from '../../shared/reference';
import type { InvoiceDraft, Proposal } from './invoiceDraft';

const { Choice, Field } = fieldsOf<InvoiceDraft>();

/** What is charged beside the goods: for shipments, and anything else in words. */
export function Charges({ shipments, usualTax }: { shipments: Proposal['freight']; usualTax: number | null }) {
  const { control } = useFormContext<InvoiceDraft>();
  const freight = useFieldArray({ control, name: 'freight' });
  const { fields, append, remove } = useFieldArray({ control, name: 'others' });
  const { data: reference } = useReferenceQuery({});
  const seesCost = useMay('costs.see', null);
  const { data: accounts } = useAccountsQuery({}, { skip: !seesCost });
  const taxes = (chosen: number | null) => inUse(reference?.taxes, chosen).map(({ id, name, rate }) => ({ value: String(id), label: `${name}, ${rate} %` }));
  const incomes = (accounts?.rows ?? []).filter(({ type }) => type === 'income').map(({ id, code, name }) => ({ value: String(id), label: `${code} ${name}` }));
  return (
    <Card pad stack aria-label="Charges">
      {freight.fields.map(({ id, shipmentId, taxCodeId }, index) => {
        const number = shipments.find((one) => one.shipmentId === shipmentId)?.number ?? '';
        return (
          <Fields key={id} sx={inRow('1fr 1fr 2fr', 'start')}>
            <Field label={`Freight of ${number}`} name={`freight.${index}.amount`} />
            <Choice label={`Tax on freight of ${number}`} name={`freight.${index}.taxCodeId`} ids none="No tax" options={taxes(taxCodeId)} />
          </Fields>
        );
      })}
      {fields.map(({ id, taxCodeId }, index) => (
        <Fields key={id} sx={inRow(seesCost ? '2fr 2fr 1fr 1fr auto' : '2fr 1fr 1fr auto', 'start')}>
          <Field label={`What charge ${index + 1} is for`} name={`others.${index}.text`} />
          {seesCost ? <Choice label={`Account of charge ${index + 1}`} name={`others.${index}.accountId`} ids none="Sales" options={incomes} /> : null}
          <Field label={`Amount of charge ${index + 1}`} name={`others.${index}.amount`} />
          <Choice label={`Tax on charge ${index + 1}`} name={`others.${index}.taxCodeId`} ids none="No tax" options={taxes(taxCodeId)} />
          <Button sx={{ alignSelf: 'end' }} aria-label={`Remove charge ${index + 1}`} onClick={() => remove(index)}>
            Remove
          </Button>
        </Fields>
      ))}
      <span>
        <Button
          size="small"
          onClick={() => append({ text: '', accountId: null, amount: '', taxCodeId: usualTax }, { focusName: `others.${fields.length}.text` })}
        >
          Add a charge
        </Button>
      </span>
    </Card>
  );
}
