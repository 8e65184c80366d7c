import { Fields } from '../../kit/layout';
import { Check } from '../../kit/Check';
import { attributeKinds } from '@larder/contract/attributes';
import { Choice, Field } from '../../kit/Field';
import { useAttributesQuery } from '../../shared/items';

/** What can be said by an attribute. */
export const kindNames = { text: 'text', number: 'a number', date: 'a day', choice: 'one of a list' };

/** An attribute that is not there yet. */
export const none = { id: 0, name: '', subject: 'item', kind: 'text', choices: '', reminder: '', role: '', people: [] as number[] };
type AttributeDraft = typeof none;

interface AttributeFieldsProps {
  form: AttributeDraft;
  put: (part: Partial<AttributeDraft>) => void;
  at: (field: string) => string | undefined;
  refused: boolean;
}

/** What an attribute of one's own is called, of what it is, what can be said by it, and whom it reminds. */
export function AttributeFields({ form, put, at, refused }: AttributeFieldsProps) {
  const { data } = useAttributesQuery({});
  return (
    <Fields sx={{ gridTemplateColumns: 'repeat(2, minmax(0, 1fr))' }}>
      <Field
        label={form.id === 0 ? 'A new attribute' : 'Its name'}
        value={form.name}
        onChange={(name) => put({ name })}
        error={at('name') ?? (refused && !at('choices') ? 'This could not be added.' : undefined)}
      />
      <Choice
        label="Belongs to"
        value={form.subject}
        onChange={(subject) => put({ subject })}
        options={[
          { value: 'item', label: 'items' },
          { value: 'unit', label: 'serial units' },
        ]}
      />
      <Choice label="Kind" value={form.kind} onChange={(kind) => put({ kind })} options={attributeKinds.map((value) => ({ value, label: kindNames[value] }))} />
      {form.kind === 'choice' ? <Field label="Apart by commas" value={form.choices} onChange={(choices) => put({ choices })} error={at('choices')} /> : null}
      {form.kind === 'date' ? (
        <>
          <Field
            label="Remind, days after (- before)"
            value={form.reminder}
            onChange={(reminder) => put({ reminder })}
            error={at('reminderDays')}
            placeholder="-14"
          />
          <Choice
            label="Remind whom"
            value={form.role}
            none="Nobody"
            onChange={(role) => put({ role })}
            options={(data?.roles ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
          />
          <fieldset>
            <legend>And these people</legend>
            {(data?.people ?? []).map(({ id, name }) => (
              <Check
                key={id}
                label={name}
                checked={form.people.includes(id)}
                onChange={() => put({ people: form.people.includes(id) ? form.people.filter((one) => one !== id) : [...form.people, id] })}
              />
            ))}
          </fieldset>
        </>
      ) : null}
    </Fields>
  );
}
