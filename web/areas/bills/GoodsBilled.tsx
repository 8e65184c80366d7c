import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { useState } from 'react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { amount, count, price, quantity } from '../../kit/format';
import { fieldsOf } from '../../kit/formFields';
import { LineSaid } from './LineSaid';
import { sentBack, type GoodsDraft, type GoodsRow } from './billDraft';
import type { WorkedOf } from './BillLines';
import { ItemCell } from '../../kit/ItemCell';

interface WithGoods {
  goods: GoodsRow[];
}
const { Cell } = fieldsOf<WithGoods>();

interface GoodsBilledProps {
  kind: 'bill' | 'credit';
  goods: readonly GoodsDraft[];
  workedOf: WorkedOf;
}

/** Nothing of it has come that is not billed, and nothing is typed for it. */
const isToCome = ({ line, quantity: typed }: GoodsDraft): boolean => typed.trim() === '' && Number(line.received) <= Number(line.billed);

/** Goods that were ordered, and what is billed or taken off of each. */
export function GoodsBilled({ kind, goods, workedOf }: GoodsBilledProps) {
  const { control } = useFormContext<WithGoods>();
  const { fields } = useFieldArray({ control, name: 'goods' });
  // A row goes by what it is of: it stays the same one when the list is read again.
  const rows = fields.flatMap(({ purchaseLineId }) => goods.filter(({ line }) => line.purchaseLineId === purchaseLineId));
  const [all, setAll] = useState(false);
  const byQuantity = (one: GoodsDraft) => kind === 'bill' || sentBack(one.line) !== '';
  const toCome = goods.filter(isToCome).length;
  if (goods.length === 0) return null;
  return (
    <Card sheet aria-label="Goods">
      <Table aria-label="Goods billed">
        <TableHead>
          <TableRow>
            <TableCell>Order</TableCell>
            <TableCell>Goods</TableCell>
            <TableCell align="right">Ordered</TableCell>
            <TableCell align="right">Received</TableCell>
            <TableCell align="right">Billed before</TableCell>
            <TableCell align="right">{kind === 'bill' ? 'Billed now' : 'Sent back, or amount off'}</TableCell>
            <TableCell align="right">Price</TableCell>
            <TableCell align="right">Amount</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((one) => (
            <TableRow key={one.line.purchaseLineId} hidden={!all && isToCome(one)}>
              <TableCell className="code quiet">{one.line.orderNumber}</TableCell>
              <ItemCell of={one.line}>
                <LineSaid>{workedOf(`goods.${one.at}`)?.words}</LineSaid>
              </ItemCell>
              <TableCell className="quiet" align="right">
                {quantity(one.line.ordered)}
              </TableCell>
              <TableCell align="right">
                {quantity(one.line.received, true)}
                {one.line.returned === '0' ? null : <small className="quiet name">{quantity(one.line.returned)} went back</small>}
              </TableCell>
              <TableCell className="quiet" align="right">
                {quantity(one.line.billed, true)}
              </TableCell>
              <TableCell align="right">
                <Cell
                  number
                  label={`${kind === 'bill' ? 'Billed now' : 'Taken off'}, ${one.line.orderNumber} ${one.line.sku}`}
                  name={`goods.${one.at}.quantity`}
                  proposed={one.quantity}
                />
              </TableCell>
              {byQuantity(one) ? (
                <TableCell align="right">
                  <Cell number label={`Price, ${one.line.orderNumber} ${one.line.sku}`} name={`goods.${one.at}.price`} proposed={one.price} />
                  <small className="quiet name">
                    {one.line.pricePer === '1' ? '' : `for ${quantity(one.line.pricePer)}, `}
                    {one.line.factor === '1' ? '' : `a ${one.line.unit}, `}ordered at {price(one.line.price)} {one.line.currency}
                  </small>
                </TableCell>
              ) : (
                <TableCell />
              )}
              <TableCell align="right">{byQuantity(one) ? amount(workedOf(`goods.${one.at}`)?.amount ?? '') : one.quantity}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {toCome > 0 && !all ? (
        <p className="pad">
          <Button size="small" onClick={() => setAll(true)}>
            Show {count(toCome, 'line')} that {toCome === 1 ? 'has' : 'have'} not come yet
          </Button>
        </p>
      ) : null}
    </Card>
  );
}
