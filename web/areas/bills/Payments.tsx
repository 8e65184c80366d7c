import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import type { Bill } from '@larder/contract/bills';
import { amount, money, shortDay } from '../../kit/format';

interface PaymentsProps {
  bill: Bill;
  today: string;
  busy: boolean;
  /** Null for whoever may not undo one. */
  undo: ((paymentId: number) => void) | null;
}

/** What was paid of a bill; each can be undone. */
export function Payments({ bill, today, busy, undo }: PaymentsProps) {
  return (
    <>
      {bill.payments.length > 0 ? (
        <Card aria-label="Payments">
          <h2>Payments</h2>
          <Table>
            <TableBody>
              {bill.payments.map((one) => (
                <TableRow key={one.id}>
                  <TableCell>
                    {shortDay(one.paidOn, today)} {one.undone ? <small className="late">undone</small> : null}
                    {Number(one.exchange) === 0 ? null : <small className="quiet name">{money(one.exchange)} exchange difference</small>}
                  </TableCell>
                  <TableCell align="right">{amount(one.amount)}</TableCell>
                  <TableCell align="right">
                    {one.undone || !undo ? null : (
                      <Button size="small" disabled={busy} onClick={() => undo(one.id)}>
                        Undo
                      </Button>
                    )}
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Card>
      ) : null}
    </>
  );
}
