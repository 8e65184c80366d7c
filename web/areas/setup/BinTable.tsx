import type { Bin } from '@larder/contract/setup';
import { Link } from 'react-router';
import { BayRow, groups, bayOf } from './bays';

interface BinTableProps {
  bins: readonly Bin[];
  chosen: readonly number[];
  toggle: (ids: readonly number[]) => void;
}

/** The bins of a site in walking order, under their zone, aisle and bay, to be chosen. */
export function BinTable({ bins, chosen, toggle }: BinTableProps) {
  return (
    <div className="card">
      <table aria-label="Bins">
        <thead>
          <tr>
            <th>
              <input
                type="checkbox"
                aria-label="Choose all bins"
                checked={bins.length > 0 && bins.every(({ id }) => chosen.includes(id))}
                onChange={() => toggle(bins.map(({ id }) => id))}
              />
            </th>
            <th>Bin</th>
            <th>Zone</th>
            <th>For</th>
            <th className="number">Items in it</th>
          </tr>
        </thead>
        {groups(bins).map(({ title, list }) => (
          <tbody key={title}>
            {title === '' ? null : (
              <tr className="group">
                <td>
                  <input
                    type="checkbox"
                    aria-label={`Choose ${title}`}
                    checked={list.every(({ id }) => chosen.includes(id))}
                    onChange={() => toggle(list.map(({ id }) => id))}
                  />
                </td>
                <th colSpan={4} scope="rowgroup">
                  {title}
                </th>
              </tr>
            )}
            {list.map((bin, at) => [
              bayOf(bin) !== '' && bayOf(bin) !== bayOf(list[at - 1]) ? (
                <BayRow key={`bay ${bin.id}`} bay={bayOf(bin)} bins={list} chosen={chosen} toggle={toggle} />
              ) : null,
              <tr key={bin.id} className={bayOf(bin) === '' ? undefined : 'under'}>
                <td>
                  <input type="checkbox" aria-label={`Choose ${bin.code}`} checked={chosen.includes(bin.id)} onChange={() => toggle([bin.id])} />
                </td>
                <td>
                  <Link className="code" to={`/stock/bins/${bin.id}`}>
                    {bin.code}
                  </Link>
                  {bin.retired ? <small className="late"> retired</small> : null}
                </td>
                <td>{bin.zone}</td>
                <td className="quiet">{bin.unplaced ? 'goods without a bin' : bin.sellable ? 'sale' : 'quarantine'}</td>
                <td className="number">{bin.items || ''}</td>
              </tr>,
            ])}
          </tbody>
        ))}
      </table>
    </div>
  );
}
