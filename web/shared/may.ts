import { grantedAt, grantedSomewhere, seesCosts, type Right } from '@larder/contract/rights';
import { useMeQuery } from './me';

/** Whether the person may do something: at a site, for the whole company (null), or, without saying where, anywhere at all. False while it is not known yet. */
export function useMay(right: Right, siteId?: number | null): boolean {
  const { data: me } = useMeQuery({});
  if (!me) return false;
  return siteId === undefined ? grantedSomewhere(me.grants, right) : grantedAt(me.grants, right, siteId);
}

/** Whether cost and margin are shown to the person: else they come empty. */
export function useSeesCosts(): boolean {
  const { data: me } = useMeQuery({});
  return me !== undefined && seesCosts(me.grants);
}
