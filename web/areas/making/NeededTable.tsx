import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { NeededRow } from '@larder/contract/making';
import { Link } from 'react-router';
import { lineAddress } from '../../kit/DocumentLink';
import { quantity, shortDay } from '../../kit/format';
import { Card } from '../../kit/layout';
import { useMeQuery } from '../../shared/me';

/** What making so many takes, part by part over all levels: what is free, what is made first, what is missing, and when that comes. */
export function NeededTable({ rows }: { rows: readonly NeededRow[] }) {
  const { data: me } = useMeQuery({});
  const today = me?.company.today ?? '';
  return (
    <Card component="div">
      <Table aria-label="Needed">
        <TableHead>
          <TableRow>
            <TableCell>Part</TableCell>
            <TableCell align="right">Needed</TableCell>
            <TableCell align="right" className="wide-only">
              Free
            </TableCell>
            <TableCell align="right" className="wide-only">
              Made first
            </TableCell>
            <TableCell align="right">Missing</TableCell>
            <TableCell className="wide-only">Comes, or can be had</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((row) => (
            <TableRow key={row.itemId}>
              <TableCell sx={{ paddingLeft: 10 + (row.level - 1) * 18 }}>
                <Link className="code" to={`/items/${row.itemId}`}>
                  {row.sku}
                </Link>
                <span className="name">{row.name}</span>
              </TableCell>
              <TableCell align="right">
                {quantity(row.needed)} {row.unit === 'each' ? '' : row.unit}
              </TableCell>
              <TableCell align="right" className="wide-only">
                {row.stocked ? quantity(row.free, true) : <span className="quiet">not counted</span>}
              </TableCell>
              <TableCell align="right" className="wide-only">
                {Number(row.made) > 0 ? <Link to={`/making/items/${row.itemId}?many=${row.made}`}>{quantity(row.made)}</Link> : ''}
              </TableCell>
              <TableCell align="right" className={Number(row.missing) > 0 ? 'late strong' : ''}>
                {quantity(row.missing, true)}
              </TableCell>
              <TableCell className="wide-only">{Number(row.missing) > 0 ? <Sources row={row} today={today} /> : null}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}

const Sources = ({ row, today }: { row: NeededRow; today: string }) => (
  <>
    {row.coming.map(({ kind, orderId, orderNumber, quantity: many, expectedOn }) => (
      <span className="name" key={`${kind} ${orderId} ${many}`}>
        {quantity(many)} on <Link to={lineAddress(kind, orderId)}>{orderNumber}</Link>
        {expectedOn === null ? ', no day yet' : `, ${shortDay(expectedOn, today)}`}
      </span>
    ))}
    {row.elsewhere.map(({ siteId, site, free }) => (
      <small className="quiet name" key={siteId}>
        {quantity(free)} free at {site}
      </small>
    ))}
    {row.alternatives.map(({ sku, quantity: many, free }) => (
      <small className="quiet name" key={sku}>
        or {quantity(many)} of {sku}: {quantity(free)} free
      </small>
    ))}
    {row.coming.length === 0 && row.supplier !== null ? <small className="quiet name">from {row.supplier}</small> : null}
  </>
);
