import { mostAxes } from '@larder/core/catalog/family';
import { Field, TextField } from '../../kit/Field';
import type { AxisDraft } from './familyDraft';

interface AxesCardProps {
  drafts: readonly AxisDraft[];
  setDrafts: (drafts: AxisDraft[]) => void;
  pattern: string;
  setPattern: (pattern: string) => void;
  errorAt: (field: string) => string | undefined;
}

/** The axes of a family with their values, and the pattern its SKUs are made by. */
export function AxesCard({ drafts, setDrafts, pattern, setPattern, errorAt }: AxesCardProps) {
  return (
    <section className="card" aria-label="Axes">
      <h2>
        Axes<span>up to three; values apart by commas, or pasted in lines</span>
      </h2>
      <div className="pad stack">
        {drafts.map((axis, index) => (
          <div key={index} className="fields" style={{ gridTemplateColumns: 'minmax(120px, 1fr) minmax(260px, 4fr) auto', alignItems: 'end' }}>
            <Field
              label={`Axis ${index + 1}`}
              value={axis.name}
              placeholder={['Size', 'Lid', 'Colour'][index] ?? ''}
              onChange={(name) => setDrafts(drafts.map((one, n) => (n === index ? { ...one, name } : one)))}
              error={errorAt(`axes.${index}`)}
            />
            <TextField
              label={`Values of axis ${index + 1}`}
              rows={Math.min(6, axis.values.split('\n').length)}
              value={axis.values}
              placeholder={['114 g, 227 g, 340 g', 'Gold, Black', ''][index] ?? ''}
              onChange={(values) => setDrafts(drafts.map((one, n) => (n === index ? { ...one, values } : one)))}
            />
            <button type="button" className="button" disabled={drafts.length === 1} onClick={() => setDrafts(drafts.filter((_, n) => n !== index))}>
              Take out
            </button>
          </div>
        ))}
        <span style={{ display: 'flex', gap: 12, alignItems: 'end' }}>
          <button type="button" className="button small" disabled={drafts.length >= mostAxes} onClick={() => setDrafts([...drafts, { name: '', values: '' }])}>
            Add an axis
          </button>
          <span style={{ flex: 1, maxWidth: 420 }}>
            <Field label="Pattern of SKUs" value={pattern} onChange={setPattern} error={errorAt('skuPattern')} />
          </span>
          <span className="quiet">
            {'{name}'} is the family’s code, {'{Axis}'} the value’s code, {'{Axis:axis}'} the axis’s
          </span>
        </span>
      </div>
    </section>
  );
}
