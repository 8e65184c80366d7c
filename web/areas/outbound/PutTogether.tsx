import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { MadeForOrder } from '@larder/contract/picking';
import { Link } from 'react-router';
import { quantity } from '../../kit/format';
import { Card } from '../../kit/layout';

/** What comes next on the work that puts something together, and where. */
export const stepOf = ({ id, number, toTake, atWork }: MadeForOrder): { label: string; to: string } => {
  const page = `/making/orders/${id}`;
  if (toTake) return { label: `Take the parts of ${number}`, to: `${page}?do=take` };
  return atWork ? { label: `Record ${number}`, to: `${page}?do=record` } : { label: `Look at ${number}`, to: page };
};

/** Work that puts together what an order waits for: its next step is a touch away from whoever picks the order. */
export function PutTogether({ made }: { made: readonly MadeForOrder[] | undefined }) {
  // A phone may hold a list from before there was such work.
  if (made === undefined || made.length === 0) return null;
  return (
    <Card aria-label="Put together for this order">
      <h2>Put together for this order</h2>
      <Table aria-label="Put together for this order" className="floor">
        <TableBody>
          {made.map((one) => (
            <TableRow key={one.id}>
              <TableCell>
                {quantity(one.quantity)} <span className="code">{one.sku}</span>
                <small className="quiet name">on {one.number}</small>
              </TableCell>
              <TableCell align="right">
                <Button size="small" component={Link} to={stepOf(one).to}>
                  {stepOf(one).label}
                </Button>
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
