import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import type { ItemForm } from '@larder/contract/catalog';
import { breaksText, readBreaks } from '@larder/core/inbound/terms';
import { useState } from 'react';
import { Field } from '../../kit/Field';
import { PartyPicker } from '../../shared/PartyPicker';

/** Supplier's terms while they are written, with the supplier's name to show. */
export type SupplierRow = ItemForm['suppliers'][number] & { supplier: string };

interface SupplierSheetProps {
  rows: readonly SupplierRow[];
  change: (rows: SupplierRow[]) => void;
  errorAt: (field: string) => string | undefined;
}

/** Who supplies an item, under which code, in which pack; the first is asked first when it runs low. */
export function SupplierSheet({ rows, change, errorAt }: SupplierSheetProps) {
  const put = (index: number, part: Partial<SupplierRow>) => change(rows.map((row, at) => (at === index ? { ...row, ...part } : row)));
  return (
    <Card aria-label="Suppliers">
      <h2>Suppliers</h2>
      <Stack pad>
        {rows.map((row, index) => (
          <Fields key={index} sx={{ gridTemplateColumns: 'minmax(180px, 2fr) repeat(5, minmax(56px, 0.7fr)) minmax(110px, 1.4fr) auto', alignItems: 'end' }}>
            <PartyPicker
              as="supplier"
              label="Supplier"
              value={row.supplierId === 0 ? null : { id: row.supplierId, name: row.supplier }}
              onChange={(party) => put(index, { supplierId: party?.id ?? 0, supplier: party?.name ?? '' })}
              error={row.supplierId === 0 ? errorAt(`suppliers.${index}.supplierId`) && 'Choose the supplier.' : errorAt(`suppliers.${index}.supplierId`)}
            />
            <Field label="Their code" value={row.code} onChange={(code) => put(index, { code })} error={errorAt(`suppliers.${index}.code`)} />
            <Field label="Pack size" value={row.packSize} onChange={(packSize) => put(index, { packSize })} error={errorAt(`suppliers.${index}.packSize`)} />
            <Field label="Minimum order" value={row.minimum} onChange={(minimum) => put(index, { minimum })} error={errorAt(`suppliers.${index}.minimum`)} />
            <Field
              label="Price"
              value={row.price ?? ''}
              onChange={(value) => put(index, { price: value.trim() === '' ? null : value })}
              error={errorAt(`suppliers.${index}.price`)}
            />
            <Field
              label="Days"
              placeholder="usual"
              value={row.leadDays === null ? '' : String(row.leadDays)}
              onChange={(value) => put(index, { leadDays: value.trim() === '' ? null : /^\d{1,4}$/.test(value.trim()) ? Number(value) : -1 })}
              error={errorAt(`suppliers.${index}.leadDays`)}
            />
            <BreaksField row={row} change={(breaks) => put(index, { breaks })} error={errorAt(`suppliers.${index}.breaks`)} />
            <Button onClick={() => change(rows.filter((_, at) => at !== index))}>Remove</Button>
          </Fields>
        ))}
        <span>
          <Button
            size="small"
            onClick={() => change([...rows, { supplierId: 0, supplier: '', code: '', packSize: '1', minimum: '0', price: null, leadDays: null, breaks: [] }])}
          >
            Add a supplier
          </Button>
        </span>
      </Stack>
    </Card>
  );
}

/** Other prices from so many on, as they are typed; what cannot be read yet is kept as typed and said. */
function BreaksField({ row, change, error }: { row: SupplierRow; change: (breaks: SupplierRow['breaks']) => void; error: string | undefined }) {
  const [text, setText] = useState(breaksText(row.breaks));
  const unread = readBreaks(text) === null;
  return (
    <Field
      label="Price breaks"
      placeholder="100: 0.95; 500: 0.90"
      value={text}
      onChange={(typed) => {
        setText(typed);
        change(readBreaks(typed) ?? [{ from: typed, price: '' }]);
      }}
      error={unread && error ? 'Write them like 100: 0.95; 500: 0.90.' : error}
    />
  );
}
