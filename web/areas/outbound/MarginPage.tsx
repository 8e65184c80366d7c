import { marginSorts, type marginWays, type MarginRow } from '@larder/contract/margin';
import { lastOfMonth } from '@larder/core/day';
import Box from '@mui/material/Box';
import Chip from '@mui/material/Chip';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress, useSort, type Address } from '../../kit/address';
import { DayField } from '../../kit/DayField';
import { useIsRested } from '../../kit/delayed';
import { Choice } from '../../kit/Field';
import { count, money, monthName, quantity } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card } from '../../kit/layout';
import { ListPage } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useSite } from '../../shared/site';
import { useMarginInAllQuery, useMarginListInfiniteQuery } from './api';
import { OutboundWays } from '../../shared/OutboundWays';

type Way = (typeof marginWays)[number];
const ways = [
  ['order', 'By order'],
  ['line', 'By line'],
  ['item', 'By item'],
  ['customer', 'By customer'],
  ['month', 'By month'],
] as const satisfies readonly (readonly [Way, string])[];

/** What was sold and what it cost, added up in several ways; each opens into its orders. */
export function MarginPage() {
  useTitle('Margin');
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const navigate = useNavigate();
  const address = useAddress();
  const by = address.choice('by', ways);
  const sort = useSort(address, marginSorts, 'sold', 'down');
  const filter = {
    by,
    q: address.get('q'),
    from: address.get('from') || undefined,
    to: address.get('to') || undefined,
    siteId,
    customerId: Number(address.get('customer')) || undefined,
    itemId: Number(address.get('item')) || undefined,
  };
  const question = { ...filter, sort: sort.key, direction: sort.direction };
  const useList = () => useGoing(useMarginListInfiniteQuery({ query: question }));
  const { currentData: inAll } = useMarginInAllQuery({ query: filter }, { skip: !useIsRested(filter, 300) });
  const shown = useMemo(() => columns(by, inAll), [by, inAll]);
  const today = me?.company.today ?? '';
  return (
    <ListPage
      title="Margin"
      beside={<OutboundWays />}
      address={address}
      find={{ label: 'Find in what was sold', placeholder: 'Order, customer or item' }}
      filters={
        <>
          <Only address={address} />
          <Box sx={{ width: 150 }}>
            <Choice label="Added up" value={by} onChange={(way) => address.put('by', way)} options={ways.map(([value, label]) => ({ value, label }))} />
          </Box>
          <Days address={address} today={today} />
        </>
      }
      noun={by}
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ key }) => key}
      hrefOf={(row) => opens(by, row, address)}
      sort={sort}
      empty={
        <>
          Nothing has gone out yet. What was sold and what it cost will stand here, order by order. <Link to="/outbound">Look at the orders</Link>.
        </>
      }
      peek={(row) => <MarginPeek by={by} row={row} />}
      next={(row) =>
        row && {
          label: row.orderId === null ? `Orders of ${called(by, row)}` : `Open ${by === 'line' ? 'the order' : row.name}`,
          run: () => void navigate(opens(by, row, address)),
        }
      }
      actions={() => null}
    />
  );
}

/** The item or customer whose orders these are, and the way to everybody's. */
function Only({ address }: { address: Address }) {
  const only = address.get('only');
  if (only === '') return null;
  return (
    <Chip
      label={`only ${only}`}
      onDelete={() => {
        for (const name of ['only', 'customer', 'item']) address.put(name, '');
      }}
    />
  );
}

/** The first and the last day that it went out on. */
const Days = ({ address, today }: { address: Address; today: string }) => (
  <>
    <Box sx={{ width: 150 }}>
      <DayField label="Went out from" lies="behind" value={address.get('from') || null} today={today} onChange={(day) => address.put('from', day ?? '')} />
    </Box>
    <Box sx={{ width: 150 }}>
      <DayField label="to" lies="behind" value={address.get('to') || null} today={today} onChange={(day) => address.put('to', day ?? '')} />
    </Box>
  </>
);

const called = (by: Way, row: MarginRow): string => (by === 'month' ? monthName(row.name) : row.name);

/** Where a row opens: its order, or the orders that it adds up. */
function opens(by: Way, row: MarginRow, address: Address): string {
  if (row.orderId !== null) return `/outbound/orders/${row.orderId}`;
  const asked = new URLSearchParams(['q', 'from', 'to', 'customer', 'item'].flatMap((name) => (address.get(name) ? [[name, address.get(name)]] : [])));
  if (by === 'month') {
    asked.set('from', `${row.name}-01`);
    asked.set('to', lastOfMonth(row.name));
  } else {
    asked.set(by, String(row.key));
    asked.set('only', row.name);
  }
  return `/outbound/margin?${asked.toString()}`;
}

const heads: Record<Way, string> = { order: 'Order', line: 'Line', item: 'Item', customer: 'Customer', month: 'Month' };
type InAll = { sold: string; cost: string; margin: string; percent: string } | undefined;

const columns = (by: Way, inAll: InAll): Column<MarginRow>[] => [
  {
    name: heads[by],
    sort: 'name',
    text: (row) => called(by, row),
    cell: (row) => (
      <>
        <span className={by === 'customer' || by === 'month' ? 'strong' : 'code strong'}>{called(by, row)}</span>
        {row.detail ? <span className="name">{row.detail}</span> : null}
      </>
    ),
  },
  ...(by === 'order' || by === 'line' ? [] : [{ name: 'Orders', number: true, cell: (row: MarginRow) => row.orders }]),
  ...(by === 'line' || by === 'item' ? [{ name: 'Went out', number: true, cell: (row: MarginRow) => quantity(row.quantity) }] : []),
  { name: 'Sold for', sort: 'sold', number: true, cell: (row) => money(row.sold), sum: inAll && money(inAll.sold) },
  { name: 'Cost', sort: 'cost', number: true, cell: (row) => money(row.cost), sum: inAll && money(inAll.cost) },
  { name: 'Margin', sort: 'margin', number: true, cell: (row) => <b>{money(row.margin)}</b>, sum: inAll && money(inAll.margin) },
  { name: '%', number: true, wide: true, cell: (row) => <span className={Number(row.margin) < 0 ? 'late' : 'quiet'}>{row.percent}</span>, sum: inAll?.percent },
];

/** The selected row, in words. */
const MarginPeek = ({ by, row }: { by: Way; row: MarginRow }) => (
  <Card component="aside" aria-label={`About ${called(by, row)}`}>
    <h2>
      {called(by, row)}
      <span>{row.detail}</span>
    </h2>
    <p className="pad">
      Sold for <b>{money(row.sold)}</b> at a cost of <b>{money(row.cost)}</b>
      {row.percent === '' ? '' : `: ${row.percent} % of it is margin`}.
    </p>
    <p className="pad quiet">
      {row.orderId === null ? `${count(row.orders, 'order')}; Enter opens them.` : 'Enter opens the order.'} What went out counts on the day it did; an undo, on
      its own.
    </p>
  </Card>
);
