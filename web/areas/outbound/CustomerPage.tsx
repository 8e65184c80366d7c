import Button from '@mui/material/Button';
import { decimal } from '@larder/core/decimal';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { Due } from '../../kit/Due';
import { Figures, owing } from '../../kit/Figures';
import { amount, count, money, quantity } from '../../kit/format';
import { Card, Split, Stack } from '../../kit/layout';
import { ListTable } from '../../kit/ListTable';
import { Moon } from '../../kit/Moon';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { May, useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { PartyContact } from '../../shared/PartyList';
import { PartySheet } from '../../shared/PartySheet';
import { usePartyQuery } from '../../shared/reference';
import { useGoing } from '../../kit/going';
import { useCustomerStandingQuery, useSaleListInfiniteQuery } from './api';
import { CustomerCodes } from './CustomerCodes';
import { CustomerItems } from './CustomerItems';
import { CustomerReturns } from './CustomerReturns';

const pageOf = (id: number) => `/outbound/customers/${id}`;

/** A customer: how they stand, their orders, what they buy and brought back, and their facts. `new` adds one. */
export function CustomerPage() {
  const { id = 'new' } = useParams();
  const isNew = id === 'new';
  const { currentData: party, error } = usePartyQuery({ params: { id: Number(id) } }, { skip: isNew });
  const { data: me } = useMeQuery({});
  const navigate = useNavigate();
  const maySell = useMay('outbound.sell');
  const [chosen, setChosen] = useState<readonly number[]>([]);
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
            <Stack>
              <StandingCard customerId={party.id} currency={me.company.currency} />
              <Orders customerId={party.id} today={me.company.today} own={me.company.currency} />
            </Stack>
            <Card aria-label="How to reach them">
              <h2>How to reach them</h2>
              <PartyContact party={party} />
            </Card>
          </Split>,
        ],
        [
          'items',
          'What they buy',
          <CustomerItems key="items" customerId={party.id} today={me.company.today} own={me.company.currency} chosen={chosen} choose={setChosen} />,
        ],
        ['returns', 'Returns', <CustomerReturns key="returns" customerId={party.id} today={me.company.today} />],
        ['codes', 'Their codes', <CustomerCodes key="codes" customerId={party.id} name={party.name} />],
      ]}
      next={
        chosen.length > 0 && maySell
          ? {
              label: `New quote of ${count(chosen.length, 'item')}`,
              run: () => void navigate(`/outbound/orders/new?customer=${party.id}&again=${chosen.join(',')}`),
            }
          : undefined
      }
      actions={
        <>
          <May to="outbound.return">
            <Button component={Link} to={`/outbound/returns/new?customer=${party.id}`}>
              Goods come back
            </Button>
          </May>
          <May to="books.invoice">
            <Button component={Link} to={`/books/debtors/${party.id}`}>
              Account
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
function Orders({ customerId, today, own }: { customerId: number; today: string; own: string }) {
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
        { name: 'Gone', number: true, wide: true, cell: (row) => `${quantity(row.dispatched)} of ${quantity(row.ordered)}` },
        { name: 'Ship by', cell: (row) => <Due day={row.shipBy} today={today} late={row.late} /> },
        { name: 'Goods', number: true, cell: (row) => `${amount(row.amount)} ${row.currency === own ? '' : row.currency}` },
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

/** What a customer owes, and how much they may. */
function StandingCard({ customerId, currency }: { customerId: number; currency: string }) {
  const { currentData: data } = useCustomerStandingQuery({ params: { id: customerId } });
  if (!data) return null;
  const { owed, overdue, ordered, limit } = data;
  const orders = {
    name: 'Orders',
    value: `${count(data.yearsOrders, 'order')} in a year`,
    more: data.openOrders === 0 ? 'none open' : `${data.openOrders} open`,
  };
  if (owed === null || overdue === null || ordered === null) return <Figures of={[orders]} />;
  const left = limit === null ? null : decimal(limit).minus(owed).minus(ordered);
  return (
    <Figures
      of={[
        orders,
        owing('They owe', owed, overdue, currency),
        { name: 'Ordered beyond that', value: `${money(ordered)} ${currency}`, more: 'confirmed and not invoiced, with tax' },
        left === null
          ? { name: 'Credit limit', value: 'none' }
          : {
              name: 'Credit limit',
              value: `${money(limit ?? '0')} ${currency}`,
              more: left.lt(0) ? `${money(left.neg().toFixed(2))} beyond it` : `${money(left.toFixed(2))} left`,
              late: left.lt(0),
            },
      ]}
    />
  );
}
