import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { Link } from 'react-router';
import type { Lot, LotLink, TraceRow } from '@larder/contract/lots';
import { decimal, sum } from '@larder/core/decimal';
import { DocumentLink } from '../../kit/DocumentLink';
import { count, quantity, shortDay } from '../../kit/format';
import { useTraceQuery } from './api';
import { TracePicture } from './TracePicture';

/** Where a lot or serial came from, and who got it, in both directions, with what of it is still here. `sendBack` is what a return of it is asked with, null when none lies in a bin. */
export function TraceCards({ lot, today, sendBack }: { lot: Lot; today: string; sendBack: string | null }) {
  const { data } = useTraceQuery({ params: { id: lot.id } });
  if (!data) return null;
  const net = (rows: readonly TraceRow[]) => sum(rows.map(({ quantity: many, back }) => decimal(many).minus(back))).toFixed();
  const customers = new Set(data.went.filter(({ kind }) => kind === 'customer').map(({ partyId }) => partyId)).size;
  return (
    <>
      <TracePicture lot={lot} trace={data} />
      <Card aria-label="Where it came from">
        <h2>
          Where it came from<span>{quantity(net(data.came))} in all</span>
        </h2>
        <Rows rows={data.came} today={today} back="sent back" sendBack={sendBack} />
      </Card>
      <Card aria-label="Where it went">
        <h2>
          Where it went
          <span>
            {data.went.length === 0
              ? 'nowhere: all of it is here'
              : `${quantity(net(data.went))} ${customers > 0 ? `to ${count(customers, 'customer')}` : 'gone'}, ${quantity(data.here)} here`}
          </span>
        </h2>
        <Rows rows={data.went} today={today} back="came back" sendBack={null} />
      </Card>
      {data.of.length > 0 ? (
        <Card aria-label="Made of">
          <h2>
            Made of<span>what went into it, and into that</span>
          </h2>
          <Links rows={data.of} today={today} />
        </Card>
      ) : null}
      {data.into.length > 0 ? (
        <Card aria-label="Went into">
          <h2>
            Went into<span>what was made of it, and of that</span>
          </h2>
          <Links rows={data.into} today={today} />
        </Card>
      ) : null}
      {data.held.length > 0 ? (
        <Card aria-label="Who had it on loan">
          <h2>
            Who had it on loan<span>{Number(net(data.held)) === 0 ? 'all of it is back' : `${quantity(net(data.held))} out now`}</span>
          </h2>
          <Rows rows={data.held} today={today} back="back" sendBack={null} />
        </Card>
      ) : null}
    </>
  );
}

/** Lots and serials that making links, level by level. */
const Links = ({ rows, today }: { rows: readonly LotLink[]; today: string }) => (
  <Table>
    <TableBody>
      {rows.map((row, index) => (
        <TableRow key={index}>
          <TableCell sx={{ paddingLeft: 10 + (row.level - 1) * 18 }}>
            <span className="code">{row.sku}</span>{' '}
            {row.lotId === null ? (
              <span className="quiet">made without lots: it cannot be followed on</span>
            ) : (
              <Link className="code" to={`/stock/lots/${row.lotId}`}>
                {row.lot}
              </Link>
            )}
            <span className="name">{row.name}</span>
          </TableCell>
          <TableCell>
            <DocumentLink document={row.document} />
          </TableCell>
          <TableCell className="quiet">{shortDay(row.day, today)}</TableCell>
          <TableCell align="right">{row.quantity === '' ? '' : `${quantity(row.quantity)} made`}</TableCell>
        </TableRow>
      ))}
    </TableBody>
  </Table>
);

function Rows({ rows, today, back, sendBack }: { rows: readonly TraceRow[]; today: string; back: string; sendBack: string | null }) {
  return (
    <Table>
      <TableBody>
        {rows.map((row, index) => (
          <TableRow key={index}>
            <TableCell>
              {row.kind === 'supplier' && row.partyId !== null ? <Link to={`/inbound/suppliers/${row.partyId}`}>{row.who}</Link> : row.who}
              {row.note ? (
                <Box component="small" className="quiet" sx={{ display: 'block' }}>
                  {row.note}
                </Box>
              ) : null}
            </TableCell>
            <TableCell>
              <DocumentLink document={row.document} />
              {row.bills.map((bill) => (
                <Box component={Link} key={bill.id} className="code" sx={{ marginLeft: 8 }} to={`/books/bills/${bill.id}`}>
                  {bill.number}
                </Box>
              ))}
              {row.invoices.map((one) => (
                <Box component={Link} key={one.id} className="code" sx={{ marginLeft: 8 }} to={`/books/invoices/${one.id}`}>
                  {one.number}
                </Box>
              ))}
            </TableCell>
            <TableCell className="quiet">
              {shortDay(row.from, today)}
              {row.to === row.from ? '' : ` to ${shortDay(row.to, today)}`}
              {row.steps.length > 1 ? (
                <small className="name">{row.steps.map((step) => `${step.kind.replace('-', ' ')} of ${quantity(step.quantity)}`).join(', ')}</small>
              ) : null}
            </TableCell>
            <TableCell align="right">
              <b>{quantity(row.quantity)}</b>
              {Number(row.back) > 0 ? (
                <Box component="small" className="low" sx={{ display: 'block' }}>
                  {quantity(row.back)} {back}
                </Box>
              ) : null}
            </TableCell>
            <TableCell align="right">
              {row.kind === 'supplier' && row.document && sendBack !== null ? (
                <Button component={Link} size="small" to={`/inbound/orders/${row.document.id}/return?${sendBack}`}>
                  Send back
                </Button>
              ) : null}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
