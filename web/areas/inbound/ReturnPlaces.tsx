import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card, State } from '../../kit/layout';
import { fieldsOf } from '../../kit/formFields';
import { quantity } from '../../kit/format';
import { lineKey, type ReturnDraft, type ReturnLine } from './returnForm';
import { ItemCell } from '../../kit/ItemCell';

const { Cell } = fieldsOf<ReturnDraft>();

/** Where goods of an order lie, and how many of them go back. */
export function ReturnPlaces({ places }: { places: readonly ReturnLine[] }) {
  return (
    <Card sheet component="div">
      <Table aria-label="What can go back" className="floor">
        <TableHead>
          <TableRow>
            <TableCell>Goods</TableCell>
            <TableCell>Lies in</TableCell>
            <TableCell align="right">There</TableCell>
            <TableCell align="right">Goes back</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {places.map(({ row, place, quantity: many }, index) => (
            <TableRow key={lineKey({ row, place, quantity: many })}>
              <ItemCell of={row} />
              <TableCell>
                <span className="code">{place.bin}</span>
                {place.sellable ? null : <small className="late"> quarantine</small>}
                {place.lot ? <small className="quiet name">{place.lot}</small> : null}
              </TableCell>
              <TableCell className="quiet" align="right">
                {quantity(place.quantity)}
              </TableCell>
              <TableCell align="right">
                <Cell number label={`Goes back, ${row.sku} from ${place.bin}${place.lot ? ` ${place.lot}` : ''}`} name={`lines.${index}.quantity`} tall />
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {places.length === 0 ? <State>Nothing of this order lies in a bin here any more.</State> : null}
    </Card>
  );
}
