import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { ItemStock } from '@larder/contract/stock';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { due, quantity } from '../../kit/format';
import { documentAddress, forWhom } from '../../kit/DocumentLink';
import { Card } from '../../kit/layout';

/** Most orders that are listed; the lists of orders have them all. */
const most = 8;

/** What is on order of an item, earliest first. */
export function WhatComes({ stock }: { stock: ItemStock }) {
  const coming = stock.expected.filter(({ quantity: many }) => Number(many) > 0);
  return (
    <Waits name="What comes" none="Nothing is on order." many={coming.length}>
      {coming.slice(0, most).map((one) => (
        <TableRow key={`${one.document} ${one.day}`}>
          <TableCell>
            <Link className="strong" to={documentAddress(one.kind, one.id)}>
              {one.document}
            </Link>
            <small className="quiet name">{quantity(one.quantity)} come</small>
          </TableCell>
          <TableCell align="right" className={one.day < stock.today ? 'late' : 'quiet'}>
            {due(one.day, stock.today)}
          </TableCell>
        </TableRow>
      ))}
    </Waits>
  );
}

/** Who waits for an item, and how much is held for them. */
export const WhatWants = ({ stock }: { stock: ItemStock }) => (
  <Waits name="What wants it" none="No order wants it." many={stock.reservedFor.length}>
    {stock.reservedFor.slice(0, most).map((one) => (
      <TableRow key={one.number}>
        <TableCell>
          <Link className="strong" to={documentAddress(one.kind, one.orderId)}>
            {one.number}
          </Link>{' '}
          {forWhom(one)}
          <small className="quiet name">
            {quantity(one.reserved)} reserved{Number(one.short) > 0 ? `, ${quantity(one.short)} short` : ''}
          </small>
        </TableCell>
        <TableCell align="right" className={one.shipBy < stock.today ? 'late' : 'quiet'}>
          {due(one.shipBy, stock.today)}
        </TableCell>
      </TableRow>
    ))}
  </Waits>
);

function Waits({ name, none, many, children }: { name: string; none: string; many: number; children: ReactNode }) {
  return (
    <Card aria-label={name}>
      <h2>{name}</h2>
      {many === 0 ? (
        <p className="pad quiet">{none}</p>
      ) : (
        <Table>
          <TableBody>
            {children}
            {many > most ? (
              <TableRow>
                <TableCell colSpan={2} className="quiet">
                  and {many - most} more
                </TableCell>
              </TableRow>
            ) : null}
          </TableBody>
        </Table>
      )}
    </Card>
  );
}
