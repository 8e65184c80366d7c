import type { Lot } from '@larder/contract/lots';
import type { TrailRow } from '@larder/contract/stock';
import { DocumentLink } from '../../kit/DocumentLink';
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
            <td>{moment(row.postedAt)}</td>
            <td>
              {row.kind} <DocumentLink document={row.document} />
            </td>
            {short ? null : (
              <>
                <td>{row.from}</td>
                <td>{row.to}</td>
              </>
            )}
            <td className="number">{quantity(row.quantity)}</td>
            {short ? null : <td className="quiet wide-only">{row.person}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
