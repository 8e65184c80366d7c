import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { WorkRow } from '@larder/contract/workOrders';
import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { AddressTabs } from '../../kit/AddressTabs';
import { CellCheck } from '../../kit/Check';
import { useIsRested } from '../../kit/delayed';
import { Due } from '../../kit/Due';
import { quantity } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card } from '../../kit/layout';
import { ListPage, PeekWaiting } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { Moon } from '../../kit/Moon';
import { StageTrack } from '../../kit/StageTrack';
import { useTitle } from '../../kit/title';
import { MakingWays } from '../../shared/MakingWays';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useSite } from '../../shared/site';
import { useWorkOrdersInAllQuery, useWorkOrdersInfiniteQuery } from '../../shared/workOrders';
import { useUntakenQuery, useWorkOrderQuery } from './api';
import { BulkWork } from './BulkWork';

const shows = [
  ['open', 'Open'],
  ['today', 'Today'],
  ['planned', 'Planned'],
  ['released', 'Released'],
  ['to-record', 'To record'],
  ['late', 'Late'],
  ['short', 'Short'],
  ['done', 'Done'],
  ['all', 'All'],
] as const;

/** Work orders: what is to be made, by the day it is due, and how far it is. */
export function WorkOrdersPage() {
  useTitle('Work orders');
  const navigate = useNavigate();
  const address = useAddress();
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const may = useMay('making.plan');
  const itemId = Number(address.get('item')) || undefined;
  const question = { show: address.choice('show', shows), q: address.get('q'), siteId, itemId };
  const useList = () => useGoing(useWorkOrdersInfiniteQuery({ query: question }));
  const { rows } = useList();
  const { currentData: inAll } = useWorkOrdersInAllQuery({ query: question }, { skip: !useIsRested(question, 300) });
  const { data: untaken } = useUntakenQuery({ query: { siteId } });
  // As they were when they were chosen: the list may go on to others.
  const [chosen, setChosen] = useState<readonly WorkRow[]>([]);
  const standing = useMemo(() => chosen.map((one) => rows?.find(({ id }) => id === one.id) ?? one), [chosen, rows]);
  const shown = useMemo(() => {
    const toggle = (row: WorkRow) => setChosen((now) => (now.some(({ id }) => id === row.id) ? now.filter(({ id }) => id !== row.id) : [...now, row]));
    return columns(me?.company.today ?? '', chosen, toggle);
  }, [me?.company.today, chosen]);
  const only = address.get('only');
  const open = untaken?.rows.length ?? 0;
  return (
    <ListPage
      title="Work orders"
      beside={<MakingWays />}
      address={address}
      find={{ label: 'Find work orders', placeholder: 'Number, item or order' }}
      filters={
        <>
          <AddressTabs label="Which work orders" address={address} name="show" options={shows} />
          {open > 0 ? <Link to="/making/untaken">Used, not taken: {open}</Link> : null}
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
      choosing={{
        has: ({ id }) => chosen.some((one) => one.id === id),
        set: (some, on) => {
          const ids = some.map(({ id }) => id);
          setChosen((now) => [...now.filter(({ id }) => !ids.includes(id)), ...(on ? some : [])]);
        },
      }}
      instead={chosen.length > 0 ? <BulkWork rows={standing} choose={setChosen} /> : undefined}
      noun="work order"
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/making/orders/${id}`}
      empty={
        <>Nothing is to be made. A work order says what is made, of what and by when. {may ? <Link to="/making/orders/new">Plan the first one</Link> : null}</>
      }
      peek={({ id }) => <WorkPeek id={id} />}
      next={(row) =>
        may
          ? { label: 'Plan work', run: () => void navigate('/making/orders/new') }
          : row && { label: `Open ${row.number}`, run: () => void navigate(`/making/orders/${row.id}`) }
      }
      actions={(row) => (
        <>
          {chosen.length > 0 ? <Button onClick={() => setChosen([])}>Choose none</Button> : null}
          {row && may ? (
            <Button component={Link} to={`/making/orders/${row.id}`}>
              Open {row.number}
            </Button>
          ) : null}
        </>
      )}
    />
  );
}

const columns = (today: string, chosen: readonly WorkRow[], toggle: (row: WorkRow) => void): Column<WorkRow>[] => [
  {
    name: '',
    cell: (row) => (
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 6 }}>
        <CellCheck label={`Choose ${row.number}`} checked={chosen.some(({ id }) => id === row.id)} onChange={() => toggle(row)} />
        <Moon done={row.made} of={row.quantity} />
      </Box>
    ),
  },
  {
    name: 'Work order',
    text: (row) => row.number,
    cell: (row) => (
      <>
        <span className="code strong">{row.number}</span>
        {row.sale ? <small className="quiet name">for {row.sale.number}</small> : null}
      </>
    ),
  },
  {
    name: 'Makes',
    cell: (row) => (
      <>
        <span className="code">{row.sku}</span>
        <span className="name">{row.name}</span>
      </>
    ),
  },
  { name: 'At', wide: true, cell: (row) => <span className="quiet">{row.site}</span> },
  {
    name: 'Made',
    number: true,
    wide: true,
    cell: (row) => (
      <>
        {quantity(row.made)} of {quantity(row.quantity)}
        {Number(row.scrapped) > 0 ? <small className="quiet name">{quantity(row.scrapped)} scrapped</small> : null}
      </>
    ),
  },
  { name: 'Short', number: true, wide: true, cell: (row) => <span className="late">{quantity(row.short, true)}</span> },
  { name: 'Starts', wide: true, cell: (row) => <Due day={row.startsOn} today={today} late={false} /> },
  { name: 'Due', cell: (row) => <Due day={row.dueOn} today={today} late={row.late} /> },
  {
    name: 'State',
    wide: true,
    cell: (row) => (
      <>
        {row.state}
        {Number(row.untaken) > 0 ? <small className="late name">something used was not taken</small> : null}
      </>
    ),
  },
];

function WorkPeek({ id }: { id: number }) {
  const { data, error } = useWorkOrderQuery({ params: { id } });
  if (!data || data.id !== id) return <PeekWaiting error={error} />;
  return (
    <Card component="aside" aria-label={`About ${data.number}`}>
      <h2>
        {data.number}
        <span>
          {quantity(data.quantity)} {data.sku}
        </span>
      </h2>
      <Box sx={{ padding: '0 14px' }}>
        <StageTrack stages={data.stages} />
      </Box>
      <Table aria-label="What goes in">
        <TableBody>
          {data.lines.map((line) => (
            <TableRow key={line.id}>
              <TableCell>
                <span className="code">{line.sku}</span>
                <span className="name">{line.name}</span>
              </TableCell>
              <TableCell align="right">{quantity(line.needed)}</TableCell>
              <TableCell className={Number(line.short) > 0 ? 'late' : 'quiet'}>{howItStands(line)}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}

const howItStands = ({ short, taken, reserved }: { short: string; taken: string; reserved: string }): string => {
  if (Number(short) > 0) return `${quantity(short)} short`;
  if (Number(taken) > 0) return `${quantity(taken)} taken`;
  return Number(reserved) > 0 ? `${quantity(reserved)} reserved` : '';
};
