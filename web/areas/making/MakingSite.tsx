import type { Address } from '../../kit/address';
import { CellChoice } from '../../kit/CellField';
import { useReferenceQuery } from '../../shared/reference';
import { useSite } from '../../shared/site';

/** At which site something is to be made: the one that the address says, else the one that is looked at, else the first there is. */
export function useMakingSite(address: Address): number | undefined {
  const { siteId } = useSite();
  const { data } = useReferenceQuery({});
  return Number(address.get('at')) || siteId || data?.sites[0]?.id;
}

/** Chooses the site at which something is to be made; where one is looked at, it is that one. */
export function MakingSite({ address }: { address: Address }) {
  const chosen = useMakingSite(address);
  const { data } = useReferenceQuery({});
  return (
    <CellChoice
      tall
      label="Made at"
      value={chosen ?? ''}
      onChange={(id) => address.put('at', id)}
      options={(data?.sites ?? []).map(({ id, name }) => ({ value: String(id), label: `at ${name}` }))}
    />
  );
}
