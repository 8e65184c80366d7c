import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { fieldsOf } from '../../kit/formFields';
import { price, quantity } from '../../kit/format';
import type { AmendForm } from './amendForm';
import { ItemCell } from '../../kit/ItemCell';

const { Day, Field } = fieldsOf<AmendForm>();

/** The lines of an order as placed: what is called off of each, at which other price and for which other day it comes. */
export function AmendLines({ order, today }: { order: PurchaseOrder; today: string }) {
  return (
    <Card sheet component="div">
      <Table aria-label="Lines as placed">
        <TableHead>
          <TableRow>
            <TableCell>Line</TableCell>
            <TableCell>Item</TableCell>
            <TableCell align="right">Still to come</TableCell>
            <TableCell>No longer wanted</TableCell>
            <TableCell>Another price</TableCell>
            <TableCell>Expected on another day</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {order.lines.map((line, index) => {
            const isDone = Number(line.outstanding) === 0;
            return (
              <TableRow key={line.id}>
                <TableCell className="quiet">{line.position}</TableCell>
                <ItemCell of={line} />
                <TableCell align="right">
                  {quantity(line.outstanding)} of {quantity(line.baseQuantity)}
                </TableCell>
                <TableCell sx={{ width: 150 }}>
                  <Field label={`No longer wanted of ${line.sku}`} hideLabel name={`lines.${index}.callOff`} disabled={isDone} />
                </TableCell>
                <TableCell sx={{ width: 120 }}>
                  <Field
                    label={`Another price of ${line.sku}`}
                    hideLabel
                    placeholder={`${price(line.price)}${line.pricePer === '1' ? '' : ` for ${quantity(line.pricePer)}`}`}
                    name={`lines.${index}.price`}
                    disabled={isDone}
                  />
                </TableCell>
                <TableCell sx={{ width: 190 }}>
                  <Day label={`Expected day of ${line.sku}`} hideLabel name={`lines.${index}.expectedOn`} today={today} disabled={isDone} />
                </TableCell>
              </TableRow>
            );
          })}
        </TableBody>
      </Table>
    </Card>
  );
}
