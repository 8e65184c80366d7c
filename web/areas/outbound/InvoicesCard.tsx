import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Link } from 'react-router';
import { amount, shortDay } from '../../kit/format';
import { Card } from '../../kit/layout';
import { useInvoicesOfOrderQuery } from './api';

/** The invoices of an order, and what is open of each. */
export function InvoicesCard({ orderId, today }: { orderId: number; today: string }) {
  const { currentData: data } = useInvoicesOfOrderQuery({ query: { orderId, show: 'all', limit: 200 } });
  if (!data || data.rows.length === 0) return null;
  return (
    <Card aria-label="Invoices">
      <h2>Invoices</h2>
      <Table aria-label="Invoices">
        <TableBody>
          {data.rows.map((one) => (
            <TableRow key={one.id}>
              <TableCell>
                <Link className="code strong" to={`/books/invoices/${one.id}`}>
                  {one.number}
                </Link>
                <small className="quiet name">{shortDay(one.invoicedOn, today)}</small>
              </TableCell>
              <TableCell className={one.late ? 'late' : 'quiet'}>{one.late ? `${one.state}, late` : one.state}</TableCell>
              <TableCell align="right">
                {amount(one.kind === 'credit' ? `-${one.total}` : one.total)} {one.currency}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
