import { Link } from 'react-router';
import { moment, quantity } from '../../kit/format';
import { PeekWaiting } from '../../kit/ListPage';
import { useLotQuery, useTrailQuery } from './api';

/** What a lot or serial unit is about: where it is, and what happened to it last. */
export function LotPeek({ id }: { id: number }) {
  const { data, error } = useLotQuery({ params: { id } });
  const { data: life } = useTrailQuery({ query: { lotId: id, limit: 12 } });
  if (!data || data.id !== id) return <PeekWaiting error={error} />;
  return (
    <aside className="card" aria-label={`About ${data.code}`}>
      <h2>
        <span className="code">{data.code}</span>
        <span>
          {data.sku} {data.name}
        </span>
      </h2>
      <table>
        <tbody>
          {data.places.map((place) => (
            <tr key={place.placeId}>
              <td>{place.where}</td>
              <td className="quiet">{place.kind}</td>
              <td className="number strong">{quantity(place.quantity)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <h2>What happened last</h2>
      <table>
        <tbody>
          {life?.rows.map((row) => (
            <tr key={row.lineId}>
              <td style={{ whiteSpace: 'nowrap' }}>{moment(row.postedAt)}</td>
              <td>
                {row.kind} {row.document ? <span className="strong">{row.document.number}</span> : null}
              </td>
              <td className="number">{quantity(row.quantity)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="pad">
        <Link className="button small" to={`/items/${data.itemId}`}>
          Item
        </Link>
      </p>
    </aside>
  );
}
