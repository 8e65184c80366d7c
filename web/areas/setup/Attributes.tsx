import Button from '@mui/material/Button';
import { Card, Stack } from '../../kit/layout';
import { useState } from 'react';
import { type AttributeForm } from '@larder/contract/attributes';
import { refusalOf } from '../../kit/draft';
import { useAttributesQuery, useCreateAttributeMutation, useEditAttributeMutation } from '../../shared/items';
import { AttributeFields, kindNames, none } from './AttributeFields';

/** The form of a new attribute, or of one that is changed. */

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
    <Card aria-label="Own attributes">
      <h2>Own attributes</h2>
      <Stack pad>
        {data?.rows.map((row) => (
          <p key={row.id}>
            <b>{row.name}</b>{' '}
            <span className="quiet">
              {kindNames[row.kind]} on {row.subject === 'item' ? 'items' : 'serial units'}
              {row.kind === 'choice' ? `: ${row.choices.join(', ')}` : ''}
              {row.reminderDays === null ? '' : `; reminds ${Math.abs(row.reminderDays)} days ${row.reminderDays < 0 ? 'before' : 'after'}`}
            </span>{' '}
            <Button
              size="small"
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
            </Button>
          </p>
        ))}
        {data?.rows.length === 0 ? <p className="quiet">None yet. Add what you want to know of items that has no field here.</p> : null}
        <AttributeFields form={form} put={put} at={at} refused={Boolean(refused)} />
        <Button onClick={() => void add()}>{form.id === 0 ? 'Add the attribute' : `Save ${form.name}`}</Button>
      </Stack>
    </Card>
  );
}
