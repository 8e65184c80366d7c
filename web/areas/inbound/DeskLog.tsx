import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card, Log } from '../../kit/layout';
import { changeWords, type Aside, type Tally } from '@larder/core/inbound/tally';
import type { ReactNode } from 'react';
import { quantity } from '../../kit/format';
import type { RefusedChange } from '../../shared/floor/unsent';

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
      <Listed
        title="Not counted"
        beside="the server did not take it"
        rows={refused.map(({ change, why }) => ({ key: change.key, said: changeWords(change), why }))}
      >
        {({ key, said, why }) => (
          <>
            <span>
              {said}: <span className="late">{why}</span>
            </span>
            <Button size="small" onClick={() => drop(key)}>
              Drop it
            </Button>
          </>
        )}
      </Listed>
      <Listed title="Scanned" beside="the last one first" rows={tally.scans.slice(0, shownScans)}>
        {({ key, said }, index) => (
          <>
            {said}
            {index === 0 ? (
              <Button size="small" onClick={() => takeBack(key)}>
                Take the scan back
              </Button>
            ) : null}
          </>
        )}
      </Listed>
      <Listed title="Put aside" beside="came, and is not taken yet" rows={tally.aside}>
        {(aside) => (
          <>
            {quantity(aside.quantity)} × {aside.sku}
            <Box component="span" sx={{ display: 'flex', gap: 6 }}>
              <Button size="small" disabled={!canTake(aside)} onClick={() => take(aside)}>
                Take as extra
              </Button>
              <Button size="small" onClick={() => wentBack(aside)}>
                It went back
              </Button>
            </Box>
          </>
        )}
      </Listed>
    </>
  );
}

interface LogProps<T> {
  title: string;
  beside: string;
  rows: readonly T[];
  children: (row: T, index: number) => ReactNode;
}

function Listed<T extends { key: string }>({ title, beside, rows, children }: LogProps<T>) {
  if (rows.length === 0) return null;
  return (
    <Card aria-label={title}>
      <h2>
        {title}
        <span>{beside}</span>
      </h2>
      <Log>
        {rows.map((row, index) => (
          <li key={row.key}>{children(row, index)}</li>
        ))}
      </Log>
    </Card>
  );
}
