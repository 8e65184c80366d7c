import { Link, useSearchParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { DocumentLink } from '../../kit/DocumentLink';
import { backdated, money, moment, quantity } from '../../kit/format';
import { Pager } from '../../kit/Pager';
import { usePages } from '../../kit/pages';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { ExportButton } from '../../shared/ExportButton';
import { useItemQuery } from '../../shared/items';
import { useTrailQuery } from './api';
import { UndoButton } from '../../shared/UndoButton';

/** Movements, newest first: who, when, why, which document, from where to where, how many, at what cost. */
export function TrailPage() {
  useTitle('Trail');
  const [search] = useSearchParams();
  const itemId = Number(search.get('item')) || undefined;
  const measure = (['on-hand', 'bench'] as const).find((one) => one === search.get('measure')) ?? ('all' as const);
  const filter = {
    itemId,
    siteId: Number(search.get('site')) || undefined,
    placeId: Number(search.get('place')) || undefined,
    lotId: Number(search.get('lot')) || undefined,
    measure,
  };
  const pages = usePages(filter);
  const { data, error } = useTrailQuery({ query: { ...filter, cursor: pages.cursor, limit: 50 } });
  const { data: item } = useItemQuery({ params: { id: itemId ?? 0 } }, { skip: itemId === undefined });
  if (!data) return <Waiting error={error} />;
  return (
    <>
      <div className="head">
        <h1>Trail</h1>
        {item && itemId ? (
          <Link to={`/items/${itemId}`}>
            <span className="code">{item.sku}</span> {item.name}
          </Link>
        ) : (
          <span className="quiet">every movement, newest first</span>
        )}
        <span className="side">
          <ExportButton list="trail" only={{ itemId }} />
          <Pager pages={pages} next={data.next} />
        </span>
      </div>
      {data.rows.length === 0 ? (
        <p className="card state">Nothing has moved here yet. Receipts, picks and corrections will be listed as they are posted.</p>
      ) : (
        <div className="card">
          <table aria-label="Movements">
            <thead>
              <tr>
                <th>When</th>
                <th>Who</th>
                <th>What and why</th>
                {itemId ? null : <th>Item</th>}
                <th>From</th>
                <th>To</th>
                <th className="number">Quantity</th>
                <th className="number">Change</th>
                <th className="number">Value</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {data.rows.map((row) => (
                <tr key={row.lineId}>
                  <td style={{ whiteSpace: 'nowrap' }}>
                    {moment(row.postedAt)}
                    {backdated(row.effectiveOn, row.postedAt) === '' ? null : (
                      <small className="quiet name">for {backdated(row.effectiveOn, row.postedAt)}</small>
                    )}
                  </td>
                  <td>{row.person}</td>
                  <td>
                    {row.kind.replace('-', ' ')} <DocumentLink document={row.document} />
                    {row.lot ? (
                      <Link className="code quiet" style={{ marginLeft: 6 }} to={`/stock/lots/${row.lotId}`}>
                        {row.lot}
                      </Link>
                    ) : null}
                    {row.why ? (
                      <small className="quiet" style={{ display: 'block' }}>
                        {row.why}
                      </small>
                    ) : null}
                  </td>
                  {itemId ? null : (
                    <td>
                      <Link className="code" to={`/items/${row.itemId}`}>
                        {row.sku}
                      </Link>
                    </td>
                  )}
                  <td>{row.from}</td>
                  <td>{row.to}</td>
                  <td className="number">{quantity(row.quantity)}</td>
                  <td className="number strong">{Number(row.change) > 0 ? `+${quantity(row.change)}` : quantity(row.change, true)}</td>
                  <td className="number">{Number(row.value) === 0 ? '' : money(row.value)}</td>
                  <td>
                    {row.undone ? (
                      <span className="quiet">undone</span>
                    ) : row.undoes ? null : (
                      <UndoButton movementId={row.movementId} what={`the ${row.kind.replace('-', ' ')} of ${moment(row.postedAt)}`} />
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <BottomBar hint="The trail only grows: what was wrong is undone, and both stay" />
    </>
  );
}
