import type { ItemForm } from '@larder/contract/catalog';
import { Choice, Field } from '../../kit/Field';
import { usePartiesQuery } from '../setup/api';

interface SupplierSheetProps {
  rows: ItemForm['suppliers'];
  change: (rows: ItemForm['suppliers']) => void;
  errorAt: (field: string) => string | undefined;
}

/** Who supplies an item, under which code, in which pack; the first is asked first when it runs low. */
export function SupplierSheet({ rows, change, errorAt }: SupplierSheetProps) {
  const { data } = usePartiesQuery({ query: { as: 'supplier' } });
  const put = (index: number, part: Partial<ItemForm['suppliers'][number]>) => change(rows.map((row, at) => (at === index ? { ...row, ...part } : row)));
  const first = data?.rows.find(({ id }) => !rows.some(({ supplierId }) => supplierId === id));
  return (
    <section className="card" aria-label="Suppliers">
      <h2>Suppliers</h2>
      <div className="pad stack">
        {rows.map((row, index) => (
          <div
            key={row.supplierId}
            className="fields"
            style={{ gridTemplateColumns: 'minmax(150px, 2fr) repeat(4, minmax(70px, 1fr)) auto', alignItems: 'end' }}
          >
            <Choice
              label="Supplier"
              value={String(row.supplierId)}
              onChange={(value) => put(index, { supplierId: Number(value) })}
              options={(data?.rows ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
              error={errorAt(`suppliers.${index}.supplierId`)}
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
            disabled={!first}
            onClick={() => first && change([...rows, { supplierId: first.id, code: '', packSize: '1', minimum: '0', price: null }])}
          >
            Add a supplier
          </button>
        </span>
      </div>
    </section>
  );
}
