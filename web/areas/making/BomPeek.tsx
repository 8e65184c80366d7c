import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { Bom } from '@larder/contract/making';
import { quantity } from '../../kit/format';
import { Card } from '../../kit/layout';
import { PeekWaiting } from '../../kit/ListPage';
import { useBomQuery } from './api';

/** What the selected bill is about: what so many of an item are made of. */
export function BomPeek({ id }: { id: number }) {
  const { data, error } = useBomQuery({ params: { id } });
  if (!data || data.id !== id) return <PeekWaiting error={error} />;
  return (
    <Card component="aside" aria-label={`About ${data.sku}`}>
      <h2>
        {data.sku}
        <span>{data.name}</span>
      </h2>
      <Parts bom={data} />
    </Card>
  );
}

const Parts = ({ bom }: { bom: Bom }) => (
  <Table aria-label={`Parts for ${quantity(bom.makes)} ${bom.sku}`}>
    <TableBody>
      {bom.parts.map((part) => (
        <TableRow key={part.itemId}>
          <TableCell>
            <span className="code">{part.sku}</span>
            <span className="name">{part.name}</span>
            {part.alternatives.map((one) => (
              <small key={one.itemId} className="quiet name">
                or {quantity(one.quantity)} of {one.sku}
              </small>
            ))}
          </TableCell>
          <TableCell align="right">
            {quantity(part.quantity)} {part.writtenIn === 'each' ? '' : part.writtenIn}
            {part.waste === '0' ? null : <small className="quiet name">and {part.waste} % waste</small>}
          </TableCell>
        </TableRow>
      ))}
    </TableBody>
  </Table>
);
