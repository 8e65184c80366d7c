import Button from '@mui/material/Button';
import OutlinedInput from '@mui/material/OutlinedInput';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { Held } from '@larder/contract/returns';
import { Link } from 'react-router';
import { useDelayed } from '../../kit/delayed';
import { price, quantity, shortDay } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, Stack, State } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { Waiting } from '../../kit/states';
import { useHeldQuery } from './api';

interface HeldProps {
  customerId: number | undefined;
  /** What somebody came here with. */
  orderId: number | undefined;
  itemId: number | undefined;
  lotId: number | undefined;
  q: string;
  setQ: (q: string) => void;
  today: string;
  /** What the last scan or Enter meant, in words; nothing where it was taken. */
  said: string;
  take: (held: Held) => void;
  /** Whether it stands among what comes back already. */
  isTaken: (held: Held) => boolean;
  /** Takes what is meant by a code. */
  read: (code: string) => void;
}

/** What customers have and have not brought back, to be taken line by line: found by words, a code or a scan. */
export function HeldGoods({ customerId, orderId, itemId, lotId, q, setQ, today, said, take, isTaken, read }: HeldProps) {
  const words = useDelayed(q.trim(), 200);
  const query = { customerId, orderId, itemId, lotId, q: words === '' ? undefined : words };
  const isAsked = Object.values(query).some((one) => one !== undefined);
  const { currentData, error } = useHeldQuery({ query }, { skip: !isAsked });
  return (
    <Card sheet aria-label="What they have">
      <Stack pad>
        <OutlinedInput
          type="search"
          value={q}
          onChange={(event) => setQ(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' || event.ctrlKey) return;
            event.preventDefault();
            if (q.trim() !== '') read(q.trim());
          }}
          placeholder="Scan the goods, or find them by order, item or serial"
          slotProps={{ input: { 'aria-label': 'Find what comes back', 'data-new-line': 'yes', maxLength: 200 } as object }}
          sx={{ maxWidth: 460 }}
        />
        {said === '' ? null : <Notice>{said}</Notice>}
      </Stack>
      {isAsked ? (
        currentData ? (
          <HeldTable rows={currentData.rows} more={currentData.more} today={today} showsCustomer={customerId === undefined} take={take} isTaken={isTaken} />
        ) : (
          <Waiting error={error} />
        )
      ) : (
        <State>Choose the customer, or scan what comes back: an order, an item, a lot or a serial.</State>
      )}
    </Card>
  );
}

interface TableProps extends Pick<HeldProps, 'take' | 'isTaken' | 'today'> {
  rows: readonly Held[];
  more: boolean;
  showsCustomer: boolean;
}

const HeldTable = ({ rows, more, today, showsCustomer, take, isTaken }: TableProps) =>
  rows.length === 0 ? (
    <State>Nothing like that is with {showsCustomer ? 'a customer' : 'this customer'}, or it came back already.</State>
  ) : (
    <>
      <Table aria-label="What they have">
        <TableHead>
          <TableRow>
            <TableCell>Goods</TableCell>
            <TableCell className="wide-only">Order</TableCell>
            <TableCell className="wide-only">Went out</TableCell>
            <TableCell align="right">They have</TableCell>
            <TableCell align="right" className="wide-only">
              Price of one
            </TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((row) => (
            <TableRow key={`${row.salesLineId} ${row.lotId ?? ''}`}>
              <ItemCell of={row}>
                {row.lot ? <small className="quiet name">{row.lot}</small> : null}
                <small className="quiet name phone-only">
                  {row.order}
                  {showsCustomer ? `, ${row.customer}` : ''}
                </small>
              </ItemCell>
              <TableCell className="wide-only">
                <Link className="code" to={`/outbound/orders/${row.orderId}`}>
                  {row.order}
                </Link>
                {showsCustomer ? <span className="name">{row.customer}</span> : null}
              </TableCell>
              <TableCell className="quiet wide-only">{shortDay(row.day, today)}</TableCell>
              <TableCell align="right">
                {quantity(row.held)}
                {Number(row.back) > 0 ? <small className="quiet name">{quantity(row.back)} came back</small> : null}
              </TableCell>
              <TableCell align="right" className="quiet wide-only">
                {price(row.price)} {row.currency}
              </TableCell>
              <TableCell align="right">
                {row.returnable ? (
                  <Button size="small" disabled={isTaken(row)} onClick={() => take(row)} aria-label={`Take back ${row.sku} ${row.lot ?? ''} of ${row.order}`}>
                    {isTaken(row) ? 'Taken' : 'Take back'}
                  </Button>
                ) : (
                  <small className="quiet">is not taken back</small>
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {more ? <p className="pad quiet">There is more; find it by its order or item.</p> : null}
    </>
  );
