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
      <section className="card" aria-label="More facts">
        <h2>More facts</h2>
        <div className="pad stack">
          <div className="fields">
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
            <label style={{ alignSelf: 'end', height: 36 }}>
              <input type="checkbox" checked={form.returnable} onChange={(event) => put({ returnable: event.target.checked })} /> Customers may return it
            </label>
          </div>
          <OwnAccounts form={form} put={put} errorAt={errorAt} />
          <Field label="Description" value={form.description} onChange={(description) => put({ description })} error={errorAt('description')} />
          <Field label="Notes" value={form.notes} onChange={(notes) => put({ notes })} error={errorAt('notes')} />
        </div>
      </section>
      <section className="card" aria-label="Substitutes">
        <h2>
          Substitutes<span>what may be given instead, best first</span>
        </h2>
        <div className="pad stack">
          {form.substitutes.map((one) => (
            <span key={one.itemId} style={{ display: 'flex', gap: 10, alignItems: 'center' }}>
              <span className="code">{one.sku}</span> {one.name}
              <button
                type="button"
                className="button small"
                style={{ marginLeft: 'auto' }}
                onClick={() => put({ substitutes: form.substitutes.filter(({ itemId }) => itemId !== one.itemId) })}
              >
                Take out
              </button>
            </span>
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
        </div>
      </section>
    </>
  );
}
