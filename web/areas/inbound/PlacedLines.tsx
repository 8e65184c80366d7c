import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Link } from 'react-router';
import { Card } from '../../kit/layout';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { amount, price, quantity, shortDay } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';

/** The lines of an order that was placed: what has come of each, and what is still to come. */
export function PlacedLines({ order, today }: { order: PurchaseOrder; today: string }) {
  return (
    <Card component="div">
      <Table aria-label="Lines">
        <TableHead>
          <TableRow>
            <TableCell className="wide-only">Line</TableCell>
            <TableCell>Item</TableCell>
            <TableCell className="wide-only">Their code</TableCell>
            <TableCell align="right">Ordered</TableCell>
            <TableCell align="right">{order.shipsTo === null ? 'Received' : 'Delivered'}</TableCell>
            <TableCell align="right">Still to come</TableCell>
            <TableCell className="wide-only" align="right">
              Price
            </TableCell>
            <TableCell className="wide-only" align="right">
              Amount
            </TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {order.lines.map((line) => (
            <TableRow key={line.id}>
              <TableCell className="quiet wide-only">{line.position}</TableCell>
              <ItemCell of={line}>
                {line.forSale.map((one) => (
                  <small key={one.orderId} className="quiet name">
                    for <Link to={`/outbound/orders/${one.orderId}`}>{one.orderNumber}</Link>
                  </small>
                ))}
              </ItemCell>
              <TableCell className="code quiet wide-only">{line.supplierCode}</TableCell>
              <TableCell align="right">
                {quantity(line.baseQuantity)}
                {line.quantity === line.baseQuantity ? null : (
                  <Box component="small" className="quiet" sx={{ display: 'block' }}>
                    {quantity(line.quantity)} {line.unit}
                  </Box>
                )}
                {Number(line.cancelled) > 0 ? (
                  <Box component="small" className="low" sx={{ display: 'block' }}>
                    {quantity(line.cancelled)} cancelled
                  </Box>
                ) : null}
              </TableCell>
              <TableCell align="right">{quantity(line.received, true)}</TableCell>
              <TableCell className="strong" align="right">
                {quantity(line.outstanding, true)}
                {line.expectedOn !== null && Number(line.outstanding) > 0 ? (
                  <Box component="small" className="quiet" sx={{ display: 'block' }}>
                    {shortDay(line.expectedOn, today)}
                  </Box>
                ) : null}
              </TableCell>
              <TableCell className="wide-only" align="right">
                {price(line.price)}
                {line.pricePer === '1' ? null : <small className="quiet name">for {quantity(line.pricePer)}</small>}
              </TableCell>
              <TableCell className="wide-only" align="right">
                {amount(line.amount)}
                {line.currency === order.currency && line.rate === order.rate ? null : (
                  <small className="quiet name">
                    {line.currency} at {line.rate}
                  </small>
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
