import { useOpenCountsQuery } from '../areas/planning/api';
import { useMay } from '../shared/may';
import { useSite } from '../shared/site';
import { areas, type AreaEntry } from './areas';

/** The areas that this person sees, and how many things wait in each. */
export function useAreas(): { seen: AreaEntry[]; counts: Partial<Record<AreaEntry['key'], number>> } {
  const { siteId } = useSite();
  const seesBooks = useMay('costs.see', null);
  const { data } = useOpenCountsQuery({ query: { siteId } });
  const seen = areas.filter(({ key }) => key !== 'books' || seesBooks);
  if (!data) return { seen, counts: {} };
  const { comingIn, low, goingOut, making } = data;
  return { seen, counts: { today: comingIn + low + goingOut + making, inbound: comingIn, outbound: goingOut, making, planning: low } };
}
