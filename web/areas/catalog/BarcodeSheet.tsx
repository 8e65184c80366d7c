import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { gtinFault } from '@larder/core/codes/gtin';
import type { Item } from '@larder/contract/catalog';
import { useFieldArray, useFormContext, useFormState, useWatch } from 'react-hook-form';
import { fieldsOf, useReadOnly } from '../../kit/formFields';
import { Card, Fields, Stack, inRow } from '../../kit/layout';
import { useReferenceQuery } from '../../shared/reference';
import { useGiveBarcodeMutation } from './api';
import type { Written } from './written';

const { Choice, Field } = fieldsOf<Written>();

/** The codes an item is scanned by, each on one of its units; check digits are looked at as they are typed. */
export function BarcodeSheet({ item }: { item: Item | null }) {
  const { control } = useFormContext<Written>();
  const { fields, append, remove } = useFieldArray({ control, name: 'barcodes' });
  const [units, unitId] = useWatch({ control, name: ['units', 'unitId'] });
  const { isDirty } = useFormState({ control });
  const { data: reference } = useReferenceQuery({});
  const [give, giving] = useGiveBarcodeMutation();
  const isRead = useReadOnly();
  const unitName = (id: number) => reference?.units.find((unit) => unit.id === id)?.name ?? '';
  /** What the item has already was looked at when it was given. */
  const kept = (code: string) => item?.barcodes.some((one) => one.code === code) ?? false;
  return (
    <Card aria-label="Barcodes">
      <h2>Barcodes</h2>
      <Stack pad>
        {fields.map(({ id }, index) => (
          <Fields key={id} sx={inRow('minmax(160px, 2fr) minmax(110px, 1fr) auto', 'start')}>
            <Field
              label={index === 0 ? 'Barcode' : `Barcode ${index + 1}`}
              name={`barcodes.${index}.code`}
              read={(typed) => typed.trim()}
              hint={(code) => (kept(code) ? undefined : (gtinFault(code) ?? undefined))}
            />
            <Choice
              label="On"
              name={`barcodes.${index}.unitId`}
              ids
              none={unitName(unitId)}
              options={units.map((unit) => ({ value: String(unit.unitId), label: unitName(unit.unitId) }))}
            />
            {isRead ? null : (
              <Button sx={{ marginTop: 21 }} onClick={() => remove(index)} aria-label={`Remove barcode ${index + 1}`}>
                Remove
              </Button>
            )}
          </Fields>
        ))}
        {isRead ? null : (
          <Box component="span" sx={{ display: 'flex', gap: 8 }}>
            <Button size="small" onClick={() => append({ code: '', unitId: null })}>
              Add a barcode
            </Button>
            {item ? (
              <Button
                size="small"
                disabled={giving.isLoading || isDirty}
                title={isDirty ? 'Save your changes first.' : undefined}
                onClick={() => void give({ params: { id: item.id } })}
              >
                Give it one of ours
              </Button>
            ) : null}
          </Box>
        )}
      </Stack>
    </Card>
  );
}
