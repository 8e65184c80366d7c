import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import { Check } from '../../kit/Check';
import { Field } from '../../kit/Field';
import { LineEntry } from '../../shared/LineEntry';
import { OwnAccounts } from '../../shared/OwnAccounts';
import type { SheetProps } from './sheet';

const measures = [
  ['weightKg', 'Weight, kg'],
  ['lengthCm', 'Length, cm'],
  ['widthCm', 'Width, cm'],
  ['heightCm', 'Height, cm'],
] as const;

/** What is asked less often: brand, maker, measures, notes, and what may be given instead. */
export function MoreFacts({ form, put, errorAt }: SheetProps) {
  return (
    <>
      <Card aria-label="More facts">
        <h2>More facts</h2>
        <Stack pad>
          <Fields>
            <Field label="Brand" value={form.brand} onChange={(brand) => put({ brand })} error={errorAt('brand')} />
            <Field label="Maker" value={form.maker} onChange={(maker) => put({ maker })} error={errorAt('maker')} />
            {measures.map(([name, label]) => (
              <Field
                key={name}
                label={label}
                value={form[name] ?? ''}
                onChange={(value) => put({ [name]: value.trim() === '' ? null : value.trim() })}
                error={errorAt(name)}
              />
            ))}
            <Check label="Customers may return it" checked={form.returnable} onChange={(checked) => put({ returnable: checked })} />
          </Fields>
          <OwnAccounts form={form} put={put} errorAt={errorAt} />
          <Field label="Description" value={form.description} onChange={(description) => put({ description })} error={errorAt('description')} />
          <Field label="Notes" value={form.notes} onChange={(notes) => put({ notes })} error={errorAt('notes')} />
        </Stack>
      </Card>
      <Card aria-label="Substitutes">
        <h2>
          Substitutes<span>what may be given instead, best first</span>
        </h2>
        <Stack pad>
          {form.substitutes.map((one) => (
            <Box component="span" key={one.itemId} sx={{ display: 'flex', gap: 10, alignItems: 'center' }}>
              <span className="code">{one.sku}</span> {one.name}
              <Button
                size="small"
                sx={{ marginLeft: 'auto' }}
                onClick={() => put({ substitutes: form.substitutes.filter(({ itemId }) => itemId !== one.itemId) })}
              >
                Remove
              </Button>
            </Box>
          ))}
          <LineEntry
            label="Add a substitute"
            takesScans={false}
            add={(item) =>
              form.substitutes.some(({ itemId }) => itemId === item.id)
                ? undefined
                : put({ substitutes: [...form.substitutes, { itemId: item.id, sku: item.sku, name: item.name }] })
            }
          />
          {errorAt('substitutes') ? <small className="late">{errorAt('substitutes')}</small> : null}
        </Stack>
      </Card>
    </>
  );
}
