import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import { useState } from 'react';
import { refusalOf } from '../../kit/draft';
import { Choice, Field } from '../../kit/Field';
import { useCreateUnitMutation } from './api';
import { useReferenceQuery } from '../../shared/reference';

const steps = { '1': 'whole ones', '0.1': 'tenths', '0.01': 'hundredths', '0.001': 'thousandths', '0.0001': 'ten thousandths' } as const;
type Step = keyof typeof steps;
const none = { code: '', name: '', step: '1' as Step };

/** Units of measure, each with the smallest part of it that is counted. */
export function Units() {
  const { data: reference } = useReferenceQuery({});
  const [form, setForm] = useState(none);
  const [create, creating] = useCreateUnitMutation();
  const { at } = refusalOf(creating);
  const add = async () => {
    if (!(await create({ body: form })).error) setForm(none);
  };
  return (
    <Card aria-label="Units">
      <h2>
        Units<span>what stock is counted in</span>
      </h2>
      <Stack pad>
        <p>
          {reference?.units.map(({ id, code, name, step }, index) => (
            <span key={id}>
              {index > 0 ? ', ' : ''}
              {name}
              {name === code ? '' : ` (${code})`}
              {step === '1' ? '' : <span className="quiet"> in {steps[step as Step]}</span>}
            </span>
          ))}
        </p>
        <Fields sx={{ gridTemplateColumns: 'repeat(2, minmax(0, 1fr))' }}>
          <Field label="A new unit" value={form.code} onChange={(code) => setForm({ ...form, code })} error={at('code')} placeholder="g" />
          <Field label="Written out" value={form.name} onChange={(name) => setForm({ ...form, name })} error={at('name')} placeholder="gram" />
          <Choice
            label="Counted in"
            value={form.step}
            onChange={(step) => setForm({ ...form, step: step as Step })}
            options={Object.entries(steps).map(([value, label]) => ({ value, label }))}
            error={at('step')}
          />
        </Fields>
        <Button onClick={() => void add()}>Add the unit</Button>
      </Stack>
    </Card>
  );
}
