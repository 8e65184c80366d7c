import { Notice } from '../../kit/Notice';
import Button from '@mui/material/Button';
import type { ReactNode } from 'react';
import { Link } from 'react-router';

/** What the desk says of the last thing done. */
export interface Said {
  kind: 'done' | 'refused' | 'ask';
  text: string;
  /** Who waits for what was just counted. */
  waits?: string;
  extra?: { itemId: number; sku: string; quantity: string };
  unknown?: string;
}

interface DeskSaidProps {
  said: Said;
  takeExtra: (extra: NonNullable<Said['extra']>) => void;
  setAside: (extra: NonNullable<Said['extra']>) => void;
  teach: (code: string) => void;
}

/** The last thing done at the desk, and what can be done about it. */
export function DeskSaid({ said, takeExtra, setAside, teach }: DeskSaidProps) {
  const { extra, unknown } = said;
  return (
    <Notice kind={said.kind === 'ask' ? 'asks' : said.kind}>
      {said.text}
      {said.waits ? <b> {said.waits}.</b> : null}
      {unknown ? (
        <Button component={Link} size="small" to="/inbound/unordered">
          Receive it without an order
        </Button>
      ) : null}
      {unknown ? <Step run={() => teach(unknown)}>Teach it to an item</Step> : null}
      {extra ? (
        <>
          <Step run={() => takeExtra(extra)}>Take {extra.quantity === '1' ? 'it' : `all ${extra.quantity}`} as extra</Step>
          <Step run={() => setAside(extra)}>Put {extra.quantity === '1' ? 'it' : 'them'} aside</Step>
        </>
      ) : null}
    </Notice>
  );
}

const Step = ({ run, children }: { run: () => void; children: ReactNode }) => (
  <Button size="small" onClick={run}>
    {children}
  </Button>
);
