import { useState } from 'react';
import { attributeKinds, type AttributeForm } from '@larder/contract/attributes';
import { refusalOf } from '../../kit/draft';
import { Choice, Field } from '../../kit/Field';
import { useAttributesQuery, useCreateAttributeMutation, useEditAttributeMutation } from '../../shared/items';

const kindNames = { text: 'text', number: 'a number', date: 'a day', choice: 'one of a list' };
/** The form of a new attribute, or of one that is changed. */
const none = { id: 0, name: '', subject: 'item', kind: 'text', choices: '', reminder: '', role: '', people: [] as number[] };

/** Facts of the business's own on items and serial units; a day can remind somebody. */
export function Attributes() {
  const { data } = useAttributesQuery({});
  const [form, setForm] = useState(none);
  const [create, creating] = useCreateAttributeMutation();
  const [edit, editing] = useEditAttributeMutation();
  const { refused, at } = refusalOf(creating, editing);
  const put = (part: Partial<typeof none>) => setForm({ ...form, ...part });
  const add = async () => {
    const body: AttributeForm = {
      name: form.name,
      subject: form.subject as AttributeForm['subject'],
      kind: form.kind as AttributeForm['kind'],
      choices: form.choices
        .split(',')
        .map((one) => one.trim())
        .filter((one) => one !== ''),
      reminderDays: form.kind === 'date' && /^-?\d+$/.test(form.reminder.trim()) ? Number(form.reminder) : null,
      reminderRoles: form.role === '' ? [] : [Number(form.role)],
      reminderPeople: form.people,
    };
    const result = form.id === 0 ? await create({ body }) : await edit({ params: { id: form.id }, body });
    if (!result.error) setForm(none);
  };
  return (
    <section className="card" aria-label="Own attributes">
      <h2>Own attributes</h2>
      <div className="pad stack">
        {data?.rows.map((row) => (
          <p key={row.id}>
            <b>{row.name}</b>{' '}
            <span className="quiet">
              {kindNames[row.kind]} on {row.subject === 'item' ? 'items' : 'serial units'}
              {row.kind === 'choice' ? `: ${row.choices.join(', ')}` : ''}
              {row.reminderDays === null ? '' : `; reminds ${Math.abs(row.reminderDays)} days ${row.reminderDays < 0 ? 'before' : 'after'}`}
            </span>{' '}
            <button
              type="button"
              className="button small"
              aria-label={`Change ${row.name}`}
              onClick={() =>
                setForm({
                  id: row.id,
                  name: row.name,
                  subject: row.subject,
                  kind: row.kind,
                  choices: row.choices.join(', '),
                  reminder: String(row.reminderDays ?? ''),
                  role: String(row.reminderRoles[0] ?? ''),
                  people: row.reminderPeople,
                })
              }
            >
              Change
            </button>
          </p>
        ))}
        {data?.rows.length === 0 ? <p className="quiet">None yet. Add what you want to know of items that has no field here.</p> : null}
        <div className="fields" style={{ gridTemplateColumns: 'repeat(2, minmax(0, 1fr))' }}>
          <Field
            label={form.id === 0 ? 'A new attribute' : 'Its name'}
            value={form.name}
            onChange={(name) => put({ name })}
            error={at('name') ?? (refused && !at('choices') ? 'This could not be added.' : undefined)}
          />
          <Choice
            label="Of"
            value={form.subject}
            onChange={(subject) => put({ subject })}
            options={[
              { value: 'item', label: 'items' },
              { value: 'unit', label: 'serial units' },
            ]}
          />
          <Choice
            label="Is"
            value={form.kind}
            onChange={(kind) => put({ kind })}
            options={attributeKinds.map((value) => ({ value, label: kindNames[value] }))}
          />
          {form.kind === 'choice' ? (
            <Field label="Apart by commas" value={form.choices} onChange={(choices) => put({ choices })} error={at('choices')} />
          ) : null}
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
                label="Whom"
                value={form.role}
                none="Nobody"
                onChange={(role) => put({ role })}
                options={(data?.roles ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
              />
              <fieldset className="plain">
                <legend>And these people</legend>
                {(data?.people ?? []).map(({ id, name }) => (
                  <label key={id} style={{ display: 'block' }}>
                    <input
                      type="checkbox"
                      checked={form.people.includes(id)}
                      onChange={() => put({ people: form.people.includes(id) ? form.people.filter((one) => one !== id) : [...form.people, id] })}
                    />{' '}
                    {name}
                  </label>
                ))}
              </fieldset>
            </>
          ) : null}
        </div>
        <button type="button" className="button" onClick={() => void add()}>
          {form.id === 0 ? 'Add the attribute' : `Save ${form.name}`}
        </button>
      </div>
    </section>
  );
}
