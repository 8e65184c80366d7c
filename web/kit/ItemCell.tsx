import TableCell from '@mui/material/TableCell';
import type { ReactNode } from 'react';

interface ItemCellProps {
  of: { sku: string; name: string };
  /** What else is said of it, below. */
  children?: ReactNode;
}

/** What an item is called, in a table. */
export const ItemCell = ({ of: { sku, name }, children }: ItemCellProps) => (
  <TableCell>
    <span className="code">{sku}</span>
    <span className="name">{name}</span>
    {children}
  </TableCell>
);
