import { changeWords, type Aside, type Tally } from '@larder/core/inbound/tally';
import type { ReactNode } from 'react';
import { quantity } from '../../kit/format';
import type { RefusedChange } from './unsent';

interface DeskLogProps {
  tally: Tally;
  /** What the server would not take. */
  refused: readonly RefusedChange[];
  drop: (key: string) => void;
  takeBack: (scan: string) => void;
  canTake: (aside: Aside) => boolean;
  take: (aside: Aside) => void;
  wentBack: (aside: Aside) => void;
}

const shownScans = 30;

/** What was scanned, the last first, and what was put aside until somebody decides on it. */
export function DeskLog({ tally, refused, drop, takeBack, canTake, take, wentBack }: DeskLogProps) {
  return (
    <>
      <Log
        title="Not counted"
        beside="the server did not take it"
        rows={refused.map(({ change, why }) => ({ key: change.key, said: changeWords(change), why }))}
      >
        {({ key, said, why }) => (
          <>
            <span>
              {said}: <span className="late">{why}</span>
            </span>
            <button type="button" className="button small" onClick={() => drop(key)}>
              Drop it
            </button>
          </>
        )}
      </Log>
      <Log title="Scanned" beside="the last one first" rows={tally.scans.slice(0, shownScans)}>
        {({ key, said }, index) => (
          <>
            {said}
            {index === 0 ? (
              <button type="button" className="button small" onClick={() => takeBack(key)}>
                Take the scan back
              </button>
            ) : null}
          </>
        )}
      </Log>
      <Log title="Put aside" beside="came, and is not taken yet" rows={tally.aside}>
        {(aside) => (
          <>
            {quantity(aside.quantity)} × {aside.sku}
            <span style={{ display: 'flex', gap: 6 }}>
              <button type="button" className="button small" disabled={!canTake(aside)} onClick={() => take(aside)}>
                Take as extra
              </button>
              <button type="button" className="button small" onClick={() => wentBack(aside)}>
                It went back
              </button>
            </span>
          </>
        )}
      </Log>
    </>
  );
}

interface LogProps<T> {
  title: string;
  beside: string;
  rows: readonly T[];
  children: (row: T, index: number) => ReactNode;
}

function Log<T extends { key: string }>({ title, beside, rows, children }: LogProps<T>) {
  if (rows.length === 0) return null;
  return (
    <section className="card" aria-label={title}>
      <h2>
        {title}
        <span>{beside}</span>
      </h2>
      <ol className="plain log">
        {rows.map((row, index) => (
          <li key={row.key}>{children(row, index)}</li>
        ))}
      </ol>
    </section>
  );
}
