import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import type { SalesOrder } from '@larder/contract/outbound';
import { decimal } from '@larder/core/decimal';
import { Link } from 'react-router';
import { money, price, quantity, shortDay } from '../../kit/format';
import { useMay } from '../../shared/may';
import { useDecideDirectMutation } from './api';
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
            // What a supplier sends straight is told apart: it waits for nothing here.
            const straight = Number(line.direct) - Number(line.sent);
            const left = Number(line.baseQuantity) - Number(line.picked) - straight;
            return (
              <TableRow key={line.id}>
                <TableCell className="quiet wide-only">{line.position}</TableCell>
                <ItemCell of={line}>
                  {line.asked ? <small className="quiet name">instead of {line.asked.sku}</small> : null}
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
                  ) : straight > 0 ? null : (
                    <small className="quiet">{whereItIs(line)}</small>
                  )}
                  <Straight line={line} today={today} />
                </TableCell>
              </TableRow>
            );
          })}
        </TableBody>
      </Table>
    </Card>
  );
}

/** What suppliers send straight to the customer, on which order and by when, and what of it nobody has ordered yet. */
function Straight({ line, today }: { line: SalesOrder['lines'][number]; today: string }) {
  const toOrder = Number(line.direct) - Number(line.sent) - Number(line.onOrder);
  const mayOrder = useMay('inbound.order', line.siteId);
  const maySell = useMay('outbound.sell', line.siteId);
  const [decide, asked] = useDecideDirectMutation();
  return (
    <>
      {line.supplies.map((one) => (
        <small key={one.orderId} className="quiet name">
          {Number(one.sent) < Number(one.quantity)
            ? `${quantity(decimal(one.quantity).minus(one.sent).toFixed())} straight from ${one.supplier}${one.expectedOn === null ? '' : ` on ${shortDay(one.expectedOn, today)}`}, `
            : `${quantity(one.sent)} went straight from ${one.supplier}, `}
          <Link to={`/inbound/orders/${one.orderId}`}>{one.orderNumber}</Link>
        </small>
      ))}
      {toOrder > 0 ? (
        <small className="low name">
          {quantity(String(toOrder))} to be ordered straight from a supplier
          {mayOrder ? (
            <>
              {': '}
              <Link to={`/outbound/direct?lines=${line.id}`}>order</Link>
            </>
          ) : null}
          {maySell ? (
            <Button
              size="small"
              disabled={asked.isLoading}
              aria-label={`Take back that ${line.sku} comes straight from a supplier`}
              onClick={() => void decide({ params: { id: line.id }, body: { quantity: '0' } })}
            >
              Take back
            </Button>
          ) : null}
        </small>
      ) : null}
    </>
  );
}

/** Where a line is that waits for nothing. */
function whereItIs({ baseQuantity, picked, dispatched, returned }: SalesOrder['lines'][number]): string {
  if (Number(baseQuantity) === 0) return 'cancelled';
  if (Number(returned) > 0) return `${quantity(returned)} came back`;
  if (Number(dispatched) >= Number(baseQuantity)) return 'gone';
  return Number(picked) >= Number(baseQuantity) ? 'on the bench' : '';
}
