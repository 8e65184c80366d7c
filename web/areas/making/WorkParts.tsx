import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useFieldArray, useFormContext, useWatch } from 'react-hook-form';
import { fieldsOf } from '../../kit/formFields';
import { quantity } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card } from '../../kit/layout';
import { LineEntry } from '../../shared/LineEntry';
import { newPart, type Proposal, type WorkDraft } from './workForm';

const { Cell } = fieldsOf<WorkDraft>();

/** The parts of an order while they are typed. */
export function WorkParts() {
  const { control } = useFormContext<WorkDraft>();
  const { fields, append, remove } = useFieldArray({ control, name: 'components' });
  const rows = useWatch({ control, name: 'components' }) ?? [];
  return (
    <Card component="div" sheet>
      <Table aria-label="What goes in">
        <TableHead>
          <TableRow>
            <TableCell>What goes in</TableCell>
            <TableCell align="right">For all of it</TableCell>
            <TableCell align="right">Taken</TableCell>
            <TableCell>Note</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {fields.map(({ id }, index) => {
            const row = rows[index];
            if (!row) return null;
            return (
              <TableRow key={id}>
                <ItemCell of={row} />
                <TableCell align="right">
                  <Cell number label={`Quantity of ${row.sku}`} name={`components.${index}.quantity`} />
                </TableCell>
                <TableCell align="right" className="quiet">
                  {quantity(row.taken, true)}
                </TableCell>
                <TableCell>
                  <Cell label={`Note on ${row.sku}`} name={`components.${index}.note`} width="100%" />
                </TableCell>
                <TableCell align="right">
                  <Button size="small" aria-label={`Remove ${row.sku}`} disabled={Number(row.taken) > 0} onClick={() => remove(index)}>
                    Remove
                  </Button>
                </TableCell>
              </TableRow>
            );
          })}
          <TableRow>
            <TableCell colSpan={5}>
              <LineEntry isNewLine takesScans={false} add={(item, many) => append(newPart(item, many || '1'), { shouldFocus: false })} />
            </TableCell>
          </TableRow>
        </TableBody>
      </Table>
    </Card>
  );
}

/** The parts as the bill in use says, with what is free of them. */
export const ProposedParts = ({ of }: { of: Proposal }) => (
  <Card component="div">
    <Table aria-label="What goes in, by the bill">
      <TableHead>
        <TableRow>
          <TableCell>What goes in, by bill {of.bill}</TableCell>
          <TableCell align="right">To take</TableCell>
          <TableCell align="right">Free</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {of.components.map((part) => (
          <TableRow key={part.itemId}>
            <ItemCell of={part} />
            <TableCell align="right">{quantity(part.quantity)}</TableCell>
            <TableCell align="right" className={Number(part.free) < Number(part.quantity) ? 'late' : 'quiet'}>
              {quantity(part.free)}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  </Card>
);
