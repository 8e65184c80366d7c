import { Link } from 'react-router';
import { combinations } from '@larder/core/catalog/family';
import type { Family } from '@larder/contract/families';
import { price, quantity } from '../../kit/format';

/** The last axis across, the others down; a combination that was never made is left blank. */
export function MemberGrid({ family }: { family: Family }) {
  const axes = family.axisValues;
  const across = axes.at(-1);
  const down = axes.length > 1 ? combinations(axes.slice(0, -1).map(({ name, values }) => ({ name, values }))) : [[]];
  const memberOf = (names: readonly string[]) =>
    family.list.find(({ valueIds }) => valueIds.every((valueId, at) => axes[at]?.values.find(({ id }) => id === valueId)?.name === names[at]));
  return (
    <div className="card" style={{ overflowX: 'auto' }}>
      <table aria-label="Members axis by axis">
        <thead>
          <tr>
            <th>
              {axes
                .slice(0, -1)
                .map(({ name }) => name)
                .join(' / ')}
            </th>
            {across?.values.map((value) => (
              <th key={value.id} className="number">
                {value.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {down.map((values) => (
            <tr key={values.map(({ name }) => name).join()}>
              <td className="strong">{values.map(({ name }) => name).join(', ') || 'free'}</td>
              {across?.values.map((value) => {
                const member = memberOf([...values.map(({ name }) => name), value.name]);
                return (
                  <td key={value.id} className="number">
                    {member ? (
                      <Link className={`figure ${member.retired ? 'quiet' : ''}`} to={`/items/${member.itemId}`} title={member.sku}>
                        {quantity(member.free)}
                      </Link>
                    ) : null}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Facts whose name is no word yet. */
const factWords: Record<string, string> = { categoryId: 'category', unitId: 'unit', taxCodeId: 'tax', returnable: 'returns' };

export function MemberList({ family, chosen, toggle }: { family: Family; chosen: readonly number[]; toggle: (itemId: number) => void }) {
  return (
    <div className="card">
      <table aria-label="Members">
        <thead>
          <tr>
            <th />
            <th>SKU</th>
            <th>Name</th>
            <th className="number">Sales price</th>
            <th className="number">On hand</th>
            <th className="number">Free</th>
            <th>Its own</th>
          </tr>
        </thead>
        <tbody>
          {family.list.map((member) => (
            <tr key={member.itemId}>
              <td>
                <input type="checkbox" aria-label={`Choose ${member.sku}`} checked={chosen.includes(member.itemId)} onChange={() => toggle(member.itemId)} />
              </td>
              <td>
                <Link className="code" to={`/items/${member.itemId}`}>
                  {member.sku}
                </Link>
              </td>
              <td>
                {member.name} {member.retired ? <small className="late">retired</small> : null}
              </td>
              <td className="number">{member.salesPrice === null ? '' : price(member.salesPrice)}</td>
              <td className="number">{quantity(member.onHand, true)}</td>
              <td className="number strong">{quantity(member.free)}</td>
              <td className="quiet">{member.ownFacts.map((fact) => factWords[fact] ?? fact).join(', ')}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
