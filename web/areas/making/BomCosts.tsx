import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { workUnits } from '@larder/contract/making';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { fieldsOf, useReadOnly } from '../../kit/formFields';
import { Card, Stack } from '../../kit/layout';
import { useExpenses } from '../../shared/accounts';
import { newCost } from './bomForm';

/** What a form has that lists costs. */
interface Costly {
  costs: { name: string; per: 'hour' | 'piece'; quantity: string; rate: string; accountId: number | null }[];
}
const { Cell, CellChoice } = fieldsOf<Costly>();
const perWords = { hour: 'hours', piece: 'pieces' } as const;

/** Labour, machines and work outside: hours or pieces at a rate, taken from an account. */
export function BomCosts() {
  const { control } = useFormContext<Costly>();
  const { fields, append, remove } = useFieldArray({ control, name: 'costs' });
  const expenses = useExpenses();
  const isRead = useReadOnly();
  if (isRead && fields.length === 0) return null;
  return (
    <Card aria-label="Other costs">
      <h2>
        Other costs<span>labour, machines, work outside</span>
      </h2>
      {fields.length === 0 ? null : (
        <Table aria-label="Other costs">
          <TableHead>
            <TableRow>
              <TableCell>What</TableCell>
              <TableCell align="right">How many</TableCell>
              <TableCell>By the</TableCell>
              <TableCell align="right">For one</TableCell>
              <TableCell>Taken from</TableCell>
              <TableCell />
            </TableRow>
          </TableHead>
          <TableBody>
            {fields.map(({ id }, index) => (
              <TableRow key={id}>
                <TableCell>
                  <Cell width="100%" label={`Cost ${index + 1}`} name={`costs.${index}.name`} placeholder="Joiner, saw, painting…" />
                </TableCell>
                <TableCell align="right">
                  <Cell number label={`How many of cost ${index + 1}`} name={`costs.${index}.quantity`} />
                </TableCell>
                <TableCell>
                  <CellChoice
                    label={`Cost ${index + 1} by the`}
                    name={`costs.${index}.per`}
                    options={workUnits.map((unit) => ({ value: unit, label: perWords[unit] }))}
                  />
                </TableCell>
                <TableCell align="right">
                  <Cell number label={`Rate of cost ${index + 1}`} name={`costs.${index}.rate`} />
                </TableCell>
                <TableCell>
                  <CellChoice label={`Account of cost ${index + 1}`} name={`costs.${index}.accountId`} ids none="Choose an account" options={expenses} />
                </TableCell>
                <TableCell align="right">
                  {isRead ? null : (
                    <Button size="small" aria-label={`Remove cost ${index + 1}`} onClick={() => remove(index)}>
                      Remove
                    </Button>
                  )}
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
      {isRead ? null : (
        <Stack pad>
          <span>
            <Button size="small" onClick={() => append(newCost(null), { focusName: `costs.${fields.length}.name` })}>
              Add a cost
            </Button>
          </span>
        </Stack>
      )}
    </Card>
  );
}
