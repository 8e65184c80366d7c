import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { ReturnRow } from '@larder/contract/returns';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { AddressTabs } from '../../kit/AddressTabs';
import { useIsRested } from '../../kit/delayed';
import { money, quantity, shortDay } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card } from '../../kit/layout';
import { ListPage, PeekWaiting } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { useMay, useSeesCosts } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { OutboundWays } from '../../shared/OutboundWays';
import { useSite } from '../../shared/site';
import { useReturnsInfiniteQuery } from '../../shared/returns';
import { useCustomerReturnQuery, useReturnsInAllQuery } from './api';
import { conditionWords } from './conditionWords';

const shows = [
  ['all', 'All'],
  ['expected', 'Expected'],
  ['received', 'Received'],
  ['to credit', 'To credit'],
] as const;

/** What customers brought back, or will: by customer, order or item, with what is to be credited of it. */
export function ReturnsPage() {
  useTitle('Returns');
  const navigate = useNavigate();
  const address = useAddress();
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const seesCosts = useSeesCosts();
  const may = useMay('outbound.return');
  const idOf = (name: string) => Number(address.get(name)) || undefined;
  const question = {
    show: address.choice('show', shows),
    q: address.get('q'),
    siteId,
    customerId: idOf('customer'),
    itemId: idOf('item'),
    reasonId: idOf('reason'),
    orderId: idOf('order'),
    from: address.get('from') || undefined,
    to: address.get('to') || undefined,
  };
  const useList = () => useGoing(useReturnsInfiniteQuery({ query: question }));
  const { currentData: inAll } = useReturnsInAllQuery({ query: question }, { skip: !useIsRested(question, 300) });
  const shown = useMemo(() => columns(me?.company.today ?? '', seesCosts, inAll?.worth), [me?.company.today, seesCosts, inAll?.worth]);
  const only = address.get('only');
  return (
    <ListPage
      title="Returns"
      beside={<OutboundWays />}
      address={address}
      find={{ label: 'Find returns', placeholder: 'Number, customer, order or item' }}
      filters={
        <>
          <AddressTabs label="Which returns" address={address} name="show" options={shows} />
          {only === '' ? null : (
            <Chip
              label={`only ${only}`}
              onDelete={() => {
                for (const name of ['only', 'customer', 'item', 'reason', 'order', 'from', 'to']) address.put(name, '');
              }}
            />
          )}
        </>
      }
      noun="return"
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/outbound/returns/${id}`}
      empty={
        <>
          Nothing has come back. What customers bring back stands here, with why and where it went. <Link to="/outbound/returns/new">Take something back</Link>
        </>
      }
      peek={({ id }) => <ReturnPeek id={id} />}
      next={(row) =>
        may
          ? { label: 'Goods come back', run: () => void navigate('/outbound/returns/new') }
          : row && { label: `Open ${row.number}`, run: () => void navigate(`/outbound/returns/${row.id}`) }
      }
      actions={() => (
        <Button component={Link} to="/outbound/returns/report">
          Report
        </Button>
      )}
    />
  );
}

const columns = (today: string, seesCosts: boolean, worth: string | undefined): Column<ReturnRow>[] => [
  { name: 'Return', text: (row) => row.number, cell: (row) => <span className="code strong">{row.number}</span> },
  { name: 'From', cell: (row) => row.customer },
  { name: 'Orders', wide: true, cell: (row) => <span className="code quiet">{row.orders}</span> },
  { name: 'Items', wide: true, cell: (row) => <span className="code">{row.items}</span> },
  { name: 'Day', cell: (row) => shortDay(row.cameOn, today) },
  { name: 'To', wide: true, cell: (row) => row.site },
  { name: 'State', cell: (row) => (row.toCredit ? <b>to credit</b> : row.state) },
  ...(seesCosts
    ? [{ name: 'Worth', number: true, wide: true, cell: (row: ReturnRow) => (row.state === 'received' ? money(row.worth) : ''), sum: worth && money(worth) }]
    : []),
];

function ReturnPeek({ id }: { id: number }) {
  const { data, error } = useCustomerReturnQuery({ params: { id } });
  if (!data || data.id !== id) return <PeekWaiting error={error} />;
  return (
    <Card component="aside" aria-label={`About ${data.number}`}>
      <h2>
        {data.number} {data.customer}
        <span>{data.state}</span>
      </h2>
      <Table>
        <TableBody>
          {data.lines.map((line) => (
            <TableRow key={line.id}>
              <TableCell>
                <span className="code">{line.sku}</span> {line.lot}
              </TableCell>
              <TableCell align="right">{quantity(line.quantity)}</TableCell>
              <TableCell>
                {line.reason}
                <small className="quiet name">{conditionWords[line.condition]}</small>
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {data.toCredit.length > 0 ? <p className="pad">To credit: {data.toCredit.map(({ number }) => number).join(', ')}.</p> : null}
    </Card>
  );
}
