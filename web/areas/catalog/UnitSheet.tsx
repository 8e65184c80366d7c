import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { factorFault } from '@larder/core/catalog/units';
import { useFieldArray, useFormContext, useWatch } from 'react-hook-form';
import { Check } from '../../kit/Check';
import { fieldsOf, useReadOnly, wholeOrNone } from '../../kit/formFields';
import { Card, Fields, Stack, inRow } from '../../kit/layout';
import { useReferenceQuery } from '../../shared/reference';
import type { Written } from './written';

const { Choice, Field } = fieldsOf<Written>();
const bare = { denominator: 1, buys: false, sells: false };

/** Units an item is bought and sold in: how many base units one of each is. Stock is always kept in the base unit. */
export function UnitSheet() {
  const { control, setValue } = useFormContext<Written>();
  const { fields, append, remove } = useFieldArray({ control, name: 'units' });
  const [rows, unitId] = useWatch({ control, name: ['units', 'unitId'] });
  const isRead = useReadOnly();
  const { data: reference } = useReferenceQuery({});
  const units = (reference?.units ?? []).filter(({ id, retired }) => !retired || id === unitId || rows.some((row) => row.unitId === id));
  const base = units.find(({ id }) => id === unitId)?.name ?? '';
  /** One unit at most is what is bought, or sold, when nothing else is said. */
  const mark = (index: number, use: 'buys' | 'sells', is: boolean) =>
    rows.forEach((_, at) => setValue(`units.${at}.${use}`, at === index && is, { shouldDirty: true }));
  const free = units.filter(({ id }) => id !== unitId && !rows.some((row) => row.unitId === id));
  const next = free.find(({ code }) => code === 'case') ?? free[0];
  return (
    <Card aria-label="Units">
      <h2>
        Units<span>stock is kept in {base}</span>
      </h2>
      <Stack pad>
        {fields.map(({ id }, index) => (
          <Fields key={id} sx={inRow('minmax(110px, 1fr) 90px 90px auto auto')}>
            <Choice
              label="Unit"
              name={`units.${index}.unitId`}
              ids
              options={units.filter((unit) => unit.id !== unitId).map((unit) => ({ value: String(unit.id), label: unit.name }))}
            />
            <Field label={`Number of ${base}`} name={`units.${index}.numerator`} read={wholeOrNone} hint={() => faultOf(rows[index])} />
            <Field label="in how many" name={`units.${index}.denominator`} read={wholeOrNone} />
            <Box component="span" sx={{ display: 'flex', gap: 12, height: 36, alignItems: 'center' }}>
              <Check label="bought in it" disabled={isRead} checked={rows[index]?.buys ?? false} onChange={(is) => mark(index, 'buys', is)} />
              <Check label="sold in it" disabled={isRead} checked={rows[index]?.sells ?? false} onChange={(is) => mark(index, 'sells', is)} />
            </Box>
            {isRead ? null : <Button onClick={() => remove(index)}>Remove</Button>}
          </Fields>
        ))}
        {fields.length === 0 ? <p className="quiet">It is bought, kept and sold in {base}.</p> : null}
        {isRead ? null : (
          <span>
            <Button size="small" disabled={!next} onClick={() => next && append({ ...bare, unitId: next.id, numerator: 12 })}>
              Add a unit
            </Button>
          </span>
        )}
      </Stack>
    </Card>
  );
}

const faultOf = (row: Written['units'][number] | undefined): string | undefined => (row && factorFault(row)) ?? undefined;
