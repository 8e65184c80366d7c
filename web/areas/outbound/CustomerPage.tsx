import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { Due } from '../../kit/Due';
import { money, price, quantity, shortDay } from '../../kit/format';
import { Card, Split } from '../../kit/layout';
import { ListTable } from '../../kit/ListTable';
import { Moon } from '../../kit/Moon';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { May } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { PartyContact } from '../../shared/PartyList';
import { PartySheet } from '../../shared/PartySheet';
import { usePartyQuery } from '../../shared/reference';
import { useGoing } from '../../kit/going';
import { useCustomerItemsQuery, useSaleListInfiniteQuery } from './api';
import { CustomerCodes } from './CustomerCodes';

const pageOf = (id: number) => `/outbound/customers/${id}`;

/** A customer: its orders, what it buys, and its facts. `new` adds one. */
export function CustomerPage() {
  const { id = 'new' } = useParams();
  const isNew = id === 'new';
  const { currentData: party, error } = usePartyQuery({ params: { id: Number(id) } }, { skip: isNew });
  const { data: me } = useMeQuery({});
  useTitle(isNew ? 'New customer' : (party?.name ?? 'Customer'));
  if (isNew) return <PartySheet key="new" party={null} as="customer" pageOf={pageOf} parts={[]} />;
  if (!me || party?.id !== Number(id)) return <Waiting error={error} />;
  return (
    <PartySheet
      key={id}
      party={party}
      as="customer"
      pageOf={pageOf}
      parts={[
        [
          'orders',
          'Orders',
          <Split key="orders">
            <Orders customerId={party.id} today={me.company.today} />
            <Card aria-label="How to reach them">
              <h2>How to reach them</h2>
              <PartyContact party={party} />
            </Card>
          </Split>,
        ],
        ['items', 'What they buy', <Bought key="items" customerId={party.id} today={me.company.today} />],
        ['codes', 'Their codes', <CustomerCodes key="codes" customerId={party.id} name={party.name} />],
      ]}
      actions={
        <>
          <Button component={Link} to={`/outbound/returns?${new URLSearchParams({ customer: String(party.id), only: party.name })}`}>
            Returns
          </Button>
          <May to="outbound.return">
            <Button component={Link} to={`/outbound/returns/new?customer=${party.id}`}>
              Goods come back
            </Button>
          </May>
          <May to="outbound.sell">
            <Button component={Link} to={`/outbound/orders/new?customer=${party.id}`}>
              New quote
            </Button>
          </May>
        </>
      }
    />
  );
}

/** The orders of a customer, the last one first. */
function Orders({ customerId, today }: { customerId: number; today: string }) {
  const navigate = useNavigate();
  const [chosen, setChosen] = useState(0);
  const list = useGoing(useSaleListInfiniteQuery({ query: { customerId, show: 'all' } }));
  if (!list.rows) return <Waiting error={list.error} />;
  return (
    <ListTable
      label="Orders"
      columns={[
        { name: '', cell: (row) => <Moon done={row.dispatched} of={row.ordered} /> },
        {
          name: 'Order',
          text: (row) => row.number,
          cell: (row) => (
            <Link className="code strong" to={`/outbound/orders/${row.id}`}>
              {row.number}
            </Link>
          ),
        },
        { name: 'Their number', wide: true, cell: (row) => row.reference },
        { name: 'From', wide: true, cell: (row) => row.site },
        { name: 'State', wide: true, cell: (row) => row.state },
        { name: 'Gone', number: true, cell: (row) => `${quantity(row.dispatched)} of ${quantity(row.ordered)}` },
        { name: 'Ship by', cell: (row) => <Due day={row.shipBy} today={today} late={row.late} /> },
        { name: 'Goods', number: true, cell: (row) => money(row.amount) },
      ]}
      rows={list.rows}
      more={list.hasMore ? list.more : undefined}
      keyOf={({ id }) => id}
      selected={chosen}
      select={setChosen}
      open={({ id }) => void navigate(`/outbound/orders/${id}`)}
      empty="No quote and no order yet."
    />
  );
}

/** What went out to a customer, item by item. */
function Bought({ customerId, today }: { customerId: number; today: string }) {
  const navigate = useNavigate();
  const [chosen, setChosen] = useState(0);
  const { data, error } = useCustomerItemsQuery({ params: { id: customerId } });
  if (!data) return <Waiting error={error} />;
  return (
    <ListTable
      label="What they buy"
      columns={[
        { name: 'Item', text: (row) => row.sku, cell: (row) => <span className="code strong">{row.sku}</span> },
        { name: 'Name', cell: (row) => row.name },
        { name: 'Sent', number: true, cell: (row) => `${quantity(row.quantity)} ${row.unit === 'each' ? '' : row.unit}` },
        { name: 'Ordered last', cell: (row) => shortDay(row.lastOn, today) },
        { name: 'Price then', number: true, cell: (row) => price(row.lastPrice) },
      ]}
      rows={data.rows}
      keyOf={({ itemId }) => itemId}
      selected={chosen}
      select={setChosen}
      open={({ itemId }) => void navigate(`/items/${itemId}`)}
      empty="Nothing has gone to them yet."
    />
  );
}
