import type { ItemStock } from '@larder/contract/stock';
import { Link } from 'react-router';
import { quantity, shortDay } from '../kit/format';

/** Where an item lies, site by site and bin by bin. */
export function PeekPlaces({ data }: { data: ItemStock }) {
  const trail = (query: string) => `/stock/trail?item=${data.itemId}&${query}`;
  return (
    <table>
      <thead>
        <tr>
          <th>Where</th>
          <th className="number">On hand</th>
          <th className="number">Reserved</th>
          <th className="number">Free</th>
        </tr>
      </thead>
      <tbody>
        {data.sites.flatMap((site) => [
          <tr key={site.siteId}>
            <td className="strong">{site.site}</td>
            <td className="number">
              <Link className="figure" to={trail(`site=${site.siteId}&measure=on-hand`)}>
                {quantity(site.onHand)}
              </Link>
            </td>
            <td className="number">{quantity(site.reserved, true)}</td>
            <td className="number strong">{quantity(site.free)}</td>
          </tr>,
          ...site.bins.map((bin) => (
            <tr key={bin.binId}>
              <td style={{ paddingLeft: 24 }}>
                <Link className="code" to={`/stock/bins/${bin.binId}`}>
                  {bin.bin}
                </Link>
                {bin.sellable ? null : <small className="quiet"> not for sale</small>}
                {bin.lots.slice(0, 4).map((lot) => (
                  <Link key={lot.lotId} className="lotline" to={`/stock/lots/${lot.lotId}`}>
                    <span className="code">{lot.code}</span> {data.tracking === 'lot' ? quantity(lot.quantity) : ''}{' '}
                    {lot.useBy ? (
                      <span className={lot.pastUse ? 'late' : ''}>
                        {lot.pastUse ? 'not sold any more, ' : ''}use by {shortDay(lot.useBy, data.today)}
                      </span>
                    ) : (
                      ''
                    )}
                  </Link>
                ))}
                {bin.lots.length > 4 ? <small className="quiet">and {bin.lots.length - 4} more</small> : null}
              </td>
              <td className="number">
                <Link className="figure" to={trail(`place=${bin.binId}`)}>
                  {quantity(bin.quantity)}
                </Link>
              </td>
              <td />
              <td />
            </tr>
          )),
        ])}
        {data.sites.length === 0 ? (
          <tr>
            <td colSpan={4} className="quiet">
              None was ever here. Receive it under Inbound, or correct the stock.
            </td>
          </tr>
        ) : null}
      </tbody>
    </table>
  );
}
