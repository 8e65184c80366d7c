import Button from '@mui/material/Button';
import { Figures, owing, type Figure } from '../../kit/Figures';
import { Card, Split, Stack } from '../../kit/layout';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { breaksText } from '@larder/core/inbound/terms';
import type { getSupplier } from '@larder/contract/inbound';
import type { ResponseOf } from '@larder/contract/endpoint';
import { count, price, quantity } from '../../kit/format';
import { ListTable } from '../../kit/ListTable';
import { PriceSteps } from '../../kit/PriceSteps';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { May } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { PartyContact } from '../../shared/PartyList';
import { PartySheet } from '../../shared/PartySheet';
import { usePartyQuery } from '../../shared/reference';
import { useSupplierQuery } from './api';
import { SupplierOrders } from './SupplierOrders';

type Supplier = ResponseOf<typeof getSupplier>;
const pageOf = (id: number) => `/inbound/suppliers/${id}`;

/** A supplier: what we buy and at which prices, its orders, how punctual and complete it is, what we owe; and its facts. `new` adds one. */
export function SupplierPage() {
  const { id = 'new' } = useParams();
  const isNew = id === 'new';
  const { currentData: data, error } = useSupplierQuery({ params: { id: Number(id) } }, { skip: isNew });
  const { currentData: party } = usePartyQuery({ params: { id: Number(id) } }, { skip: isNew });
  const { data: me } = useMeQuery({});
  useTitle(isNew ? 'New supplier' : (data?.name ?? 'Supplier'));
  if (isNew) return <PartySheet key="new" party={null} as="supplier" pageOf={pageOf} parts={[]} />;
  if (!data || !me || party?.id !== Number(id)) return <Waiting error={error} />;
  const { today, currency } = me.company;
  return (
    <PartySheet
      key={id}
      party={party}
      as="supplier"
      pageOf={pageOf}
      parts={[
        [
          'about',
          'What we buy',
          <Split key="about">
            <Stack>
              <Figures of={figuresOf(data, currency)} />
              <Bought supplier={data} today={today} />
            </Stack>
            <Card aria-label="How to reach them">
              <h2>How to reach them</h2>
              <PartyContact party={party} />
            </Card>
          </Split>,
        ],
        ['orders', 'Orders', <SupplierOrders key="orders" supplierId={data.id} today={today} own={currency} />],
      ]}
      actions={
        <>
          <May to="inbound.order">
            <Button component={Link} to="/inbound/orders/new">
              New order
            </Button>
          </May>
          <May to="books.bill">
            <Button component={Link} to={`/books/bills/new?party=${data.id}&name=${encodeURIComponent(data.name)}`}>
              Enter a bill
            </Button>
          </May>
        </>
      }
    />
  );
}

/** What is bought from a supplier, and how the price of the chosen item went. */
function Bought({ supplier, today }: { supplier: Supplier; today: string }) {
  const navigate = useNavigate();
  const [chosen, setChosen] = useState(0);
  const item = supplier.items[chosen];
  return (
    <>
      <ListTable
        label="What we buy here"
        columns={[
          { name: 'Item', cell: (row) => <span className="code strong">{row.sku}</span> },
          { name: 'Name', cell: (row) => row.name },
          { name: 'Their code', wide: true, cell: (row) => <span className="code quiet">{row.code}</span> },
          { name: 'Pack', number: true, wide: true, cell: (row) => quantity(row.packSize) },
          { name: 'Minimum', number: true, wide: true, cell: (row) => quantity(row.minimum, true) },
          { name: 'Price', number: true, cell: (row) => (row.price === null ? '' : price(row.price)) },
          { name: 'From so many', wide: true, cell: (row) => <span className="quiet">{breaksText(row.breaks)}</span> },
        ]}
        rows={supplier.items}
        keyOf={({ itemId }) => itemId}
        selected={chosen}
        select={setChosen}
        open={({ itemId }) => void navigate(`/items/${itemId}`)}
        empty="No item names this supplier yet. Give it on the item's own page, under Suppliers."
      />
      {item ? (
        <Card aria-label={`Prices of ${item.sku}`}>
          <h2>
            {item.sku}
            <span>what one {item.unit === 'each' ? '' : item.unit} was ordered at</span>
          </h2>
          <div className="pad">
            <PriceSteps today={today} prices={item.prices} />
          </div>
        </Card>
      ) : null}
    </>
  );
}

/** How punctual a supplier is, and what we owe them. */
function figuresOf(supplier: Supplier, currency: string): Figure[] {
  const { lines, onTime, inFull } = supplier.punctual;
  const share = (of: number) => (lines === 0 ? 'no line due yet' : `${Math.round((100 * of) / lines)} % of ${count(lines, 'line')}`);
  const { usualDays, leadDays } = supplier;
  return [
    { name: 'Delivered on time and in full', value: share(onTime), more: 'in the last year' },
    { name: 'Delivered in full', value: share(inFull), more: 'in the last year' },
    { name: 'Delivery time', value: usualDays === null ? `${leadDays} days agreed` : `${usualDays} days usually`, more: `${leadDays} agreed` },
    ...(supplier.owed === null || supplier.overdue === null ? [] : [owing('We owe', supplier.owed, supplier.overdue, currency)]),
  ];
}
