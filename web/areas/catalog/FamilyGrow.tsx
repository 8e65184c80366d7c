import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import { useWatch } from 'react-hook-form';
import { combinations, memberName, skuFrom } from '@larder/core/catalog/family';
import type { Family } from '@larder/contract/families';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { useSay } from '../../shared/say';
import { useAddMembersMutation } from './api';

interface GrowForm {
  axis: string;
  value: string;
  /** Its code in SKUs; null until somebody types one. */
  code: string | null;
}
const { Field, Choice } = fieldsOf<GrowForm>();
const none: GrowForm = { axis: '1', value: '', code: null };

/** The value that is added, with the code that was typed for it or one made of its letters. */
const freshOf = ({ value, code }: GrowForm) => ({ name: value.trim(), code: code?.trim() || codeOf(value) });
const codeOf = (value: string): string =>
  value
    .replace(/[^A-Za-z0-9]/g, '')
    .toUpperCase()
    .slice(0, 6);

/** The items that the new value makes with the values of the other axes. */
function membersOf(family: Family, typed: GrowForm) {
  const fresh = freshOf(typed);
  const axes = family.axisValues.map(({ name, values }, at) => ({ name, values: at + 1 === Number(typed.axis) ? [fresh] : values }));
  if (fresh.name === '') return [];
  return combinations(axes).map((one) => ({
    values: one.map(({ name }) => name),
    sku: skuFrom(family.skuPattern, family.code, axes, one),
    name: memberName(family.name, one),
  }));
}

/** Adds a value to an axis, and makes the combinations with it. */
export function FamilyGrow({ family }: { family: Family }) {
  const [add] = useAddMembersMutation();
  const say = useSay();
  const form = useForm({
    came: none,
    body: (typed: GrowForm) => ({
      newValues: [{ axis: Number(typed.axis), ...freshOf(typed) }],
      members: membersOf(family, typed).map(({ values, sku }) => ({ values, sku })),
    }),
    checkedBy: async () => (await import('@larder/contract/families')).addMembers.body,
    sentAs: (path) => (path.startsWith('newValues.0.code') ? 'code' : path.startsWith('newValues') ? 'value' : path),
  });
  const typed = useWatch({ control: form.control }) as GrowForm;
  const members = membersOf(family, typed);
  const grow = async () => {
    if (!(await form.send((body) => add({ params: { id: family.id }, body })))) return;
    form.reset({ ...none, axis: typed.axis });
    say({ text: `${count(members.length, 'item')} of ${family.name} made.` });
  };
  return (
    <FormFrame form={form} save={() => void grow()}>
      <Card aria-label="Add a value">
        <h2>Add a value</h2>
        <Stack pad>
          <Refused error={form.refused} />
          <Fields sx={{ alignItems: 'end' }}>
            <Choice label="Axis" name="axis" options={family.axisValues.map(({ name }, at) => ({ value: String(at + 1), label: name }))} />
            <Field label="New value" name="value" />
            <Field label="Its code in SKUs" name="code" proposed={codeOf(typed.value)} />
            <Button disabled={form.isBusy || members.length === 0} onClick={() => void grow()}>
              Make {count(members.length, 'item')}
            </Button>
          </Fields>
          {members.length > 0 ? (
            <p className="code quiet">
              {members
                .slice(0, 6)
                .map(({ sku }) => sku)
                .join(', ')}
              {members.length > 6 ? ' …' : ''}
            </p>
          ) : null}
        </Stack>
      </Card>
    </FormFrame>
  );
}
