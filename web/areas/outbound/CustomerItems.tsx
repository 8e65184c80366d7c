import { useState } from 'react';
import { useNavigate } from 'react-router';
import { CellCheck } from '../../kit/Check';
import { price, quantity, shortDay } from '../../kit/format';
import { ListTable } from '../../kit/ListTable';
import { Waiting } from '../../kit/states';
import { useCustomerItemsQuery } from './api';

interface CustomerItemsProps {
  customerId: number;
  today: string;
  /** The currency of the business. */
  own: string;
  /** Ids of items that are chosen to be ordered again. */
  chosen: readonly number[];
  choose: (itemIds: readonly number[]) => void;
}

/** What went out to a customer, item by item; those that are chosen are ordered again as they were last. */
export function CustomerItems({ customerId, today, own, chosen, choose }: CustomerItemsProps) {
  const navigate = useNavigate();
  const [selected, select] = useState(0);
  const { data, error } = useCustomerItemsQuery({ params: { id: customerId } });
  if (!data) return <Waiting error={error} />;
  const set = (itemIds: readonly number[], on: boolean) => {
    const others = chosen.filter((itemId) => !itemIds.includes(itemId));
    choose(on ? [...others, ...data.rows.filter(({ itemId, sold }) => sold && itemIds.includes(itemId)).map(({ itemId }) => itemId)] : others);
  };
  return (
    <ListTable
      label="What they buy"
      columns={[
        {
          name: '',
          cell: (row) =>
            row.sold ? (
              <CellCheck
                label={`Order ${row.sku} again`}
                checked={chosen.includes(row.itemId)}
                onChange={() => set([row.itemId], !chosen.includes(row.itemId))}
              />
            ) : null,
        },
        { name: 'Item', text: (row) => row.sku, cell: (row) => <span className="code strong">{row.sku}</span> },
        { name: 'Name', cell: (row) => row.name },
        { name: 'Orders in a year', number: true, wide: true, cell: (row) => row.times },
        { name: 'Sent in all', number: true, wide: true, cell: (row) => `${quantity(row.quantity)} ${row.unit === 'each' ? '' : row.unit}` },
        { name: 'Ordered last', wide: true, cell: (row) => shortDay(row.lastOn, today) },
        { name: 'Then', number: true, cell: (row) => `${quantity(row.lastQuantity)} ${row.lastUnit === 'each' ? '' : row.lastUnit}` },
        { name: 'At', number: true, wide: true, cell: (row) => `${price(row.lastPrice)} ${row.currency === own ? '' : row.currency}` },
      ]}
      rows={data.rows}
      keyOf={({ itemId }) => itemId}
      selected={selected}
      select={select}
      choosing={{
        has: ({ itemId }) => chosen.includes(itemId),
        set: (rows, on) =>
          set(
            rows.map(({ itemId }) => itemId),
            on,
          ),
      }}
      open={({ itemId }) => void navigate(`/items/${itemId}`)}
      empty="Nothing has gone to them yet."
    />
  );
}
