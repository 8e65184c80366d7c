import type { Address } from '../../kit/address';
import { CellChoice } from '../../kit/CellField';
import { useSite } from '../../shared/site';
import { useSitesSeen } from '../../shared/sitesSeen';

/** At which site something is to be made, of those that the person may look at: the one that the address says, else the one that is looked at, else the first there is. */
export function useMakingSite(address: Address): number | undefined {
  const { siteId } = useSite();
  const sites = useSitesSeen();
  const asked = [Number(address.get('at')), siteId].find((id) => sites.some((site) => site.id === id));
  return asked ?? sites[0]?.id;
}

/** Chooses the site at which something is to be made; where one is looked at, it is that one. */
export function MakingSite({ address }: { address: Address }) {
  const chosen = useMakingSite(address);
  const sites = useSitesSeen();
  return (
    <CellChoice
      tall
      label="Made at"
      value={chosen ?? ''}
      onChange={(id) => address.put('at', id)}
      options={sites.map(({ id, name }) => ({ value: String(id), label: `at ${name}` }))}
    />
  );
}
