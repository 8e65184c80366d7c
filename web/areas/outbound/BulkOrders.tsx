import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { SalesRow } from '@larder/contract/outbound';
import { Link, useNavigate } from 'react-router';
import { count } from '../../kit/format';
import { Card, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useMay, useMayAt } from '../../shared/may';
import { useStartRoundMutation } from '../../shared/rounds';
import { isQuote, useBulk } from './useBulk';
import { refusalOf } from '../../kit/draft';
import { Refused } from '../../kit/states';

interface BulkProps {
  rows: readonly SalesRow[];
  choose: (rows: readonly SalesRow[]) => void;
}

/** What can be done with several orders at once; what of it each of them lets be done, and why not, is said order by order. */
export function BulkOrders({ rows, choose }: BulkProps) {
  const navigate = useNavigate();
  const bulk = useBulk(choose);
  const [start, starting] = useStartRoundMutation();
  const maySellAt = useMayAt('outbound.sell');
  const mayShipAt = useMayAt('outbound.ship');
  const mayOrderAt = useMayAt('inbound.order');
  const mayInvoice = useMay('books.invoice', null);
  const quotes = rows.filter((row) => isQuote(row) && maySellAt(row.siteId));
  const mailed = rows.filter((row) => row.state !== 'cancelled' && maySellAt(row.siteId));
  const ready = rows.filter((row) => row.ready && mayShipAt(row.siteId));
  const straight = rows.filter((row) => row.canGoStraight && mayOrderAt(row.siteId));
  const billed = mayInvoice ? rows.filter(({ toInvoice }) => toInvoice) : [];
  const sites = new Set(ready.map(({ siteId }) => siteId));
  const ids = (some: readonly SalesRow[]) => some.map(({ id }) => id);
  const round = async () => {
    const { data } = await start({ body: { siteId: ready[0]?.siteId ?? 0, orderIds: ids(ready) } });
    if (data) void navigate(`/outbound/rounds/${data.id}`);
  };
  return (
    <Card component="aside" aria-label="Chosen orders">
      <h2>
        {count(rows.length, 'order')} chosen
        <span>Space chooses, with Shift several</span>
      </h2>
      <Stack pad>
        <Refused error={refusalOf(starting).refused} />
        {quotes.length > 0 ? (
          <Button disabled={bulk.isBusy} onClick={() => void bulk.confirm(quotes)}>
            Confirm {count(quotes.length, 'quote')}
          </Button>
        ) : null}
        {ready.length > 0 ? (
          sites.size === 1 ? (
            <Button disabled={starting.isLoading} onClick={() => void round()}>
              Pick {count(ready.length, 'order')} in one round
            </Button>
          ) : (
            <p className="quiet">A round is at one site: choose orders of one.</p>
          )
        ) : null}
        {straight.length > 0 ? (
          <Button component={Link} to={`/outbound/direct?orders=${ids(straight).join(',')}`}>
            Ship {count(straight.length, 'order')} straight from suppliers
          </Button>
        ) : null}
        {billed.length > 0 ? (
          <Button component={Link} to={`/books/invoices/new?orders=${ids(billed).join(',')}`}>
            Invoice {count(billed.length, 'order')}
          </Button>
        ) : null}
        {mailed.length > 0 ? (
          <Button disabled={bulk.isBusy} onClick={() => void bulk.mail(mailed)}>
            Send {count(mailed.length, 'letter')} by mail
          </Button>
        ) : null}
        {[quotes, ready, straight, billed, mailed].every(({ length }) => length === 0) ? (
          <p className="quiet">Nothing can be done with these at once.</p>
        ) : null}
        {bulk.isBusy ? <Notice role="status">{bulk.going}</Notice> : null}
        {bulk.left.length > 0 ? (
          <Table aria-label="Not done">
            <TableBody>
              {bulk.left.map(({ row, why }) => (
                <TableRow key={row.id}>
                  <TableCell>
                    <Link className="code strong" to={`/outbound/orders/${row.id}`}>
                      {row.number}
                    </Link>
                  </TableCell>
                  <TableCell>{why}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        ) : null}
      </Stack>
    </Card>
  );
}
