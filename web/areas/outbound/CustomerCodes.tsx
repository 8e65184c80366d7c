import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { customerCodes } from '@larder/contract/prices';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useFieldArray } from 'react-hook-form';
import { useForm } from '../../kit/form';
import { fieldsOf, ReadOnly } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { useVersionOf } from '../../kit/row';
import { Card, Stack } from '../../kit/layout';
import { Refused, Waiting } from '../../kit/states';
import { LineEntry } from '../../shared/LineEntry';
import { useMay } from '../../shared/may';
import { useSay } from '../../shared/say';
import { useCustomerCodesQuery, useKeepCustomerCodesMutation } from './api';

type CodesForm = ResponseOf<typeof customerCodes>;
const { Cell } = fieldsOf<CodesForm>();

/** What a customer calls our items: their orders can be typed by these. */
export function CustomerCodes({ customerId, name }: { customerId: number; name: string }) {
  const { data, error } = useCustomerCodesQuery({ params: { id: customerId } });
  return data ? <CodesSheet customerId={customerId} name={name} came={data} /> : <Waiting error={error} />;
}

function CodesSheet({ customerId, name, came }: { customerId: number; name: string; came: CodesForm }) {
  const mayEdit = useMay('items.edit', null);
  const say = useSay();
  const [keep] = useKeepCustomerCodesMutation();
  const version = useVersionOf(came);
  const form = useForm({
    came,
    version,
    rowKeys: { rows: ({ itemId, code }) => `${itemId} ${code}` },
    body: ({ rows }: CodesForm) => ({ rows: rows.map(({ itemId, code }) => ({ itemId, code: code.trim() })) }),
    checkedBy: async () => (await import('@larder/contract/prices')).keepCustomerCodes.body,
  });
  const { fields, append, remove } = useFieldArray({ control: form.control, name: 'rows' });
  const save = async () => {
    const kept = await form.send(async (body, typed) => {
      const result = await keep({ params: { id: customerId }, body });
      if (result.data) form.kept(typed, version);
      return result;
    });
    if (kept) say({ text: `What ${name} calls our items is kept.` });
  };
  return (
    <FormFrame form={form} save={() => mayEdit && void save()}>
      <ReadOnly value={!mayEdit}>
        <Card aria-label="Their codes">
          <h2>
            Their codes<span>what they call our items: an order can be typed, scanned or pasted by these</span>
          </h2>
          <Refused error={form.refused} />
          <Table aria-label="Their codes">
            <TableHead>
              <TableRow>
                <TableCell>Item</TableCell>
                <TableCell>Name</TableCell>
                <TableCell>Their code</TableCell>
                <TableCell />
              </TableRow>
            </TableHead>
            <TableBody>
              {fields.map(({ id, sku, name: itemName }, index) => (
                <TableRow key={id}>
                  <TableCell>
                    <span className="code strong">{sku}</span>
                  </TableCell>
                  <TableCell>{itemName}</TableCell>
                  <TableCell>
                    <Cell label={`Their code of ${sku}`} name={`rows.${index}.code`} />
                  </TableCell>
                  <TableCell>
                    {mayEdit ? (
                      <Button size="small" aria-label={`Remove code ${index + 1}`} onClick={() => remove(index)}>
                        Remove
                      </Button>
                    ) : null}
                  </TableCell>
                </TableRow>
              ))}
              {fields.length === 0 ? (
                <TableRow>
                  <TableCell colSpan={4} className="quiet">
                    No code of theirs yet.
                  </TableCell>
                </TableRow>
              ) : null}
            </TableBody>
          </Table>
          {mayEdit ? (
            <Stack pad>
              <LineEntry
                label="Item they have a code for"
                takesScans={false}
                add={({ id, sku, name: itemName }) => append({ itemId: id, sku, name: itemName, code: '' }, { focusName: `rows.${fields.length}.code` })}
              />
              <span>
                <Button variant="contained" disabled={!form.isTyped || form.isBusy} onClick={() => void save()}>
                  Keep these codes
                </Button>
              </span>
            </Stack>
          ) : null}
        </Card>
      </ReadOnly>
    </FormFrame>
  );
}
