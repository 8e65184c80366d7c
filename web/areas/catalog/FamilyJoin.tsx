import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import { useWatch } from 'react-hook-form';
import type { Family } from '@larder/contract/families';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { Refused } from '../../kit/states';
import { LineEntry } from '../../shared/LineEntry';
import { useSay } from '../../shared/say';
import { useJoinFamilyMutation } from './api';

interface JoinForm {
  item: { id: number; sku: string; name: string } | null;
  /** On each axis the value that was chosen; and what was typed where that is another one. */
  values: { chosen: string; fresh: string }[];
}
const { Field, Choice } = fieldsOf<JoinForm>();

/** Chosen for a value that the axis does not have yet. */
const another = 'another value';
const none = (family: Family): JoinForm => ({ item: null, values: family.axisValues.map(({ values }) => ({ chosen: values[0]?.name ?? another, fresh: '' })) });

/** Puts a loose item into the family by its values; one that is new to an axis makes no other item. */
export function FamilyJoin({ family }: { family: Family }) {
  const [join] = useJoinFamilyMutation();
  const say = useSay();
  const form = useForm({
    came: none(family),
    body: ({ item, values }: JoinForm) => ({
      items: [{ itemId: item?.id ?? 0, values: values.map(({ chosen, fresh }) => (chosen === another ? fresh : chosen)) }],
    }),
    checkedBy: async () => (await import('@larder/contract/families')).joinFamily.body,
    sentAs: (path) => path.replace(/^items\.0\.values\.(\d+)/, 'values.$1.fresh'),
  });
  const { item, values } = useWatch({ control: form.control }) as JoinForm;
  const take = async () => {
    if (!item || !(await form.send((body) => join({ params: { id: family.id }, body })))) return;
    form.reset(none(family));
    say({ text: `${item.sku} is in the family.` });
  };
  return (
    <FormFrame form={form} save={() => void take()}>
      <Card aria-label="Add an item that is there already">
        <h2>Add an item that is there already</h2>
        <Stack pad>
          <Refused error={form.refused} />
          <LineEntry label="Item" takesScans={false} add={({ id, sku, name }) => form.setValue('item', { id, sku, name }, { shouldDirty: true })} />
          {item ? (
            <Fields sx={{ alignItems: 'end' }}>
              <b>
                <span className="code">{item.sku}</span> {item.name}
              </b>
              {family.axisValues.map((axis, at) => (
                <Stack key={axis.name}>
                  <Choice
                    label={axis.name}
                    name={`values.${at}.chosen`}
                    options={[...axis.values.map(({ name }) => name), another].map((name) => ({ value: name, label: name }))}
                  />
                  {values[at]?.chosen === another ? <Field label={`Another value of ${axis.name}`} name={`values.${at}.fresh`} /> : null}
                </Stack>
              ))}
              <Button disabled={form.isBusy} onClick={() => void take()}>
                Add it to the family
              </Button>
            </Fields>
          ) : null}
        </Stack>
      </Card>
    </FormFrame>
  );
}
