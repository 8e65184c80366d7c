import { Link, useParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { quantity } from '../../kit/format';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useBinContentsQuery } from './api';

/** What lies in a bin. */
export function BinPage() {
  const id = Number(useParams().id);
  const { data, error } = useBinContentsQuery({ params: { id } });
  useTitle(data ? `Bin ${data.code}` : 'Bin');
  if (!data) return <Waiting error={error} />;
  return (
    <div className="stack" style={{ maxWidth: 760 }}>
      <div className="head">
        <h1 className="code">{data.code}</h1>
        <span className="quiet">{data.site}</span>
        {data.sellable ? null : <span className="late">quarantine: nothing here is sold</span>}
      </div>
      {data.rows.length === 0 ? (
        <p className="card state">This bin is empty.</p>
      ) : (
        <div className="card">
          <table aria-label="In this bin">
            <tbody>
              {data.rows.map((row) => (
                <tr key={`${row.itemId} ${row.lotId ?? ''}`}>
                  <td>
                    <Link to={`/items/${row.itemId}`}>
                      <span className="code">{row.sku}</span>
                      <span className="name">{row.name}</span>
                    </Link>
                  </td>
                  <td>
                    {row.lotId === null ? null : (
                      <Link className="code quiet" to={`/stock/lots/${row.lotId}`}>
                        {row.lot}
                      </Link>
                    )}
                    {row.useBy === null ? null : <small className={`name ${row.pastUse ? 'late' : 'quiet'}`}>use by {row.useBy}</small>}
                  </td>
                  <td className="number strong">
                    <Link className="figure" to={`/stock/trail?item=${row.itemId}&place=${data.id}`}>
                      {quantity(row.quantity)}
                    </Link>
                  </td>
                  <td className="number">
                    <Link className="button small" to={`/inbound/return?item=${row.itemId}&bin=${data.id}${row.lotId === null ? '' : `&lot=${row.lotId}`}`}>
                      Send back
                    </Link>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <BottomBar hint="Open a quantity to see its movements">
        <Link className="button" to={`/stock/trail?place=${data.id}`}>
          Trail of this bin
        </Link>
      </BottomBar>
    </div>
  );
}
