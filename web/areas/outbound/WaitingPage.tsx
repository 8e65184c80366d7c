import Button from '@mui/material/Button';
import type { WaitingLine } from '@larder/contract/gaps';
import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { AddressTabs } from '../../kit/AddressTabs';
import { CellCheck } from '../../kit/Check';
import { useIsRested } from '../../kit/delayed';
import { Due } from '../../kit/Due';
import { count, quantity, shortDay } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { ListPage } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { useLayout } from '../../shared/layouts';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useSite } from '../../shared/site';
import { StockPeek } from '../../shared/StockPeek';
import { useWaitingInAllQuery, useWaitingLinesInfiniteQuery } from './api';
import { OutboundWays } from '../../shared/OutboundWays';

const shows = [
  ['short', 'Short'],
  ['to-order', 'To order straight'],
  ['ordered', 'Suppliers are sending'],
] as const;

/** Lines of confirmed orders that wait for goods; several are seen to at once. */
export function WaitingPage() {
  useTitle('Lines that wait');
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const navigate = useNavigate();
  const address = useAddress();
  const laying = useLayout('waiting', null);
  const show = address.choice('show', shows);
  const question = { show, q: address.get('q'), siteId };
  const useList = () => useGoing(useWaitingLinesInfiniteQuery({ query: question }));
  const { currentData: inAll } = useWaitingInAllQuery({ query: question }, { skip: !useIsRested(question, 300) });
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const mayOrder = useMay('inbound.order');
  const mayTransfer = useMay('stock.transfer');
  const today = me?.company.today ?? '';
  const shown = useMemo(() => {
    const toggle = (id: number) => setChosen((now) => (now.includes(id) ? now.filter((one) => one !== id) : [...now, id]));
    return columns(show, today, chosen, toggle);
  }, [show, today, chosen]);
  const direct = (ids: readonly number[]) => `/outbound/direct?lines=${ids.join(',')}`;
  return (
    <ListPage
      title="Lines that wait"
      beside={<OutboundWays />}
      address={address}
      laying={laying}
      find={{ label: 'Find lines', placeholder: 'Order, customer or item' }}
      filters={<AddressTabs label="Which lines" address={address} name="show" options={shows} />}
      noun="line"
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ lineId }) => lineId}
      hrefOf={({ orderId }) => `/outbound/orders/${orderId}`}
      choosing={{
        has: ({ lineId }) => chosen.includes(lineId),
        set: (rows, on) => {
          const ids = rows.map(({ lineId }) => lineId);
          setChosen((now) => (on ? [...new Set([...now, ...ids])] : now.filter((id) => !ids.includes(id))));
        },
      }}
      empty={
        show === 'short'
          ? 'No line is short: whatever is ordered is on the shelf, or on its way straight to the customer.'
          : 'No line waits for a supplier to send it.'
      }
      peek={({ itemId }) => <StockPeek itemId={itemId} siteId={siteId} />}
      next={(row) =>
        mayOrder && chosen.length > 0
          ? { label: `Order ${count(chosen.length, 'line')} straight`, run: () => void navigate(direct(chosen)) }
          : row && { label: `Open ${row.number}`, run: () => void navigate(`/outbound/orders/${row.orderId}`) }
      }
      actions={(row) => (
        <>
          {chosen.length > 0 ? <Button onClick={() => setChosen([])}>Choose none</Button> : null}
          {mayTransfer && show === 'short' && (chosen.length > 0 || row) ? (
            <Button component={Link} to={`/stock/transfers/new?lines=${(chosen.length > 0 ? chosen : row ? [row.lineId] : []).join(',')}`}>
              Bring {chosen.length > 0 ? count(chosen.length, 'line') : (row?.sku ?? '')} from another site
            </Button>
          ) : null}
          {row && mayOrder && chosen.length === 0 && show !== 'ordered' ? (
            <Button component={Link} to={direct([row.lineId])}>
              Order {row.sku} straight from a supplier
            </Button>
          ) : null}
        </>
      )}
    />
  );
}

const columns = (show: (typeof shows)[number][0], today: string, chosen: readonly number[], toggle: (id: number) => void): Column<WaitingLine>[] => [
  {
    name: '',
    cell: ({ lineId, sku, number }) => <CellCheck label={`Choose ${sku} for ${number}`} checked={chosen.includes(lineId)} onChange={() => toggle(lineId)} />,
  },
  {
    name: 'Item',
    text: (row) => row.sku,
    cell: (row) => (
      <>
        <span className="code strong">{row.sku}</span> <span className="name">{row.name}</span>
      </>
    ),
  },
  { name: 'Order', cell: (row) => <span className="code">{row.number}</span> },
  { name: 'Customer', cell: (row) => row.customer },
  { name: 'From', wide: true, cell: (row) => <span className="quiet">{row.site}</span> },
  ...(show === 'short'
    ? ([
        { name: 'Short', number: true, cell: (row) => <span className="late">{quantity(row.short)}</span> },
        { name: 'Reserved', number: true, wide: true, cell: (row) => quantity(row.reserved, true) },
        {
          name: 'Next comes',
          wide: true,
          cell: (row) => (row.comesOn === null ? <span className="quiet">nothing on order</span> : shortDay(row.comesOn, today)),
        },
        { name: 'Promised', wide: true, cell: (row) => (row.promisedOn === null ? '' : shortDay(row.promisedOn, today)) },
      ] satisfies Column<WaitingLine>[])
    : ([
        { name: 'Straight', number: true, cell: (row) => quantity(row.direct) },
        { name: 'On order', number: true, cell: (row) => quantity(row.ordered, true) },
      ] satisfies Column<WaitingLine>[])),
  { name: 'Ship', cell: (row) => <Due day={row.shipBy} today={today} late={row.late} /> },
];
