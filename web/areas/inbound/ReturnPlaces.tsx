import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card, State } from '../../kit/layout';
import { CellField } from '../../kit/CellField';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { returnable } from '@larder/contract/receiving';
import { quantity } from '../../kit/format';

type Returnable = ResponseOf<typeof returnable>['rows'][number];
/** Goods of an order line where they lie. */
export interface ReturnPlace {
  row: Returnable;
  place: Returnable['places'][number];
  key: string;
}

interface ReturnPlacesProps {
  places: readonly ReturnPlace[];
  typed: Record<string, string>;
  type: (key: string, quantity: string) => void;
  faultOf: (key: string) => string | undefined;
}

/** Where goods of an order lie, and how many of them go back. */
export function ReturnPlaces({ places, typed, type, faultOf }: ReturnPlacesProps) {
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
          {places.map(({ row, place, key }) => {
            const fault = faultOf(key);
            return (
              <TableRow key={key}>
                <TableCell>
                  <span className="code">{row.sku}</span>
                  <span className="name">{row.name}</span>
                </TableCell>
                <TableCell>
                  <span className="code">{place.bin}</span>
                  {place.sellable ? null : <small className="late"> quarantine</small>}
                  {place.lot ? <small className="quiet name">{place.lot}</small> : null}
                </TableCell>
                <TableCell className="quiet" align="right">
                  {quantity(place.quantity)}
                </TableCell>
                <TableCell align="right">
                  <CellField
                    number
                    label={`Goes back, ${row.sku} from ${place.bin}${place.lot ? ` ${place.lot}` : ''}`}
                    value={typed[key] ?? ''}
                    onChange={(typed) => type(key, typed)}
                    error={fault}
                    tall
                  />
                </TableCell>
              </TableRow>
            );
          })}
        </TableBody>
      </Table>
      {places.length === 0 ? <State>Nothing of this order lies in a bin here any more.</State> : null}
    </Card>
  );
}
