import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import { useState } from 'react';
import { combinations, memberName, skuFrom } from '@larder/core/catalog/family';
import type { Family } from '@larder/contract/families';
import { refusalOf } from '../../kit/draft';
import { Choice, Field } from '../../kit/Field';
import { count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { useAddMembersMutation } from './api';

/** Adds a value to an axis, and makes the combinations with it. */
export function FamilyGrow({ family }: { family: Family }) {
  const [axis, setAxis] = useState('1');
  const [value, setValue] = useState('');
  const [code, setCode] = useState('');
  const [add, adding] = useAddMembersMutation();
  const { refused, busy } = refusalOf(adding);
  const fresh = {
    name: value.trim(),
    code:
      code.trim() ||
      value
        .replace(/[^A-Za-z0-9]/g, '')
        .toUpperCase()
        .slice(0, 6),
  };
  const axes = family.axisValues.map(({ name, values }, at) => ({ name, values: at + 1 === Number(axis) ? [fresh] : values }));
  const members =
    fresh.name === ''
      ? []
      : combinations(axes).map((one) => ({
          values: one.map(({ name }) => name),
          sku: skuFrom(family.skuPattern, family.code, axes, one),
          name: memberName(family.name, one),
        }));
  const grow = async () => {
    const made = await add({
      params: { id: family.id },
      body: { newValues: [{ axis: Number(axis), ...fresh }], members: members.map(({ values, sku }) => ({ values, sku })) },
    });
    if (!made.error) setValue('');
  };
  return (
    <Card aria-label="Add a value">
      <h2>Add a value</h2>
      <Stack pad>
        <Refused error={refused} />
        <Fields sx={{ alignItems: 'end' }}>
          <Choice label="Axis" value={axis} onChange={setAxis} options={family.axisValues.map(({ name }, at) => ({ value: String(at + 1), label: name }))} />
          <Field label="New value" value={value} onChange={setValue} />
          <Field label="Its code in SKUs" value={code || fresh.code} onChange={setCode} />
          <Button disabled={busy || members.length === 0} onClick={() => void grow()}>
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
  );
}
