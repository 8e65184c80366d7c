import { Link, useNavigate } from 'react-router';
import { useState } from 'react';
import { Due } from '../../kit/Due';
import { amount, quantity } from '../../kit/format';
import { ListTable } from '../../kit/ListTable';
import { Moon } from '../../kit/Moon';
import { Waiting } from '../../kit/states';
import { useGoing } from '../../kit/going';
import { usePurchaseListInfiniteQuery } from './api';

/** The orders of a supplier, the last one first. */
export function SupplierOrders({ supplierId, today, own }: { supplierId: number; today: string; own: string }) {
  const navigate = useNavigate();
  const [chosen, setChosen] = useState(0);
  const list = useGoing(usePurchaseListInfiniteQuery({ query: { supplierId, show: 'all' } }));
  if (!list.rows) return <Waiting error={list.error} />;
  return (
    <ListTable
      label="Orders"
      columns={[
        { name: '', cell: (row) => <Moon done={row.received} of={row.ordered} /> },
        {
          name: 'Order',
          text: (row) => row.number,
          cell: (row) => (
            <Link className="code strong" to={`/inbound/orders/${row.id}`}>
              {row.number}
            </Link>
          ),
        },
        { name: 'To', wide: true, cell: (row) => row.shipsTo ?? row.site },
        { name: 'State', cell: (row) => row.state },
        { name: 'Received', number: true, cell: (row) => `${quantity(row.received)} of ${quantity(row.ordered)}` },
        {
          name: 'Due',
          cell: (row) => <Due day={row.expectedOn} today={today} late={row.late} />,
        },
        { name: 'Amount', number: true, cell: (row) => `${amount(row.amount)} ${row.currency === own ? '' : row.currency}` },
      ]}
      rows={list.rows}
      more={list.hasMore ? list.more : undefined}
      keyOf={({ id }) => id}
      selected={chosen}
      select={setChosen}
      open={({ id }) => void navigate(`/inbound/orders/${id}`)}
      empty="Nothing was ordered here yet."
    />
  );
}
