import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import { gtinFault } from '@larder/core/codes/gtin';
import type { Item } from '@larder/contract/catalog';
import { Choice, Field } from '../../kit/Field';
import { useReferenceQuery } from '../../shared/reference';
import { useGiveBarcodeMutation } from './api';
import type { SheetProps } from './sheet';

/** The codes an item is scanned by, each on one of its units; check digits are looked at as they are typed. */
export function BarcodeSheet({ item, form, put, errorAt, dirty }: SheetProps & { item: Item | null; dirty: boolean }) {
  const { data: reference } = useReferenceQuery({});
  const [give, giving] = useGiveBarcodeMutation();
  const unitName = (id: number) => reference?.units.find((unit) => unit.id === id)?.name ?? '';
  /** What the item has already was looked at when it was given. */
  const kept = (code: string) => item?.barcodes.some((one) => one.code === code) ?? false;
  const change = (index: number, part: Partial<(typeof form.barcodes)[number]>) =>
    put({ barcodes: form.barcodes.map((row, at) => (at === index ? { ...row, ...part } : row)) });
  return (
    <Card aria-label="Barcodes">
      <h2>Barcodes</h2>
      <Stack pad>
        {form.barcodes.map((row, index) => (
          <Fields key={index} sx={{ gridTemplateColumns: 'minmax(160px, 2fr) minmax(110px, 1fr) auto', alignItems: 'start' }}>
            <Field
              label={index === 0 ? 'Barcode' : `Barcode ${index + 1}`}
              value={row.code}
              onChange={(code) => change(index, { code: code.trim() })}
              error={errorAt(`barcodes.${index}`) ?? (kept(row.code) ? undefined : (gtinFault(row.code) ?? undefined))}
            />
            <Choice
              label="On"
              value={String(row.unitId ?? '')}
              none={unitName(form.unitId)}
              onChange={(value) => change(index, { unitId: Number(value) || null })}
              options={form.units.map(({ unitId }) => ({ value: String(unitId), label: unitName(unitId) }))}
            />
            <Button
              sx={{ marginTop: 21 }}
              onClick={() => put({ barcodes: form.barcodes.filter((_, at) => at !== index) })}
              aria-label={`Remove barcode ${index + 1}`}
            >
              Remove
            </Button>
          </Fields>
        ))}
        <Box component="span" sx={{ display: 'flex', gap: 8 }}>
          <Button size="small" onClick={() => put({ barcodes: [...form.barcodes, { code: '', unitId: null }] })}>
            Add a barcode
          </Button>
          {item ? (
            <Button
              size="small"
              disabled={giving.isLoading || dirty}
              title={dirty ? 'Save your changes first.' : undefined}
              onClick={() => void give({ params: { id: item.id } })}
            >
              Give it one of ours
            </Button>
          ) : null}
        </Box>
      </Stack>
    </Card>
  );
}
