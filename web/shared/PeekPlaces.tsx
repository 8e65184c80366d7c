import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { ItemStock } from '@larder/contract/stock';
import { Link } from 'react-router';
import { quantity, shortDay } from '../kit/format';

/** Where an item lies, site by site and bin by bin. */
export function PeekPlaces({ data }: { data: ItemStock }) {
  const trail = (query: string) => `/stock/trail?item=${data.itemId}&${query}`;
  return (
    <Table>
      <TableHead>
        <TableRow>
          <TableCell>Where</TableCell>
          <TableCell align="right">On hand</TableCell>
          <TableCell align="right">Reserved</TableCell>
          <TableCell align="right">Free</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {data.sites.flatMap((site) => [
          <TableRow key={site.siteId}>
            <TableCell className="strong">{site.site}</TableCell>
            <TableCell align="right">
              <Link className="figure" to={trail(`site=${site.siteId}&measure=on-hand`)}>
                {quantity(site.onHand)}
              </Link>
            </TableCell>
            <TableCell align="right">{quantity(site.reserved, true)}</TableCell>
            <TableCell className="strong" align="right">
              {quantity(site.free)}
            </TableCell>
          </TableRow>,
          ...site.bins.map((bin) => (
            <TableRow key={bin.binId}>
              <TableCell sx={{ paddingLeft: 24 }}>
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
              </TableCell>
              <TableCell align="right">
                <Link className="figure" to={trail(`place=${bin.binId}`)}>
                  {quantity(bin.quantity)}
                </Link>
              </TableCell>
              <TableCell />
              <TableCell />
            </TableRow>
          )),
        ])}
        {data.sites.length === 0 ? (
          <TableRow>
            <TableCell colSpan={4} className="quiet">
              None was ever here. Receive it under Inbound, or correct the stock.
            </TableCell>
          </TableRow>
        ) : null}
      </TableBody>
    </Table>
  );
}
