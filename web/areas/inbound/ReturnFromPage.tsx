import { Link, Navigate, useSearchParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { quantity, shortDay } from '../../kit/format';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useItemQuery } from '../../shared/items';
import { useMeQuery } from '../../shared/me';
import { useReturnSourcesQuery } from './api';

/** Goods in hand that go back: which order they came on. When there is only one, it is taken. */
export function ReturnFromPage() {
  const [search] = useSearchParams();
  const itemId = Number(search.get('item'));
  const lotId = Number(search.get('lot')) || undefined;
  const { data: me } = useMeQuery({});
  const { data: item } = useItemQuery({ params: { id: itemId } });
  const { data, error } = useReturnSourcesQuery({ query: { itemId, lotId } });
  useTitle('Return to supplier');
  if (!data || !item || !me) return <Waiting error={error} />;
  const address = (orderId: number) => `/inbound/orders/${orderId}/return?${search.toString()}`;
  const [only, ...others] = data.rows;
  if (only && others.length === 0) return <Navigate to={address(only.orderId)} replace />;
  return (
    <div className="stack" style={{ maxWidth: 760 }}>
      <div className="head" style={{ margin: 0 }}>
        <h1>Return to supplier</h1>
        <span className="quiet">
          <span className="code">{item.sku}</span> {item.name}: on which order did it come?
        </span>
      </div>
      {data.rows.length === 0 ? (
        <p className="card state">It came on no order that is known, so there is nobody to send it back to. A correction takes it out of stock.</p>
      ) : (
        <div className="card">
          <table aria-label="Orders it came on" className="floor">
            <tbody>
              {data.rows.map((row) => (
                <tr key={row.orderId}>
                  <td>
                    <Link className="code strong" to={address(row.orderId)}>
                      {row.number}
                    </Link>
                  </td>
                  <td>{row.supplier}</td>
                  <td className="quiet">{shortDay(row.day, me.company.today)}</td>
                  <td className="number">{quantity(row.received)} came</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <BottomBar hint="The newest first" />
    </div>
  );
}
