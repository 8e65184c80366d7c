import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { DayField } from '../../kit/DayField';
import { Field } from '../../kit/Field';
import { price, quantity } from '../../kit/format';

/** What is typed on the lines of an order, by line. */
export interface AmendTyped {
  days: Record<number, string | null>;
  off: Record<number, string>;
  prices: Record<number, string>;
}

interface AmendLinesProps {
  order: PurchaseOrder;
  today: string;
  typed: AmendTyped;
  put: (part: Partial<AmendTyped>) => void;
  at: (field: string) => string | undefined;
}

/** The lines of an order as placed: what is called off of each, at which other price and for which other day it comes. */
export function AmendLines({ order, today, typed, put, at }: AmendLinesProps) {
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
          {order.lines.map((line, index) => (
            <TableRow key={line.id}>
              <TableCell className="quiet">{line.position}</TableCell>
              <TableCell>
                <span className="code">{line.sku}</span>
                <span className="name">{line.name}</span>
              </TableCell>
              <TableCell align="right">
                {quantity(line.outstanding)} of {quantity(line.baseQuantity)}
              </TableCell>
              <TableCell sx={{ width: 150 }}>
                <Field
                  label={`No longer wanted of ${line.sku}`}
                  hideLabel
                  value={typed.off[line.id] ?? ''}
                  onChange={(value) => put({ off: { ...typed.off, [line.id]: value } })}
                  error={at(`lines.${index}.callOff`)}
                  disabled={Number(line.outstanding) === 0}
                />
              </TableCell>
              <TableCell sx={{ width: 120 }}>
                <Field
                  label={`Another price of ${line.sku}`}
                  hideLabel
                  placeholder={`${price(line.price)}${line.pricePer === '1' ? '' : ` for ${quantity(line.pricePer)}`}`}
                  value={typed.prices[line.id] ?? ''}
                  onChange={(value) => put({ prices: { ...typed.prices, [line.id]: value } })}
                  error={at(`lines.${index}.price`)}
                  disabled={Number(line.outstanding) === 0}
                />
              </TableCell>
              <TableCell sx={{ width: 190 }}>
                <DayField
                  label={`Expected day of ${line.sku}`}
                  hideLabel
                  value={typed.days[line.id] === undefined ? line.expectedOn : (typed.days[line.id] ?? null)}
                  today={today}
                  onChange={(day) => put({ days: { ...typed.days, [line.id]: day } })}
                  disabled={Number(line.outstanding) === 0}
                />
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
