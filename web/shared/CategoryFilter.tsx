import type { Address } from '../kit/address';
import { useReferenceQuery } from './reference';

/** Holds a list of items to one category. */
export function CategoryFilter({ address }: { address: Address }) {
  const { data: reference } = useReferenceQuery({});
  return (
    <select className="plain" aria-label="Category" value={address.get('category')} onChange={(event) => address.put('category', event.target.value)}>
      <option value="">All categories</option>
      {reference?.categories.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
}
