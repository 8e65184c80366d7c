import type { ItemForm } from '@larder/contract/catalog';
import { Field } from '../../kit/Field';
import { PartyPicker } from '../setup/PartyPicker';

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
    <section className="card" aria-label="Suppliers">
      <h2>Suppliers</h2>
      <div className="pad stack">
        {rows.map((row, index) => (
          <div key={index} className="fields" style={{ gridTemplateColumns: 'minmax(150px, 2fr) repeat(4, minmax(70px, 1fr)) auto', alignItems: 'end' }}>
            <PartyPicker
              as="supplier"
              label="Supplier"
              value={row.supplierId === 0 ? null : { id: row.supplierId, name: row.supplier }}
              onChange={(party) => put(index, { supplierId: party?.id ?? 0, supplier: party?.name ?? '' })}
              error={row.supplierId === 0 ? errorAt(`suppliers.${index}.supplierId`) && 'Choose the supplier.' : errorAt(`suppliers.${index}.supplierId`)}
            />
            <Field label="Their code" value={row.code} onChange={(code) => put(index, { code })} error={errorAt(`suppliers.${index}.code`)} />
            <Field label="Pack of" value={row.packSize} onChange={(packSize) => put(index, { packSize })} error={errorAt(`suppliers.${index}.packSize`)} />
            <Field label="At least" value={row.minimum} onChange={(minimum) => put(index, { minimum })} error={errorAt(`suppliers.${index}.minimum`)} />
            <Field
              label="Price"
              value={row.price ?? ''}
              onChange={(value) => put(index, { price: value.trim() === '' ? null : value })}
              error={errorAt(`suppliers.${index}.price`)}
            />
            <button type="button" className="button" onClick={() => change(rows.filter((_, at) => at !== index))}>
              Take out
            </button>
          </div>
        ))}
        <span>
          <button
            type="button"
            className="button small"
            onClick={() => change([...rows, { supplierId: 0, supplier: '', code: '', packSize: '1', minimum: '0', price: null }])}
          >
            Add a supplier
          </button>
        </span>
      </div>
    </section>
  );
}
