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
    <section className="card" aria-label="Units">
      <h2>
        Units<span>stock is kept in {base}</span>
      </h2>
      <div className="pad stack">
        {form.units.map((row, index) => {
          const fault = errorAt(`units.${index}`) ?? factorFault(row) ?? undefined;
          return (
            <div key={index} className="fields" style={{ gridTemplateColumns: 'minmax(110px, 1fr) 90px 90px auto auto', alignItems: 'end' }}>
              <Choice
                label="One"
                value={String(row.unitId)}
                onChange={(value) => change(index, { unitId: Number(value) })}
                options={units.filter(({ id }) => id !== form.unitId).map(({ id, name }) => ({ value: String(id), label: name }))}
              />
              <Field
                label={`is so many ${base}`}
                value={String(row.numerator)}
                onChange={(value) => change(index, { numerator: Number(value.replace(/\D/g, '').slice(0, 7)) })}
                error={fault}
              />
              <Field
                label="out of"
                value={String(row.denominator)}
                onChange={(value) => change(index, { denominator: Number(value.replace(/\D/g, '').slice(0, 7)) })}
              />
              <span style={{ display: 'flex', gap: 12, height: 36, alignItems: 'center' }}>
                <label>
                  <input type="checkbox" checked={row.buys} onChange={(event) => mark(index, 'buys', event.target.checked)} /> bought in it
                </label>
                <label>
                  <input type="checkbox" checked={row.sells} onChange={(event) => mark(index, 'sells', event.target.checked)} /> sold in it
                </label>
              </span>
              <button type="button" className="button" onClick={() => put({ units: form.units.filter((_, at) => at !== index) })}>
                Take out
              </button>
            </div>
          );
        })}
        <span>
          <button
            type="button"
            className="button small"
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
          </button>
        </span>
      </div>
    </section>
  );
}
