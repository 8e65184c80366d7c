import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { ItemStock } from '@larder/contract/stock';
import { decimal, sum } from '@larder/core/decimal';
import { Link } from 'react-router';
import { quantity, shortDay } from '../kit/format';

interface PeekPlacesProps {
  data: ItemStock;
  /** With what comes to each site and what is short there, and all sites together. */
  whole?: boolean;
  /** As rows below a row of a list. */
  small?: boolean;
}

/** Where an item lies, site by site and bin by bin. */
export function PeekPlaces({ data, whole = false, small = false }: PeekPlacesProps) {
  const trail = (query: string) => `/stock/trail?item=${data.itemId}&${query}`;
  return (
    <Table size={small ? 'small' : 'medium'}>
      <TableHead>
        <TableRow>
          <TableCell>Where</TableCell>
          <TableCell align="right">On hand</TableCell>
          <TableCell align="right">Reserved</TableCell>
          <TableCell align="right">Free</TableCell>
          {whole ? (
            <>
              <TableCell align="right">On order</TableCell>
              <TableCell align="right">In transit</TableCell>
              <TableCell align="right">Short</TableCell>
            </>
          ) : null}
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
            {whole ? (
              <>
                <TableCell align="right">{quantity(site.onOrder, true)}</TableCell>
                <TableCell align="right">{quantity(site.inTransit, true)}</TableCell>
                <TableCell align="right" className="late">
                  {quantity(site.short, true)}
                </TableCell>
              </>
            ) : null}
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
              <TableCell colSpan={whole ? 5 : 2} />
            </TableRow>
          )),
        ])}
        {whole && data.sites.length > 1 ? (
          <TableRow className="strong">
            <TableCell>All</TableCell>
            {(['onHand', 'reserved', 'free', 'onOrder', 'inTransit', 'short'] as const).map((name) => (
              <TableCell key={name} align="right">
                {quantity(sum(data.sites.map((site) => decimal(site[name]))).toFixed(), name !== 'onHand' && name !== 'free')}
              </TableCell>
            ))}
          </TableRow>
        ) : null}
        {data.sites.length === 0 ? (
          <TableRow>
            <TableCell colSpan={whole ? 6 : 4} className="quiet">
              None was ever here. Receive it under Inbound, or correct the stock.
            </TableCell>
          </TableRow>
        ) : null}
      </TableBody>
    </Table>
  );
}
