import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { ApartOutcome } from '@larder/contract/takingApart';
import { money, price } from '../../kit/format';
import { Card } from '../../kit/layout';

/** Where what it had cost goes; nothing for whoever may not see what things cost. */
export function ApartCost({
  outcome,
}: {
  outcome: Pick<ApartOutcome, 'value' | 'lost'> & { parts: readonly { itemId: number; sku: string; value: string; unitCost: string }[] };
}) {
  if (outcome.value === '') return null;
  return (
    <Card aria-label="What it cost" aria-live="polite">
      <h2>What it cost</h2>
      <Table>
        <TableBody>
          {outcome.parts.map((part) => (
            <TableRow key={part.itemId}>
              <TableCell>
                <span className="code">{part.sku}</span>
              </TableCell>
              <TableCell align="right" className="quiet">
                {price(Number(part.unitCost).toFixed(2))} each
              </TableCell>
              <TableCell align="right">{money(part.value)}</TableCell>
            </TableRow>
          ))}
          {Number(outcome.lost) === 0 ? null : (
            <TableRow>
              <TableCell colSpan={2} className="late">
                Lost with what is missing
              </TableCell>
              <TableCell align="right" className="late">
                {money(outcome.lost)}
              </TableCell>
            </TableRow>
          )}
          <TableRow>
            <TableCell colSpan={2} className="strong">
              In all
            </TableCell>
            <TableCell align="right" className="strong">
              {money(outcome.value)}
            </TableCell>
          </TableRow>
        </TableBody>
      </Table>
    </Card>
  );
}
