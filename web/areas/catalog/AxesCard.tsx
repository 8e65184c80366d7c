import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { mostAxes } from '@larder/core/catalog/family';
import { useFieldArray, useFormContext, useWatch } from 'react-hook-form';
import { Field as PlainField } from '../../kit/Field';
import { fieldsOf } from '../../kit/formFields';
import { Card, Fields, Stack, inRow } from '../../kit/layout';
import type { FamilyDraft } from './familyDraft';

const { Field, LongField } = fieldsOf<FamilyDraft>();

interface AxesCardProps {
  /** The pattern that SKUs follow, as it was typed or is proposed. */
  pattern: string;
  patternFault: string | undefined;
}

/** The axes of a family with their values, and the pattern its SKUs are made by. */
export function AxesCard({ pattern, patternFault }: AxesCardProps) {
  const { control, setValue } = useFormContext<FamilyDraft>();
  const { fields, append, remove } = useFieldArray({ control, name: 'axes' });
  const axes = useWatch({ control, name: 'axes' });
  return (
    <Card aria-label="Axes">
      <h2>
        Axes<span>up to three; values apart by commas, or pasted in lines</span>
      </h2>
      <Stack pad>
        {fields.map(({ id }, index) => (
          <Fields key={id} sx={inRow('minmax(120px, 1fr) minmax(260px, 4fr) auto')}>
            <Field label={`Axis ${index + 1}`} name={`axes.${index}.name`} placeholder={['Size', 'Lid', 'Colour'][index] ?? ''} />
            <LongField
              label={`Values of axis ${index + 1}`}
              rows={Math.min(6, (axes[index]?.values ?? '').split('\n').length)}
              name={`axes.${index}.values`}
              placeholder={['114 g, 227 g, 340 g', 'Gold, Black', ''][index] ?? ''}
            />
            <Button disabled={fields.length === 1} onClick={() => remove(index)}>
              Remove
            </Button>
          </Fields>
        ))}
        <Box component="span" sx={{ display: 'flex', gap: 12, alignItems: 'end' }}>
          <Button
            size="small"
            disabled={fields.length >= mostAxes}
            onClick={() => append({ name: '', values: '' }, { focusName: `axes.${fields.length}.name` })}
          >
            Add an axis
          </Button>
          <Box component="span" sx={{ flex: 1, maxWidth: 420 }}>
            <PlainField label="Pattern of SKUs" value={pattern} onChange={(typed) => setValue('pattern', typed, { shouldDirty: true })} error={patternFault} />
          </Box>
          <span className="quiet">
            {'{name}'} is the family’s code, {'{Axis}'} the value’s code, {'{Axis:axis}'} the axis’s
          </span>
        </Box>
      </Stack>
    </Card>
  );
}
