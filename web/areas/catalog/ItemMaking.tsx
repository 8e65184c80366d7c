import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { Item } from '@larder/contract/catalog';
import { Link } from 'react-router';
import { quantity, shortDay } from '../../kit/format';
import { Card, Columns, Stack } from '../../kit/layout';
import { Waiting } from '../../kit/states';
import { useWhereUsedQuery } from '../../shared/making';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useWorkOrdersInfiniteQuery } from '../../shared/workOrders';
import { useGoing } from '../../kit/going';

/** What an item is made of, by its bills, and what it goes into over all levels. */
export function ItemMaking({ item }: { item: Item }) {
  const may = useMay('making.write', null);
  const { data: me } = useMeQuery({});
  const { data, error } = useWhereUsedQuery({ params: { id: item.id } });
  if (!data) return <Waiting error={error} />;
  const isMade = data.boms.some(({ state }) => state === 'in use');
  const today = me?.company.today ?? '';
  return (
    <Columns>
      <Card aria-label="Made of">
        <h2>
          Made of<span>its bills of materials</span>
        </h2>
        <Table aria-label="Bills of materials">
          <TableBody>
            {data.boms.map((bom) => (
              <TableRow key={bom.id}>
                <TableCell>
                  <Link to={`/making/boms/${bom.id}`}>Version {bom.number}</Link> {bom.name}
                </TableCell>
                <TableCell className="quiet">from {shortDay(bom.startsOn, today)}</TableCell>
                <TableCell align="right">{bom.state}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
        <Stack pad>
          {data.boms.length === 0 ? <span className="quiet">It is not made here, but bought.</span> : null}
          {isMade ? <Link to={`/making/items/${item.id}`}>How many can be made</Link> : null}
          {may ? <Link to={`/making/boms/new?item=${item.id}`}>{data.boms.length === 0 ? 'Say what it is made of' : 'Write another version'}</Link> : null}
        </Stack>
      </Card>
      {isMade ? <BeingMade itemId={item.id} today={today} /> : null}
      <Card aria-label="Goes into">
        <h2>
          Goes into<span>by the bills in use</span>
        </h2>
        <Table aria-label="Goes into">
          <TableBody>
            {data.rows.map((row) => (
              <TableRow key={row.itemId}>
                <TableCell>
                  <Link className="code" to={`/making/boms/${row.bomId}`}>
                    {row.sku}
                  </Link>
                  <span className="name">{row.name}</span>
                </TableCell>
                <TableCell align="right">
                  {quantity(row.quantity)} {item.unit === 'each' ? '' : item.unit} in one
                  {row.level > 1 ? <small className="quiet name">over {row.level} levels</small> : null}
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
        {data.rows.length === 0 ? (
          <Stack pad>
            <span className="quiet">Nothing that is made takes it.</span>
          </Stack>
        ) : null}
      </Card>
    </Columns>
  );
}

/** Open work orders of it. */
function BeingMade({ itemId, today }: { itemId: number; today: string }) {
  const [mayPlan, mayRecord] = [useMay('making.plan'), useMay('making.record')];
  const { rows = [] } = useGoing(useWorkOrdersInfiniteQuery({ query: { itemId, show: 'open' } }));
  return (
    <Card aria-label="Being made">
      <h2>
        Being made<span>open work orders</span>
      </h2>
      <Table aria-label="Being made">
        <TableBody>
          {rows.map((row) => (
            <TableRow key={row.id}>
              <TableCell>
                <Link className="code" to={`/making/orders/${row.id}`}>
                  {row.number}
                </Link>
                <span className="name">{row.site}</span>
              </TableCell>
              <TableCell>{row.state}</TableCell>
              <TableCell align="right">
                {quantity(row.made)} of {quantity(row.quantity)}
                <small className={row.late ? 'late name' : 'quiet name'}>due {shortDay(row.dueOn, today)}</small>
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Stack pad>
        {rows.length === 0 ? <span className="quiet">None of it is being made.</span> : null}
        {mayPlan ? <Link to={`/making/orders/new?item=${itemId}`}>Plan work</Link> : null}
        {mayRecord ? <Link to={`/making/apart/new?item=${itemId}`}>Take apart</Link> : null}
        <Link to={`/making/orders?show=all&item=${itemId}&only=this item`}>All its work orders</Link>
      </Stack>
    </Card>
  );
}
