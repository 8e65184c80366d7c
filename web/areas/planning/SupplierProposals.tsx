import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { CellCheck, Check } from '../../kit/Check';
import { CellField } from '../../kit/CellField';
import { Link } from 'react-router';
import { decimal, sum } from '@larder/core/decimal';
import type { TopUpRow } from '@larder/contract/planning';
import { money, quantity } from '../../kit/format';
import { Jar } from '../../kit/Jar';

/** Tells proposals apart. */
export const keyOf = (row: TopUpRow) => `${row.itemId}/${row.siteId}`;

/** Under what a proposal stands: its supplier, or that it is made here. */
export const groupOf = ({ supplier, made }: TopUpRow): string => supplier ?? (made ? 'Made here' : 'No supplier');

interface SupplierProposalsProps {
  name: string;
  mayChoose: (row: TopUpRow) => boolean;
  group: readonly TopUpRow[];
  chosen: ReadonlySet<string>;
  toggle: (keys: string[], on: boolean) => void;
  many: (row: TopUpRow) => string;
  type: (row: TopUpRow, quantity: string) => void;
}

/** What is proposed to be ordered from one supplier, or to be made. */
export function SupplierProposals({ name, mayChoose, group, chosen, toggle, many, type }: SupplierProposalsProps) {
  const keys = group.map(keyOf);
  return (
    <Card aria-label={name}>
      <h2>
        <Check
          label={name === 'No supplier' ? 'No supplier yet: give the item one first' : name}
          disabled={!group.some(mayChoose)}
          checked={keys.every((key) => chosen.has(key))}
          onChange={(checked) => toggle(keys, checked)}
        />
        {group.some(({ amount }) => amount) ? <span>{money(sum(group.map((row) => decimal(row.amount || 0))).toFixed(2))}</span> : null}
      </h2>
      <Table>
        <TableBody>
          {group.map((row) => (
            <TableRow key={keyOf(row)}>
              <TableCell sx={{ width: 36 }}>
                <CellCheck
                  disabled={!mayChoose(row)}
                  label={`Choose ${row.sku} for ${row.site}`}
                  checked={chosen.has(keyOf(row))}
                  onChange={(checked) => toggle([keyOf(row)], checked)}
                />
              </TableCell>
              <TableCell className="wide-only" sx={{ width: 40 }}>
                <Jar free={row.free} reorderPoint={row.reorderPoint} orderUpTo={row.orderUpTo} size={26} />
              </TableCell>
              <TableCell sx={{ minWidth: 150 }}>
                <Link to={`/items/${row.itemId}`}>
                  <span className="code">{row.sku}</span> {row.name}
                </Link>
                <Box component="small" className="quiet" sx={{ display: 'block' }}>
                  {row.site}: {arithmetic(row)}
                </Box>
              </TableCell>
              <TableCell align="right">
                <CellField number label={`Order of ${row.sku} for ${row.site}`} value={many(row)} onChange={(typed) => type(row, typed)} />
              </TableCell>
              <TableCell className="wide-only" align="right" sx={{ width: 100 }}>
                {row.amount === null ? '' : money(row.amount)}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}

/** The proposal in one line of arithmetic. */
function arithmetic(row: TopUpRow): string {
  const now = `${quantity(row.free)} free + ${quantity(row.onOrder)} on order${Number(row.coming) > 0 ? ` + ${quantity(row.coming)} from other sites` : ''} − ${quantity(row.short)} short = ${quantity(row.position)}, reorder at ${quantity(row.reorderPoint)}`;
  const missing = decimal(row.orderUpTo).minus(row.position).toFixed();
  const packs = decimal(row.propose).eq(missing) ? '' : `, ${quantity(row.propose)} in packs of ${quantity(row.packSize)}`;
  return `${now}; up to ${quantity(row.orderUpTo)} takes ${quantity(missing)}${packs}`;
}
