import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card, PageHead, Stack } from '../../kit/layout';
import { Link, Navigate, useSearchParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { quantity, shortDay } from '../../kit/format';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useItemQuery } from '../../shared/items';
import { useMeQuery } from '../../shared/me';
import { useReturnSourcesQuery } from './api';

/** Goods in hand that go back: which order they came on. When there is only one, it is taken. */
export function ReturnFromPage() {
  const [search] = useSearchParams();
  const itemId = Number(search.get('item'));
  const lotId = Number(search.get('lot')) || undefined;
  const { data: me } = useMeQuery({});
  const { data: item } = useItemQuery({ params: { id: itemId } });
  const { data, error } = useReturnSourcesQuery({ query: { itemId, lotId } });
  useTitle('Return to supplier');
  if (!data || !item || !me) return <Waiting error={error} />;
  const address = (orderId: number) => `/inbound/orders/${orderId}/return?${search.toString()}`;
  const [only, ...others] = data.rows;
  if (only && others.length === 0) return <Navigate to={address(only.orderId)} replace />;
  return (
    <Stack sx={{ maxWidth: 760 }}>
      <PageHead sx={{ margin: 0 }}>
        <h1>Return to supplier</h1>
        <span className="quiet">
          <span className="code">{item.sku}</span> {item.name}: on which order did it come?
        </span>
      </PageHead>
      {data.rows.length === 0 ? (
        <Card state component="p">
          It came on no order that is known, so there is nobody to send it back to. A correction takes it out of stock.
        </Card>
      ) : (
        <Card component="div">
          <Table aria-label="Orders it came on" className="floor">
            <TableBody>
              {data.rows.map((row) => (
                <TableRow key={row.orderId}>
                  <TableCell>
                    <Link className="code strong" to={address(row.orderId)}>
                      {row.number}
                    </Link>
                  </TableCell>
                  <TableCell>{row.supplier}</TableCell>
                  <TableCell className="quiet">{shortDay(row.day, me.company.today)}</TableCell>
                  <TableCell align="right">{quantity(row.received)} came</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Card>
      )}
      <BottomBar hint="The newest first" />
    </Stack>
  );
}
