import { grantedAt, grantedSomewhere, seesCosts, type Right } from '@larder/contract/rights';
import type { ReactNode } from 'react';
import { useMeQuery } from './me';

/** Whether the person may do something: at a site, for the whole company (null), or, without saying where, anywhere at all. False while it is not known yet. */
export function useMay(right: Right, siteId?: number | null): boolean {
  const { data: me } = useMeQuery({});
  if (!me) return false;
  return siteId === undefined ? grantedSomewhere(me.grants, right) : grantedAt(me.grants, right, siteId);
}

/** At which sites the person may do something; at none while it is not known yet. */
export function useMayAt(right: Right): (siteId: number) => boolean {
  const { data: me } = useMeQuery({});
  return (siteId) => me !== undefined && grantedAt(me.grants, right, siteId);
}

/** Whether cost and margin are shown to the person: else they come empty. */
export function useSeesCosts(): boolean {
  const { data: me } = useMeQuery({});
  return me !== undefined && seesCosts(me.grants);
}

interface MayProps {
  /** What the person must be allowed to do: at a site, for the whole company (null), or anywhere. */
  to: Right;
  at?: number | null;
  children: ReactNode;
}

/** Shows what it holds only to those who may do it: what a person may never do is not shown. */
export const May = ({ to, at, children }: MayProps) => (useMay(to, at) ? children : null);
