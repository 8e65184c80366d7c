import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { ItemStock } from '@larder/contract/stock';
import { decimal, sum } from '@larder/core/decimal';
import { quantity } from '../kit/format';
import { BinRows } from './BinRows';
import { ExplainedFigure } from './explaining';

interface PeekPlacesProps {
  data: ItemStock;
  /** With what comes to each site and what is short there, and all sites together. */
  whole?: boolean;
  /** As rows below a row of a list. */
  small?: boolean;
}

/** Where an item lies, site by site and bin by bin. */
export function PeekPlaces({ data, whole = false, small = false }: PeekPlacesProps) {
  const told = (site: ItemStock['sites'][number], figure: 'reserved' | 'onOrder' | 'inTransit' | 'short') =>
    Number(site[figure]) === 0 ? null : (
      <ExplainedFigure itemId={data.itemId} figure={figure} siteId={site.siteId}>
        {quantity(site[figure])}
      </ExplainedFigure>
    );
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
              <ExplainedFigure itemId={data.itemId} figure="onHand" siteId={site.siteId}>
                {quantity(site.onHand)}
              </ExplainedFigure>
            </TableCell>
            <TableCell align="right">{told(site, 'reserved')}</TableCell>
            <TableCell className="strong" align="right">
              {quantity(site.free)}
            </TableCell>
            {whole ? (
              <>
                <TableCell align="right">{told(site, 'onOrder')}</TableCell>
                <TableCell align="right">{told(site, 'inTransit')}</TableCell>
                <TableCell align="right" className="late">
                  {told(site, 'short')}
                </TableCell>
              </>
            ) : null}
          </TableRow>,
          <BinRows key={`bins ${site.siteId}`} of={data} bins={site.bins} today={data.today} behind={whole ? 5 : 2} />,
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
