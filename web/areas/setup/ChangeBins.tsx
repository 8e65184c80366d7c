import { useState } from 'react';
import { Field } from '../../kit/Field';
import { count } from '../../kit/format';

interface ChangeBinsProps {
  chosen: readonly number[];
  change: (part: { zone?: string; sellable?: boolean; retired?: boolean; walkFrom?: number }) => void;
  busy: boolean;
}

export function ChangeBins({ chosen, change, busy }: ChangeBinsProps) {
  const [zone, setZone] = useState('');
  const [walkFrom, setWalkFrom] = useState('');
  if (chosen.length === 0) return null;
  return (
    <section className="card" aria-label="Change the chosen bins">
      <h2>Change {count(chosen.length, 'bin')}</h2>
      <div className="pad stack">
        <div className="fields" style={{ gridTemplateColumns: '1fr auto', alignItems: 'end' }}>
          <Field label="Zone of the chosen" value={zone} onChange={setZone} />
          <button type="button" className="button" disabled={busy} onClick={() => change({ zone })}>
            Set
          </button>
          <Field label="Walk to them from place" value={walkFrom} onChange={setWalkFrom} placeholder="1" />
          <button type="button" className="button" disabled={busy || !/^\d{1,6}$/.test(walkFrom)} onClick={() => change({ walkFrom: Number(walkFrom) })}>
            Set
          </button>
        </div>
        <span style={{ display: 'flex', flexWrap: 'wrap', gap: 8 }}>
          <button type="button" className="button small" disabled={busy} onClick={() => change({ sellable: false })}>
            For quarantine
          </button>
          <button type="button" className="button small" disabled={busy} onClick={() => change({ sellable: true })}>
            For sale
          </button>
          <button type="button" className="button small" disabled={busy} onClick={() => change({ retired: true })}>
            Retire
          </button>
          <button type="button" className="button small" disabled={busy} onClick={() => change({ retired: false })}>
            Take back
          </button>
        </span>
      </div>
    </section>
  );
}
