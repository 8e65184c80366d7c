import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { ItemStock } from '@larder/contract/stock';
import { Link } from 'react-router';
import { quantity, shortDay } from '../kit/format';
import { alsoAsOf } from './AsOf';

interface BinRowsProps {
  of: Pick<ItemStock, 'itemId' | 'tracking'>;
  bins: ItemStock['sites'][number]['bins'];
  today: string;
  /** How many columns stand behind the quantity. */
  behind: number;
  /** The day as of which the bins are shown, when it is not now. */
  asOf?: string | undefined;
}

/** What bins of a site hold of an item, each with its lots or serials, as rows below the site's. */
export const BinRows = ({ of, bins, today, behind, asOf }: BinRowsProps) =>
  bins.map((bin) => (
    <TableRow key={bin.binId}>
      <TableCell sx={{ paddingLeft: 24 }}>
        <Link className="code binline" to={`/stock/bins/${bin.binId}${alsoAsOf(asOf)}`}>
          {bin.bin}
        </Link>
        {bin.sellable ? null : <small className="quiet"> not for sale</small>}
        {bin.lots.slice(0, 4).map((lot) => (
          <Link key={lot.lotId} className="lotline" to={`/stock/lots/${lot.lotId}`}>
            <span className="code">{lot.code}</span> {of.tracking === 'lot' ? quantity(lot.quantity) : ''}{' '}
            {lot.useBy ? (
              <span className={lot.pastUse ? 'late' : ''}>
                {lot.pastUse ? 'not sold any more, ' : ''}use by {shortDay(lot.useBy, today)}
              </span>
            ) : (
              ''
            )}
          </Link>
        ))}
        {bin.lots.length > 4 ? <small className="quiet">and {bin.lots.length - 4} more</small> : null}
      </TableCell>
      <TableCell align="right">
        <Link className="figure" to={`/stock/trail?item=${of.itemId}&place=${bin.binId}${asOf === undefined ? '' : `&until=${asOf}`}`}>
          {quantity(bin.quantity)}
        </Link>
      </TableCell>
      <TableCell colSpan={behind} />
    </TableRow>
  ));
