import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { money, shortDay } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { ListTable } from '../../kit/ListTable';
import { Waiting } from '../../kit/states';
import { useSeesCosts } from '../../shared/may';
import { useReturnsInfiniteQuery } from '../../shared/returns';

/** What a customer brought back, or will, the last first. */
export function CustomerReturns({ customerId, today }: { customerId: number; today: string }) {
  const navigate = useNavigate();
  const [selected, select] = useState(0);
  const seesCosts = useSeesCosts();
  const list = useGoing(useReturnsInfiniteQuery({ query: { customerId, show: 'all' } }));
  if (!list.rows) return <Waiting error={list.error} />;
  return (
    <ListTable
      label="Returns"
      columns={[
        {
          name: 'Return',
          text: (row) => row.number,
          cell: (row) => (
            <Link className="code strong" to={`/outbound/returns/${row.id}`}>
              {row.number}
            </Link>
          ),
        },
        { name: 'Day', cell: (row) => shortDay(row.cameOn, today) },
        { name: 'Items', cell: (row) => <span className="code">{row.items}</span> },
        { name: 'Orders', wide: true, cell: (row) => <span className="code quiet">{row.orders}</span> },
        { name: 'State', cell: (row) => (row.toCredit ? <b>to credit</b> : row.state) },
        ...(seesCosts
          ? [{ name: 'Worth', number: true, wide: true, cell: (row: { state: string; worth: string }) => (row.state === 'received' ? money(row.worth) : '') }]
          : []),
      ]}
      rows={list.rows}
      more={list.hasMore ? list.more : undefined}
      keyOf={({ id }) => id}
      selected={selected}
      select={select}
      open={({ id }) => void navigate(`/outbound/returns/${id}`)}
      empty="Nothing has come back from them."
    />
  );
}
