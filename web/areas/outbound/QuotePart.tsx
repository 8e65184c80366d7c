import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogTitle from '@mui/material/DialogTitle';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { SalesOrder } from '@larder/contract/outbound';
import { useState } from 'react';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { quantity } from '../../kit/format';
import { Stack, Ways } from '../../kit/layout';
import { Refused } from '../../kit/states';
import { useSay } from '../../shared/say';
import { useConfirmSaleMutation, useSplitSaleMutation } from './api';
import { ItemCell } from '../../kit/ItemCell';

interface PartForm {
  lines: { lineId: number; quantity: string }[];
}
const { Cell } = fieldsOf<PartForm>();

/** Confirms a part of a quote; the rest stays a quote of its own. */
export function QuotePart({ order }: { order: SalesOrder }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Confirm a part</Button>
      {isOpen ? <PartDialog order={order} close={() => setOpen(false)} /> : null}
    </>
  );
}

function PartDialog({ order, close }: { order: SalesOrder; close: () => void }) {
  const [split] = useSplitSaleMutation();
  const [confirm] = useConfirmSaleMutation();
  const say = useSay();
  const form = useForm({
    came: { lines: order.lines.map(({ id, quantity: many }) => ({ lineId: id, quantity: many })) },
    body: ({ lines }: PartForm) => ({ version: order.version, lines: lines.map((line) => ({ ...line, quantity: line.quantity.trim() || '0' })) }),
    checkedBy: async () => (await import('@larder/contract/outbound')).splitSale.body,
  });
  const go = async () => {
    const parted = await form.send((body) => split({ params: { id: order.id }, body }));
    if (!parted) return;
    const { error } = await confirm({ params: { id: order.id }, body: { version: parted.order.version } });
    // What is asked before it is confirmed is asked on its page, which shows the part now.
    say({
      text: error
        ? `${order.number} has the part now; confirm it there. The rest is ${parted.rest.number}.`
        : `${order.number} is confirmed; the rest is ${parted.rest.number}.`,
      made: { to: `/outbound/orders/${parted.rest.id}`, name: parted.rest.number },
    });
    close();
  };
  return (
    <Dialog open onClose={close} maxWidth="md">
      <FormFrame form={form} save={() => void go()}>
        <Stack pad sx={{ minWidth: 520, maxWidth: '100%' }}>
          <DialogTitle>Confirm a part of {order.number}</DialogTitle>
          <p className="quiet">What is not confirmed becomes a quote of its own, at the same prices.</p>
          <Refused error={form.refused} />
          <Table aria-label="Part that is confirmed">
            <TableHead>
              <TableRow>
                <TableCell>Item</TableCell>
                <TableCell align="right">On the quote</TableCell>
                <TableCell align="right">Confirmed now</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {order.lines.map((line, index) => (
                <TableRow key={line.id}>
                  <ItemCell of={line} />
                  <TableCell align="right">
                    {quantity(line.quantity)} <span className="quiet">{line.unit === 'each' ? '' : line.unit}</span>
                  </TableCell>
                  <TableCell align="right">
                    <Cell number label={`Of ${line.sku} confirmed now`} name={`lines.${index}.quantity`} />
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
          <Ways>
            <Button onClick={close}>Leave it whole</Button>
            <Button variant="contained" disabled={form.isBusy} onClick={() => void go()}>
              Confirm this part
            </Button>
          </Ways>
        </Stack>
      </FormFrame>
    </Dialog>
  );
}
