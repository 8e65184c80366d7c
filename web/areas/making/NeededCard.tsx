import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { quantity } from '../../kit/format';
import { Card, Stack } from '../../kit/layout';
import { PeekWaiting } from '../../kit/ListPage';
import { useCanMakeItemQuery } from './api';

/** What is missing for one more than can be made. */
export function NeededCard({ itemId, siteId }: { itemId: number; siteId: number }) {
  const { data, error } = useCanMakeItemQuery({ params: { id: itemId }, query: { siteId } });
  if (!data || data.itemId !== itemId) return <PeekWaiting error={error} />;
  const missing = data.rows.filter((row) => Number(row.missing) > 0);
  return (
    <Card component="aside" aria-label={`About ${data.sku}`}>
      <h2>
        {data.sku}
        <span>{data.name}</span>
      </h2>
      <Stack pad>
        {data.canMake === null ? 'Nothing that is kept in stock limits it.' : `${quantity(data.canMake)} can be made. For ${quantity(data.quantity)}:`}
      </Stack>
      <Table aria-label="Missing">
        <TableBody>
          {missing.map((row) => (
            <TableRow key={row.itemId}>
              <TableCell>
                <span className="code">{row.sku}</span>
                <span className="name">{row.name}</span>
              </TableCell>
              <TableCell align="right">
                <span className="late">{quantity(row.missing)} missing</span>
                <small className="quiet name">
                  {quantity(row.free)} free of {quantity(row.needed)}
                </small>
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
