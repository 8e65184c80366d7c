import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import type { WorkedSheet } from './sheetDraft';
import type { LandedLine } from '@larder/contract/landed';
import { sum } from '@larder/core/decimal';
import { money } from '../../kit/format';
import { type ChargeDraft } from './sheetDraft';

interface SheetTotalsProps {
  lines: readonly LandedLine[];
  charges: readonly ChargeDraft[];
  worked: WorkedSheet;
}

/** What a worksheet comes to: goods, and charges by who bills them. */
export function SheetTotals({ lines, charges, worked }: SheetTotalsProps) {
  const suppliers = [...new Set(lines.map(({ supplier }) => supplier))];
  const ofSupplier = sum(worked.estimates.filter((_, index) => suppliers.includes(charges[index]?.party?.name ?? '')));
  const ofOthers = sum(worked.estimates).minus(ofSupplier);
  return (
    <Card aria-label="Totals">
      <h2>Totals</h2>
      <Table size="small" sx={{ margin: '8px 0' }}>
        <TableBody>
          {(
            [
              ['The supplier bills for goods', worked.goods],
              ['The supplier bills for charges', ofSupplier],
              ['Others bill later', ofOthers],
              ['Landed', worked.total],
            ] as const
          ).map(([name, amount]) => (
            <TableRow key={name}>
              <TableCell>{name}</TableCell>
              <TableCell align="right">{money(amount.toFixed(2))}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
