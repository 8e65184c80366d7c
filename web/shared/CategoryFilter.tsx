import { CellChoice } from '../kit/CellField';
import type { Address } from '../kit/address';
import { useReferenceQuery } from './reference';

/** Holds a list of items to one category. */
export function CategoryFilter({ address }: { address: Address }) {
  const { data: reference } = useReferenceQuery({});
  return (
    <CellChoice label="Category" value={address.get('category')} onChange={(typed) => address.put('category', typed)} tall>
      <option value="">All categories</option>
      {reference?.categories.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </CellChoice>
  );
}
