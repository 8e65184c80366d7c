import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { Lot } from '@larder/contract/lots';
import type { TrailRow } from '@larder/contract/stock';
import { DocumentLink } from '../../kit/DocumentLink';
import { moment, quantity } from '../../kit/format';

/** Where a lot or serial unit is, and how many. */
export function LotPlaces({ places }: { places: Lot['places'] }) {
  return (
    <Table>
      <TableBody>
        {places.map((place) => (
          <TableRow key={place.placeId}>
            <TableCell>{place.where}</TableCell>
            <TableCell className="quiet">{place.kind}</TableCell>
            <TableCell className="strong" align="right">
              {quantity(place.quantity)}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

/** What happened to it, the last first; `short` leaves out from where to where, and who. */
export function LotLife({ rows, short = false }: { rows: readonly TrailRow[]; short?: boolean }) {
  return (
    <Table>
      <TableBody>
        {rows.map((row) => (
          <TableRow key={row.lineId}>
            <TableCell>{moment(row.postedAt)}</TableCell>
            <TableCell>
              {row.kind} <DocumentLink document={row.document} />
            </TableCell>
            {short ? null : (
              <>
                <TableCell>{row.from}</TableCell>
                <TableCell>{row.to}</TableCell>
              </>
            )}
            <TableCell align="right">{quantity(row.quantity)}</TableCell>
            {short ? null : <TableCell className="quiet wide-only">{row.person}</TableCell>}
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
