import { useMemo, useState } from 'react';
import { May } from '../../shared/may';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { Link, useNavigate } from 'react-router';
import type { SalesRow } from '@larder/contract/outbound';
import type { Me } from '@larder/contract/people';
import { useSite } from '../../shared/site';
import { useAddress } from '../../kit/address';
import { CellCheck } from '../../kit/Check';
import { Due } from '../../kit/Due';
import { amount, quantity, sums } from '../../kit/format';
import { PeekWaiting } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { Moon } from '../../kit/Moon';
import { useIsRested } from '../../kit/delayed';
import { useGoing } from '../../kit/going';
import { AddressTabs } from '../../kit/AddressTabs';
import { useTitle } from '../../kit/title';
import { Report } from '../../shared/Report';
import { useMeQuery } from '../../shared/me';
import { BulkOrders } from './BulkOrders';
import { useSaleQuery, useSaleListInfiniteQuery, useSalesInAllQuery } from './api';
import { OutboundWays } from '../../shared/OutboundWays';
import { ItemCell } from '../../kit/ItemCell';

const shows = [
  ['open', 'To go out'],
  ['late', 'Late'],
  ['short', 'Short'],
  ['ready', 'Ready to pick'],
  ['bench', 'On the bench'],
  ['supplier', 'Waiting for the supplier'],
  ['to-invoice', 'To invoice'],
  ['quotes', 'Quotes'],
  ['direct', 'Straight from suppliers'],
  ['all', 'All'],
] as const;

export function SalesPage() {
  useTitle('Outbound');
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const navigate = useNavigate();
  const address = useAddress();
  const show = address.choice('show', shows);
  const question = { show, q: address.get('q'), siteId };
  const useList = () => useGoing(useSaleListInfiniteQuery({ query: question }));
  const { currentData: inAll } = useSalesInAllQuery({ query: question }, { skip: !useIsRested(question, 300) });
  // As they were when they were chosen: the list may go on to others.
  const [chosen, setChosen] = useState<readonly SalesRow[]>([]);
  const { rows } = useList();
  // Rows that were read anew say how they stand now.
  const standing = useMemo(() => chosen.map((one) => rows?.find(({ id }) => id === one.id) ?? one), [chosen, rows]);
  const shown = useMemo(() => {
    const toggle = (row: SalesRow) => setChosen((now) => (now.some(({ id }) => id === row.id) ? now.filter(({ id }) => id !== row.id) : [...now, row]));
    return columns(me?.company, inAll?.amounts, chosen, toggle);
  }, [me?.company, inAll?.amounts, chosen]);
  return (
    <Report
      laidOutAs="outbound"
      out={{ list: 'sales', only: { q: question.q, show: question.show } }}
      title="Outbound"
      beside={<OutboundWays />}
      address={address}
      find={{ label: 'Find sales orders', placeholder: 'Number, customer or their number' }}
      filters={
        // Many: they take two rows where one is too short.
        <Box sx={{ '&&': { flex: '0 1 auto', minWidth: 0 } }}>
          <AddressTabs label="Which orders" address={address} name="show" options={shows} />
        </Box>
      }
      choosing={{
        has: ({ id }) => chosen.some((one) => one.id === id),
        set: (some, on) => {
          const ids = some.map(({ id }) => id);
          setChosen((now) => [...now.filter(({ id }) => !ids.includes(id)), ...(on ? some : [])]);
        },
      }}
      instead={chosen.length > 0 ? <BulkOrders rows={standing} choose={setChosen} /> : undefined}
      noun="order"
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/outbound/orders/${id}`}
      empty={
        <>
          No order waits to go out. <Link to="/outbound/orders/new">Write a quote</Link>, and confirm it when the customer agrees.
        </>
      }
      peek={({ id }) => <SalePeek id={id} />}
      next={(row) => row && { label: `Open ${row.number}`, run: () => void navigate(`/outbound/orders/${row.id}`) }}
      actions={() => (
        <>
          {chosen.length > 0 ? <Button onClick={() => setChosen([])}>Choose none</Button> : null}
          <May to="outbound.sell">
            <Button component={Link} to="/outbound/orders/new">
              New quote
            </Button>
          </May>
        </>
      )}
    />
  );
}

const columns = (
  { today = '', currency: own = '' }: Partial<Me['company']> = {},
  inAll: Parameters<typeof sums>[0] | undefined,
  chosen: readonly SalesRow[],
  toggle: (row: SalesRow) => void,
): Column<SalesRow>[] => [
  {
    name: '',
    cell: (row) => (
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 6 }}>
        <CellCheck label={`Choose ${row.number}`} checked={chosen.some(({ id }) => id === row.id)} onChange={() => toggle(row)} />
        <Moon done={row.dispatched} of={row.ordered} />
      </Box>
    ),
  },
  { name: 'Order', text: (row) => row.number, cell: (row) => <span className="code strong">{row.number}</span> },
  { name: 'Customer', cell: (row) => row.customer },
  { name: 'Their number', wide: true, cell: (row) => row.reference },
  { name: 'From', wide: true, cell: (row) => <span className="quiet">{row.site}</span> },
  { name: 'State', wide: true, cell: (row) => (row.expired ? <span className="late">quote, no longer offered</span> : row.state) },
  { name: 'Short', number: true, cell: (row) => <span className="late">{quantity(row.short, true)}</span> },
  { name: 'Ship', cell: (row) => <Due day={row.shipBy} today={today} late={row.late} /> },
  {
    name: 'Amount',
    number: true,
    wide: true,
    cell: (row) => `${amount(row.amount)} ${row.currency === own ? '' : row.currency}`,
    sum: inAll && sums(inAll, own),
  },
];

function SalePeek({ id }: { id: number }) {
  const { data, error } = useSaleQuery({ params: { id } });
  if (!data || data.id !== id) return <PeekWaiting error={error} />;
  return (
    <Card component="aside" aria-label={`About ${data.number}`}>
      <h2>
        {data.number} {data.customer}
        <span>{data.state}</span>
      </h2>
      <Table>
        <TableHead>
          <TableRow>
            <TableCell>Item</TableCell>
            <TableCell align="right">Ordered</TableCell>
            <TableCell align="right">Picked</TableCell>
            <TableCell align="right">Dispatched</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {data.lines.map((line) => (
            <TableRow key={line.id}>
              <ItemCell of={line}>{Number(line.short) > 0 ? <small className="late">{quantity(line.short)} short</small> : null}</ItemCell>
              <TableCell align="right">{quantity(line.baseQuantity)}</TableCell>
              <TableCell align="right">{quantity(line.picked, true)}</TableCell>
              <TableCell align="right">{quantity(line.dispatched, true)}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
