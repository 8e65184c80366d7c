import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card, FactList, PageHead, Split, Stack } from '../../kit/layout';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { breaksText } from '@larder/core/inbound/terms';
import type { getSupplier } from '@larder/contract/inbound';
import type { ResponseOf } from '@larder/contract/endpoint';
import { BottomBar } from '../../kit/BottomBar';
import { count, due, money, price, quantity } from '../../kit/format';
import { ListTable } from '../../kit/ListTable';
import { PriceSteps } from '../../kit/PriceSteps';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useSupplierQuery } from './api';
import { SupplierTerms } from './SupplierTerms';

type Supplier = ResponseOf<typeof getSupplier>;

/** A supplier: terms, what we buy and at which prices, what is on order, how punctual and complete it is, and what we owe. */
export function SupplierPage() {
  const { id = '' } = useParams();
  const navigate = useNavigate();
  const { data, error } = useSupplierQuery({ params: { id: Number(id) } });
  const { data: me } = useMeQuery({});
  const [chosen, setChosen] = useState(0);
  const [changing, setChanging] = useState(false);
  useTitle(data?.name ?? 'Supplier');
  if (!data || !me) return <Waiting error={error} />;
  const { today, currency } = me.company;
  const item = data.items[chosen];
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>{data.name}</h1>
          <span className="quiet">{data.email}</span>
        </PageHead>
        {changing ? <SupplierTerms supplier={data} done={() => setChanging(false)} /> : <Figures supplier={data} currency={currency} />}
        <Card aria-label="On order">
          <h2>
            On order<span>{data.orders.length === 0 ? 'nothing' : count(data.orders.length, 'open order')}</span>
          </h2>
          <Table>
            <TableBody>
              {data.orders.map((order) => (
                <TableRow key={order.id}>
                  <TableCell>
                    <Link to={`/inbound/orders/${order.id}`} className="code strong">
                      {order.number}
                    </Link>
                  </TableCell>
                  <TableCell className="quiet">to {order.site}</TableCell>
                  <TableCell className={order.late ? 'late' : ''}>{due(order.expectedOn, today)}</TableCell>
                  <TableCell align="right">{quantity(order.outstanding)} still to come</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Card>
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
          rows={data.items}
          keyOf={({ itemId }) => itemId}
          selected={chosen}
          select={setChosen}
          open={({ itemId }) => void navigate(`/items/${itemId}`)}
          empty="No item names this supplier yet. Give it on the item's own page."
        />
      </Stack>
      {item ? (
        <Card aria-label={`Prices of ${item.sku}`}>
          <h2>
            {item.sku}
            <span>what one {item.unit} was ordered at</span>
          </h2>
          <div className="pad">
            <PriceSteps today={today} prices={item.prices} />
          </div>
        </Card>
      ) : null}
      <BottomBar hint="Arrow keys move through what we buy here">
        <Button onClick={() => setChanging(true)}>Change terms</Button>
        <Button component={Link} to={`/books/bills/new?party=${data.id}&name=${encodeURIComponent(data.name)}`}>
          Enter a bill
        </Button>
      </BottomBar>
    </Split>
  );
}

const owed = (all: string, late: string, currency: string): [string, string, string] => [
  'We owe',
  `${money(all)} ${currency}`,
  Number(late) > 0 ? `${money(late)} of it late` : 'none of it late',
];

function Figures({ supplier, currency }: { supplier: Supplier; currency: string }) {
  const { lines, onTime, inFull } = supplier.punctual;
  const share = (of: number) => (lines === 0 ? 'no line due yet' : `${Math.round((100 * of) / lines)} % of ${count(lines, 'line')}`);
  const facts: [string, string, string?][] = [
    ['Delivered on time and in full', share(onTime), 'in the last year'],
    ['Delivered in full', share(inFull), 'in the last year'],
    ['Delivery time', supplier.usualDays === null ? `${supplier.leadDays} days agreed` : `${supplier.usualDays} days usually`, `${supplier.leadDays} agreed`],
    ...(supplier.owed === null || supplier.overdue === null ? [] : [owed(supplier.owed, supplier.overdue, currency)]),
  ];
  return (
    <Card pad>
      <FactList>
        {facts.map(([name, value, more]) => (
          <div key={name}>
            <dt className="quiet">{name}</dt>
            <dd className="strong">{value}</dd>
            <dd className={more?.endsWith('of it late') && !more.startsWith('none') ? 'late' : 'quiet'}>{more}</dd>
          </div>
        ))}
      </FactList>
    </Card>
  );
}
