import Button from '@mui/material/Button';
import { Card, Stack } from '../../kit/layout';
import { useState } from 'react';
import { refusalOf } from '../../kit/draft';
import { Field } from '../../kit/Field';
import { useCreateCategoryMutation, useEditCategoryMutation } from './api';
import { useReferenceQuery } from '../../shared/reference';
import { OwnAccounts } from '../../shared/OwnAccounts';

/** The form of a new category, or of one that is changed. */
const none = { id: 0, name: '', inventoryAccountId: null as number | null, costAccountId: null as number | null };

/** Categories of items, each with accounts of its own where it needs them. */
export function Categories() {
  const { data: reference } = useReferenceQuery({});
  const [form, setForm] = useState(none);
  const [create, creating] = useCreateCategoryMutation();
  const [edit, editing] = useEditCategoryMutation();
  const { at } = refusalOf(creating, editing);
  const put = (part: Partial<typeof none>) => setForm({ ...form, ...part });
  const keep = async () => {
    const { id, ...body } = form;
    const result = id === 0 ? await create({ body: { name: form.name } }) : await edit({ params: { id }, body });
    if (!result.error) setForm(none);
  };
  return (
    <Card aria-label="Categories">
      <h2>Categories</h2>
      <Stack pad>
        <p>
          {reference?.categories.map((one) => (
            <Button key={one.id} size="small" sx={{ margin: '0 6px 6px 0' }} aria-label={`Change ${one.name}`} onClick={() => setForm(one)}>
              {one.name}
            </Button>
          ))}
          {reference?.categories.length === 0 ? <span className="quiet">No category yet.</span> : null}
        </p>
        <Field label={form.id === 0 ? 'A new category' : 'Its name'} value={form.name} onChange={(name) => put({ name })} error={at('name')} />
        {form.id === 0 ? null : <OwnAccounts form={form} put={put} errorAt={at} usual="As the books say" />}
        <Button onClick={() => void keep()}>{form.id === 0 ? 'Add the category' : `Save ${form.name}`}</Button>
      </Stack>
    </Card>
  );
}
