import { attributeKinds, type AttributeForm } from '@larder/contract/attributes';
import { useController, useFormContext, useWatch } from 'react-hook-form';
import { Check } from '../../kit/Check';
import { fieldsOf, wholeOrNone } from '../../kit/formFields';
import { useAttributesQuery } from '../../shared/items';

/** What can be said by an attribute. */
export const kindNames = { text: 'text', number: 'a number', date: 'a day', choice: 'one of a list' };

/** An attribute while it is written: what there is to choose from stands apart by commas, and one role is reminded. */
export type AttributeDraft = Omit<AttributeForm, 'choices' | 'reminderRoles'> & { choices: string; reminderRoles: number | null };

const { Choice, Field } = fieldsOf<AttributeDraft>();

/** What an attribute of one's own is called, of what it is, what can be said by it, and whom it reminds. */
export function AttributeFields({ isNew }: { isNew: boolean }) {
  const { control } = useFormContext<AttributeDraft>();
  const kind = useWatch({ control, name: 'kind' });
  const { data } = useAttributesQuery({});
  return (
    <>
      <Field label="Name" name="name" autoFocus={isNew} />
      <Choice
        label="Belongs to"
        name="subject"
        options={[
          { value: 'item', label: 'items' },
          { value: 'unit', label: 'serial units' },
        ]}
      />
      <Choice label="Kind" name="kind" options={attributeKinds.map((value) => ({ value, label: kindNames[value] }))} />
      {kind === 'choice' ? <Field label="To choose from, apart by commas" name="choices" /> : null}
      {kind === 'date' ? (
        <>
          <Field label="Days to remind after it; with a minus, before" name="reminderDays" read={signedOrNone} placeholder="-14" />
          <Choice
            label="Role to remind"
            name="reminderRoles"
            ids
            none="Nobody"
            options={(data?.roles ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
          />
          <People />
        </>
      ) : null}
    </>
  );
}

const signedOrNone = (typed: string) => (/^-\d{1,4}$/.test(typed.trim()) ? Number(typed) : wholeOrNone(typed));

function People() {
  const { field } = useController<AttributeDraft, 'reminderPeople'>({ name: 'reminderPeople' });
  const { data } = useAttributesQuery({});
  const chosen = field.value;
  return (
    <fieldset>
      <legend>And these people</legend>
      {(data?.people ?? []).map(({ id, name }) => (
        <Check
          key={id}
          label={name}
          checked={chosen.includes(id)}
          onChange={() => field.onChange(chosen.includes(id) ? chosen.filter((one) => one !== id) : [...chosen, id])}
        />
      ))}
    </fieldset>
  );
}
