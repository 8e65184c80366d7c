import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { fieldsOf } from '../../kit/formFields';
import { price, quantity } from '../../kit/format';
import { Card, Stack } from '../../kit/layout';
import { useExpenses } from '../../shared/accounts';
import { proposedCharge, type RecordDraft } from './recordForm';

const { Cell, CellChoice } = fieldsOf<RecordDraft>();
const perWords = { hour: 'hours', piece: 'pieces' } as const;

/** Hours and other costs of the work that is recorded: proposed as the order says. */
export function RecordCharges({ typed }: { typed: RecordDraft }) {
  const { control } = useFormContext<RecordDraft>();
  const { fields, append, remove } = useFieldArray({ control, name: 'charges' });
  const expenses = useExpenses();
  return (
    <Card aria-label="Hours and other costs">
      {fields.length === 0 ? null : (
        <Table aria-label="Hours and other costs" className="floor">
          <TableBody>
            {fields.map(({ id }, index) => {
              const row = typed.charges[index];
              const isNew = row?.planned === '0';
              return (
                <TableRow key={id}>
                  <TableCell>
                    {isNew ? (
                      <Cell tall width="100%" label={`Cost ${index + 1}`} name={`charges.${index}.name`} placeholder="Joiner, saw, painting…" />
                    ) : (
                      row?.name
                    )}
                    {row && !isNew ? (
                      <small className="quiet name">
                        {quantity(row.planned)} {perWords[row.per]} planned{Number(row.charged) > 0 ? `, ${quantity(row.charged)} recorded` : ''}
                      </small>
                    ) : null}
                  </TableCell>
                  <TableCell align="right" className="under">
                    <Cell
                      number
                      tall
                      label={`How many ${row ? perWords[row.per] : 'hours'} of ${row?.name || `cost ${index + 1}`}`}
                      name={`charges.${index}.quantity`}
                      proposed={row ? proposedCharge(typed, index) : ''}
                    />
                  </TableCell>
                  <TableCell className="under">
                    {isNew ? (
                      <CellChoice
                        tall
                        label={`Cost ${index + 1} by the`}
                        name={`charges.${index}.per`}
                        options={[
                          { value: 'hour', label: 'hours' },
                          { value: 'piece', label: 'pieces' },
                        ]}
                      />
                    ) : (
                      <span className="quiet">{row ? perWords[row.per] : ''}</span>
                    )}
                  </TableCell>
                  <TableCell className={isNew ? 'under' : 'wide-only'}>
                    {isNew ? (
                      <>
                        <Cell number tall label={`Rate of cost ${index + 1}`} name={`charges.${index}.rate`} />{' '}
                        <CellChoice
                          tall
                          label={`Account of cost ${index + 1}`}
                          name={`charges.${index}.accountId`}
                          ids
                          none="Choose an account"
                          options={expenses}
                        />{' '}
                        <Button size="small" aria-label={`Remove cost ${index + 1}`} onClick={() => remove(index)}>
                          Remove
                        </Button>
                      </>
                    ) : row?.rate ? (
                      <span className="quiet">at {price(row.rate)}</span>
                    ) : null}
                  </TableCell>
                </TableRow>
              );
            })}
          </TableBody>
        </Table>
      )}
      {expenses.length === 0 ? null : (
        <Stack pad>
          <span>
            <Button
              size="small"
              onClick={() =>
                append(
                  { name: '', per: 'hour', planned: '0', charged: '0', quantity: '', rate: '', accountId: null },
                  { focusName: `charges.${fields.length}.name` },
                )
              }
            >
              Add a cost
            </Button>
          </span>
        </Stack>
      )}
    </Card>
  );
}
