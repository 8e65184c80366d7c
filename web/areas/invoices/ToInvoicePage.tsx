import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { ToInvoiceRow } from '@larder/contract/invoices';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { CellCheck } from '../../kit/Check';
import { useIsRested } from '../../kit/delayed';
import { amount, count, shortDay, sums } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card } from '../../kit/layout';
import { ListPage } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { OutboundWays } from '../../shared/OutboundWays';
import { useToInvoiceInAllQuery, useToInvoiceInfiniteQuery } from './api';

const sheetOf = (orderIds: readonly number[]) => `/books/invoices/new?orders=${orderIds.join(',')}`;

/** Orders of which something went out that is on no invoice yet; several are invoiced at once. */
export function ToInvoicePage() {
  useTitle('To invoice');
  const navigate = useNavigate();
  const address = useAddress();
  const { data: me } = useMeQuery({});
  const question = { q: address.get('q'), customerId: Number(address.get('customer')) || undefined };
  const useList = () => useGoing(useToInvoiceInfiniteQuery({ query: question }));
  const { currentData: inAll } = useToInvoiceInAllQuery({ query: question }, { skip: !useIsRested(question, 300) });
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const today = me?.company.today ?? '';
  const shown = useMemo(() => {
    const toggle = (id: number) => setChosen((now) => (now.includes(id) ? now.filter((one) => one !== id) : [...now, id]));
    return columns(today, chosen, toggle, inAll?.amount);
  }, [today, chosen, inAll?.amount]);
  return (
    <ListPage
      title="To invoice"
      beside={<OutboundWays />}
      address={address}
      find={{ label: 'Find orders to invoice', placeholder: 'Order, customer or their number' }}
      noun="order"
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ orderId }) => orderId}
      hrefOf={({ orderId }) => sheetOf([orderId])}
      choosing={{
        has: ({ orderId }) => chosen.includes(orderId),
        set: (rows, on) => {
          const ids = rows.map(({ orderId }) => orderId);
          setChosen((now) => (on ? [...new Set([...now, ...ids])] : now.filter((id) => !ids.includes(id))));
        },
      }}
      empty="Everything that went out is invoiced. What goes out next will stand here, order by order."
      peek={(row) => <Dispatches row={row} today={today} />}
      next={(row) =>
        chosen.length > 0
          ? { label: `Invoice ${count(chosen.length, 'order')}`, run: () => void navigate(sheetOf(chosen)) }
          : row && { label: `Invoice ${row.number}`, run: () => void navigate(sheetOf([row.orderId])) }
      }
      actions={() => (chosen.length > 0 ? <Button onClick={() => setChosen([])}>Choose none</Button> : null)}
    />
  );
}

const columns = (
  today: string,
  chosen: readonly number[],
  toggle: (id: number) => void,
  inAll: Parameters<typeof sums>[0] | undefined,
): Column<ToInvoiceRow>[] => [
  { name: '', cell: ({ orderId, number }) => <CellCheck label={`Choose ${number}`} checked={chosen.includes(orderId)} onChange={() => toggle(orderId)} /> },
  { name: 'Order', text: (row) => row.number, cell: (row) => <span className="code strong">{row.number}</span> },
  { name: 'Customer', cell: (row) => row.customer },
  { name: 'Their number', wide: true, cell: (row) => row.reference },
  { name: 'Went out', wide: true, cell: (row) => shortDay(row.since, today) },
  { name: 'Lines', number: true, wide: true, cell: (row) => row.lines },
  { name: 'Before tax', number: true, cell: (row) => `${amount(row.amount)} ${row.currency}`, sum: inAll && sums(inAll) },
];

const Dispatches = ({ row, today }: { row: ToInvoiceRow; today: string }) => (
  <Card component="aside" aria-label={`About ${row.number}`}>
    <h2>
      {row.number} {row.customer}
    </h2>
    <Table aria-label="Dispatches">
      <TableBody>
        {row.dispatches.map((one) => (
          <TableRow key={one.movementId}>
            <TableCell>{shortDay(one.dispatchedOn, today)}</TableCell>
            <TableCell className="quiet">{one.straight ? 'straight from a supplier' : 'dispatched'}</TableCell>
            <TableCell align="right">{count(one.lines, 'line')}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  </Card>
);
