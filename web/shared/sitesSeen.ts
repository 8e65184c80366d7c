import { grantedAt } from '@larder/contract/rights';
import { useMeQuery } from './me';
import { useReferenceQuery } from './reference';

/** The sites that this person may look at. */
export function useSitesSeen(): { id: number; name: string }[] {
  const { data: reference } = useReferenceQuery({});
  const { data: me } = useMeQuery({});
  return (reference?.sites ?? []).filter(({ id }) => me && grantedAt(me.grants, 'look', id));
}
