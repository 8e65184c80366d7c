import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import { Check } from '../../kit/Check';
import { factorFault } from '@larder/core/catalog/units';
import { Choice, Field } from '../../kit/Field';
import { useReferenceQuery } from '../../shared/reference';
import type { SheetProps } from './sheet';

/** Units an item is bought and sold in: how many base units one of each is. Stock is always kept in the base unit. */
export function UnitSheet({ form, put, errorAt }: SheetProps) {
  const { data: reference } = useReferenceQuery({});
  const units = reference?.units ?? [];
  const base = units.find(({ id }) => id === form.unitId)?.name ?? '';
  const change = (index: number, part: Partial<(typeof form.units)[number]>) =>
    put({ units: form.units.map((row, at) => (at === index ? { ...row, ...part } : row)) });
  /** One unit at most is what is bought, or sold, when nothing else is said. */
  const mark = (index: number, use: 'buys' | 'sells', is: boolean) => put({ units: form.units.map((row, at) => ({ ...row, [use]: at === index && is })) });
  const free = units.find(({ id }) => id !== form.unitId && !form.units.some(({ unitId }) => unitId === id));
  return (
    <Card aria-label="Units">
      <h2>
        Units<span>stock is kept in {base}</span>
      </h2>
      <Stack pad>
        {form.units.map((row, index) => {
          const fault = errorAt(`units.${index}`) ?? factorFault(row) ?? undefined;
          return (
            <Fields key={index} sx={{ gridTemplateColumns: 'minmax(110px, 1fr) 90px 90px auto auto', alignItems: 'end' }}>
              <Choice
                label="Unit"
                value={String(row.unitId)}
                onChange={(value) => change(index, { unitId: Number(value) })}
                options={units.filter(({ id }) => id !== form.unitId).map(({ id, name }) => ({ value: String(id), label: name }))}
              />
              <Field
                label={`Number of ${base}`}
                value={String(row.numerator)}
                onChange={(value) => change(index, { numerator: Number(value.replace(/\D/g, '').slice(0, 7)) })}
                error={fault}
              />
              <Field
                label="in how many"
                value={String(row.denominator)}
                onChange={(value) => change(index, { denominator: Number(value.replace(/\D/g, '').slice(0, 7)) })}
              />
              <Box component="span" sx={{ display: 'flex', gap: 12, height: 36, alignItems: 'center' }}>
                <Check label="bought in it" checked={row.buys} onChange={(checked) => mark(index, 'buys', checked)} />
                <Check label="sold in it" checked={row.sells} onChange={(checked) => mark(index, 'sells', checked)} />
              </Box>
              <Button onClick={() => put({ units: form.units.filter((_, at) => at !== index) })}>Remove</Button>
            </Fields>
          );
        })}
        <span>
          <Button
            size="small"
            disabled={!free}
            onClick={() =>
              free &&
              put({
                units: [
                  ...form.units,
                  {
                    unitId: (
                      units.find(({ code }) => code === 'case' && !form.units.some(({ unitId }) => units.find(({ id }) => id === unitId)?.code === 'case')) ??
                      free
                    ).id,
                    numerator: 12,
                    denominator: 1,
                    buys: false,
                    sells: false,
                  },
                ],
              })
            }
          >
            Add a unit
          </Button>
        </span>
      </Stack>
    </Card>
  );
}
