import Button from '@mui/material/Button';
import type { Account } from '@larder/contract/books';
import { maybeBilled } from '@larder/core/books/purpose';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { fieldsOf } from '../../kit/formFields';
import { Card, Fields, inRow } from '../../kit/layout';
import { inUse, useReferenceQuery } from '../../shared/reference';
import type { OtherDraft } from './billDraft';
import type { WorkedOf } from './BillLines';
import { LineSaid } from './LineSaid';

interface WithOthers {
  others: OtherDraft[];
}
const { Choice, Field } = fieldsOf<WithOthers>();

interface OthersBilledProps {
  accounts: readonly Account[];
  workedOf: WorkedOf;
}

/** Lines of the bill in the form around for what nobody ordered: in words, on an account. */
export function OthersBilled({ accounts, workedOf }: OthersBilledProps) {
  const { control } = useFormContext<WithOthers>();
  const { fields, append, remove } = useFieldArray({ control, name: 'others' });
  const { data: reference } = useReferenceQuery({});
  const usual = String(accounts.find(({ purpose }) => purpose === 'other-costs')?.id ?? '');
  return (
    <Card pad stack aria-label="Other lines">
      {fields.map(({ id, taxCodeId }, index) => (
        <Fields key={id} sx={inRow('2fr 2fr 1fr 1fr auto', 'start')}>
          <Field label={`What line ${index + 1} is for`} name={`others.${index}.text`} />
          <Choice
            label={`Account of line ${index + 1}`}
            name={`others.${index}.accountId`}
            options={accounts.filter(maybeBilled).map(({ id: value, code, name }) => ({ value: String(value), label: `${code} ${name}` }))}
          />
          <span>
            <Field label={`Amount of line ${index + 1}`} name={`others.${index}.amount`} />
            <LineSaid>{workedOf(`others.${index}`)?.words}</LineSaid>
          </span>
          <Choice
            label={`Tax on line ${index + 1}`}
            name={`others.${index}.taxCodeId`}
            ids
            none="No tax"
            options={inUse(reference?.taxes, taxCodeId).map(({ id: value, name, rate }) => ({ value: String(value), label: `${name}, ${rate} %` }))}
          />
          <Button sx={{ alignSelf: 'end' }} aria-label={`Remove line ${index + 1}`} onClick={() => remove(index)}>
            Remove
          </Button>
        </Fields>
      ))}
      <span>
        <Button size="small" onClick={() => append({ text: '', accountId: usual, amount: '', taxCodeId: null }, { focusName: `others.${fields.length}.text` })}>
          Add another line
        </Button>
      </span>
    </Card>
  );
}
