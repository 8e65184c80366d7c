import { Link } from 'react-router';
import type { Lot, TrailRow } from '@larder/contract/stock';
import { moment, quantity } from '../../kit/format';

/** Where a lot or serial unit is, and how many. */
export function LotPlaces({ places }: { places: Lot['places'] }) {
  return (
    <table>
      <tbody>
        {places.map((place) => (
          <tr key={place.placeId}>
            <td>{place.where}</td>
            <td className="quiet">{place.kind}</td>
            <td className="number strong">{quantity(place.quantity)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What happened to it, the last first; `short` leaves out from where to where, and who. */
export function LotLife({ rows, short = false }: { rows: readonly TrailRow[]; short?: boolean }) {
  return (
    <table>
      <tbody>
        {rows.map((row) => (
          <tr key={row.lineId}>
            <td style={{ whiteSpace: 'nowrap' }}>{moment(row.postedAt)}</td>
            <td>
              {row.kind}{' '}
              {row.document ? (
                <Link
                  className="strong"
                  to={row.document.kind === 'purchase order' ? `/inbound/orders/${row.document.id}` : `/outbound/orders/${row.document.id}`}
                >
                  {row.document.number}
                </Link>
              ) : null}
            </td>
            {short ? null : (
              <>
                <td>{row.from}</td>
                <td>{row.to}</td>
              </>
            )}
            <td className="number">{quantity(row.quantity)}</td>
            {short ? null : <td className="quiet">{row.person}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
