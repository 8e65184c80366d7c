import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import type { SalesOrder } from '@larder/contract/outbound';
import { money, price, quantity, shortDay } from '../../kit/format';
import { LineGap } from './LineGap';
import { ItemCell } from '../../kit/ItemCell';

/** The lines of a confirmed order: what is picked and gone of each, and where the rest comes from. */
export function ConfirmedLines({ order, today }: { order: SalesOrder; today: string }) {
  return (
    <Card component="div">
      <Table aria-label="Lines">
        <TableHead>
          <TableRow>
            <TableCell className="wide-only">Line</TableCell>
            <TableCell>Item</TableCell>
            <TableCell align="right">Quantity</TableCell>
            <TableCell align="right">Picked</TableCell>
            <TableCell className="wide-only" align="right">
              Dispatched
            </TableCell>
            <TableCell className="wide-only" align="right">
              Price
            </TableCell>
            <TableCell className="wide-only" align="right">
              Amount
            </TableCell>
            <TableCell>Where it comes from</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {order.lines.map((line) => {
            const left = Number(line.baseQuantity) - Number(line.picked);
            return (
              <TableRow key={line.id}>
                <TableCell className="quiet wide-only">{line.position}</TableCell>
                <ItemCell of={line}>
                  {line.siteId === order.siteId ? null : <small className="quiet name">from {line.site}</small>}
                  {line.shipBy === order.shipBy ? null : <small className="quiet">ship by {shortDay(line.shipBy, today)}</small>}
                </ItemCell>
                <TableCell align="right">
                  {quantity(line.baseQuantity)}
                  {line.quantity === line.baseQuantity ? null : (
                    <Box component="small" className="quiet" sx={{ display: 'block' }}>
                      {quantity(line.quantity)} {line.unit}
                    </Box>
                  )}
                </TableCell>
                <TableCell align="right">{quantity(line.picked, true)}</TableCell>
                <TableCell className="wide-only" align="right">
                  {quantity(line.dispatched, true)}
                </TableCell>
                <TableCell className="wide-only" align="right">
                  {price(line.price)}
                </TableCell>
                <TableCell className="wide-only" align="right">
                  {money(line.amount)}
                  {Number(line.discount) === 0 ? null : (
                    <Box component="small" className="quiet" sx={{ display: 'block' }}>
                      {line.discount} % off
                    </Box>
                  )}
                </TableCell>
                <TableCell>
                  {left > 0 && order.open && !line.stocked ? (
                    <small className="quiet">not kept in stock</small>
                  ) : left > 0 && order.open ? (
                    <>
                      <LineGap line={line} today={today} />
                      {line.promisedOn ? <small className="quiet name">promised for {shortDay(line.promisedOn, today)}</small> : null}
                      {line.standsBack ? <small className="quiet name">lets others go first</small> : null}
                    </>
                  ) : (
                    <small className="quiet">{whereItIs(line)}</small>
                  )}
                </TableCell>
              </TableRow>
            );
          })}
        </TableBody>
      </Table>
    </Card>
  );
}

/** Where a line is that waits for nothing. */
function whereItIs({ baseQuantity, picked, dispatched }: SalesOrder['lines'][number]): string {
  if (Number(baseQuantity) === 0) return 'cancelled';
  if (Number(dispatched) >= Number(baseQuantity)) return 'gone';
  return Number(picked) >= Number(baseQuantity) ? 'on the bench' : '';
}
