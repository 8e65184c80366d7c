import { useMemo } from 'react';
import { May, useMay } from '../../shared/may';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { Link, useNavigate } from 'react-router';
import type { PurchaseRow } from '@larder/contract/inbound';
import { useSite } from '../../shared/site';
import { useAddress } from '../../kit/address';
import { Due } from '../../kit/Due';
import { amount, quantity, sums } from '../../kit/format';
import { PeekWaiting } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { Moon } from '../../kit/Moon';
import { useIsRested } from '../../kit/delayed';
import { useGoing } from '../../kit/going';
import { StageTrack } from '../../kit/StageTrack';
import { AddressTabs } from '../../kit/AddressTabs';
import { useTitle } from '../../kit/title';
import { Report } from '../../shared/Report';
import { useMeQuery } from '../../shared/me';
import { usePurchaseQuery, usePurchaseListInfiniteQuery, usePurchasesInAllQuery } from './api';
import { InboundWays } from './InboundWays';
import { ItemCell } from '../../kit/ItemCell';

const shows = [
  ['open', 'On order'],
  ['drafts', 'Drafts'],
  ['all', 'All'],
] as const;
const destinations = [
  ['anywhere', 'Anywhere'],
  ['site', 'To us'],
  ['customer', 'To customers'],
] as const;

export function PurchasesPage() {
  useTitle('Inbound');
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const navigate = useNavigate();
  const address = useAddress();
  const show = address.choice('show', shows);
  const to = address.choice('to', destinations);
  const question = { show, to, q: address.get('q'), siteId };
  const mayReceive = useMay('inbound.receive');
  const useList = () => useGoing(usePurchaseListInfiniteQuery({ query: question }));
  const { currentData: inAll } = usePurchasesInAllQuery({ query: question }, { skip: !useIsRested(question, 300) });
  const shown = useMemo(() => columns(me?.company.today ?? '', me?.company.currency ?? '', inAll?.amounts), [me?.company, inAll?.amounts]);
  return (
    <Report
      laidOutAs="inbound"
      out={{ list: 'purchases', only: { q: question.q, show: question.show } }}
      title="Inbound"
      beside={<InboundWays />}
      address={address}
      find={{ label: 'Find purchase orders', placeholder: 'Number or supplier' }}
      filters={
        <>
          <AddressTabs label="Where to" address={address} name="to" options={destinations} />
          <AddressTabs label="Which orders" address={address} name="show" options={shows} />
        </>
      }
      noun="order"
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/inbound/orders/${id}`}
      empty={
        <>
          Nothing is on order. <Link to="/inbound/orders/new">Write a purchase order</Link>, or take what to reorder from <Link to="/planning">Planning</Link>.
        </>
      }
      peek={({ id }) => <PurchasePeek id={id} />}
      next={(row) =>
        mayReceive
          ? { label: 'Open the receiving desk', run: () => void navigate('/inbound/desk') }
          : row && { label: `Open ${row.number}`, run: () => void navigate(`/inbound/orders/${row.id}`) }
      }
      actions={() => (
        <>
          <May to="inbound.receive">
            <Button component={Link} to="/inbound/unordered">
              Without an order
            </Button>
          </May>
          <May to="inbound.order">
            <Button component={Link} to="/inbound/orders/new">
              New order
            </Button>
          </May>
        </>
      )}
    />
  );
}

const columns = (today: string, own: string, inAll: Parameters<typeof sums>[0] | undefined): Column<PurchaseRow>[] => [
  { name: '', cell: (row) => <Moon done={row.received} of={row.ordered} /> },
  { name: 'Order', text: (row) => row.number, cell: (row) => <span className="code strong">{row.number}</span> },
  { name: 'Supplier', cell: (row) => row.supplier },
  { name: 'To', wide: true, cell: (row) => (row.shipsTo === null ? <span className="quiet">{row.site}</span> : <span>straight to {row.shipsTo}</span>) },
  { name: 'State', wide: true, cell: (row) => row.state },
  { name: 'Received', number: true, cell: (row) => `${quantity(row.received)} of ${quantity(row.ordered)}` },
  { name: 'Due', cell: (row) => <Due day={row.expectedOn} today={today} late={row.late} none={row.state === 'draft' ? '' : 'no date'} /> },
  {
    name: 'Amount',
    number: true,
    wide: true,
    cell: (row) => `${amount(row.amount)} ${row.currency === own ? '' : row.currency}`,
    sum: inAll && sums(inAll, own),
  },
];

function PurchasePeek({ id }: { id: number }) {
  const { data, error } = usePurchaseQuery({ params: { id } });
  if (!data || data.id !== id) return <PeekWaiting error={error} />;
  return (
    <Card component="aside" aria-label={`About ${data.number}`}>
      <h2>
        {data.number} {data.supplier}
        <span>{data.state}</span>
      </h2>
      <div className="pad">
        <StageTrack stages={data.stages.slice(-1)} />
      </div>
      <Table>
        <TableBody>
          {data.lines.map((line) => (
            <TableRow key={line.id}>
              <ItemCell of={line} />
              <TableCell align="right">
                {quantity(line.received)} of {quantity(line.baseQuantity)}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
