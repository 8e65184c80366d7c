import { Link, Outlet, useMatches } from 'react-router';
import type { Right } from '@larder/contract/rights';
import { State } from '../kit/layout';
import { useMay } from '../shared/may';
import { rightsInWords } from '../shared/rightsInWords';

/** What a page is for, where it is for nothing else than doing it. */
export interface Purpose {
  needs: Right;
}

/** The page of this address. Whoever may never do what it is for is told so instead of being refused at its end. */
export function Entrance() {
  const purpose = useMatches().at(-1)?.handle as Purpose | undefined;
  const needs = purpose?.needs ?? 'look';
  // The books are the whole company's.
  if (useMay(needs, needs === 'costs.see' ? null : undefined)) return <Outlet />;
  return (
    <State role="status">
      Your role does not let you {rightsInWords[needs]}. Whoever sets up the business can change that. <Link to="/">Back to Today</Link>
    </State>
  );
}
