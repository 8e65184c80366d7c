import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { TransferRow } from '@larder/contract/transfers';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { AddressTabs } from '../../kit/AddressTabs';
import { useIsRested } from '../../kit/delayed';
import { Due } from '../../kit/Due';
import { quantity, shortDay } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card } from '../../kit/layout';
import { ListPage, PeekWaiting } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useSite } from '../../shared/site';
import { StockWays } from '../../shared/StockWays';
import { useTransferQuery, useTransfersInAllQuery, useTransfersInfiniteQuery } from './api';

const shows = [
  ['open', 'Open'],
  ['to-send', 'To send'],
  ['in-transit', 'In transit'],
  ['done', 'Done'],
  ['all', 'All'],
] as const;

/** Goods that sites send to each other: what is to go, what is in transit, and what became of it. */
export function TransfersPage() {
  useTitle('Transfers');
  const navigate = useNavigate();
  const address = useAddress();
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const may = useMay('stock.transfer');
  const itemId = Number(address.get('item')) || undefined;
  const question = { show: address.choice('show', shows), q: address.get('q'), siteId, itemId };
  const useList = () => useGoing(useTransfersInfiniteQuery({ query: question }));
  const { currentData: inAll } = useTransfersInAllQuery({ query: question }, { skip: !useIsRested(question, 300) });
  const shown = useMemo(() => columns(me?.company.today ?? ''), [me?.company.today]);
  const only = address.get('only');
  return (
    <ListPage
      title="Transfers"
      beside={<StockWays />}
      address={address}
      find={{ label: 'Find transfers', placeholder: 'Number, site, item or tracking' }}
      filters={
        <>
          <AddressTabs label="Which transfers" address={address} name="show" options={shows} />
          <Link to="/stock/transfers/proposals">Proposed</Link>
          {only === '' ? null : (
            <Chip
              label={`only ${only}`}
              onDelete={() => {
                for (const name of ['only', 'item']) address.put(name, '');
              }}
            />
          )}
        </>
      }
      noun="transfer"
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/stock/transfers/${id}`}
      empty={
        <>
          Nothing goes from one site to another. What a site has too many of, another can be sent.{' '}
          {may ? <Link to="/stock/transfers/new">Write the first transfer</Link> : null}
        </>
      }
      peek={({ id }) => <TransferPeek id={id} />}
      next={(row) =>
        may
          ? { label: 'New transfer', run: () => void navigate('/stock/transfers/new') }
          : row && { label: `Open ${row.number}`, run: () => void navigate(`/stock/transfers/${row.id}`) }
      }
      actions={(row) =>
        row ? (
          <Button component={Link} to={`/stock/transfers/${row.id}`}>
            Open {row.number}
          </Button>
        ) : null
      }
    />
  );
}

const columns = (today: string): Column<TransferRow>[] => [
  {
    name: 'Transfer',
    text: (row) => row.number,
    cell: (row) => (
      <>
        <span className="code strong">{row.number}</span>
        <span className="name">
          {row.from} to {row.to}
        </span>
      </>
    ),
  },
  { name: 'Items', wide: true, cell: (row) => <span className="code">{row.items}</span> },
  { name: 'Quantity', number: true, wide: true, cell: (row) => quantity(row.quantity) },
  {
    name: 'In transit',
    number: true,
    cell: (row) => (
      <>
        {quantity(row.inTransit, true)}
        {row.since !== null && Number(row.inTransit) > 0 ? <small className="quiet name">since {shortDay(row.since, today)}</small> : null}
      </>
    ),
  },
  {
    name: 'Due',
    cell: (row) => <Due day={Number(row.gone) < Number(row.quantity) ? row.sendBy : (row.expectedOn ?? row.sendBy)} today={today} late={row.late} />,
  },
  { name: 'State', cell: (row) => row.state },
];

function TransferPeek({ id }: { id: number }) {
  const { data, error } = useTransferQuery({ params: { id } });
  if (!data || data.id !== id) return <PeekWaiting error={error} />;
  return (
    <Card component="aside" aria-label={`About ${data.number}`}>
      <h2>
        {data.number}
        <span>{data.state}</span>
      </h2>
      <Table>
        <TableBody>
          {data.lines.map((line) => (
            <TableRow key={line.id}>
              <TableCell>
                <span className="code">{line.sku}</span>
                <span className="name">{line.name}</span>
              </TableCell>
              <TableCell align="right">{quantity(line.quantity)}</TableCell>
              <TableCell className="quiet">{Number(line.inTransit) > 0 ? `${quantity(line.inTransit)} in transit` : ''}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
